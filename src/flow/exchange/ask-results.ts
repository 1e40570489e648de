/** Asks a channel how far it is with a job, and fetches its reports. */
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { addAll } from "../../core/many.js";
import { sentLayoutOf } from "../../core/channel/definition.js";
import { referenceOf } from "../../core/listing/live-reference.js";
import type { Carrier, Progress } from "../../exchange/carrier.js";
import { askPatiently, type Patience } from "../../exchange/patience.js";
import type { Io } from "../../io/io.js";
import type { ChannelJobs, Job, JobFile, RowOutcome } from "../../store/jobs.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import { exchangeOf } from "./account.js";
import { jobFolder } from "./job-files.js";
import { factsOf } from "./plan-job.js";
import { sentReferences } from "./read-report.js";
import type { ReportOf } from "./take-report.js";

/** How far the channel is with one file of a job. */
export interface FileProgress {
  readonly file: JobFile;
  readonly progress: Progress;
}

/** What a channel answered when it was asked for a job. */
export interface ChannelAnswer {
  readonly progress: readonly FileProgress[];
  readonly reports: readonly ReportOf[];
  /** What is known of rows without a report. */
  readonly besides: readonly RowOutcome[];
}

/** Whether something of a job is still to be heard, or was heard and not noted before somebody was killed. */
export function isOpen({ files, accepted, refused, listings }: Job): boolean {
  return (
    files.some(({ state }) => state === "sent") ||
    (files.some(({ state }) => state === "answered" || state === "thrown out") &&
      accepted + refused < listings)
  );
}

/** What is said of every row of one file of a job alike. */
async function ofAllRows(
  { jobs, channel, workspace }: ResultsAsker,
  job: Job,
  file: JobFile,
  isAccepted: boolean,
  message: string,
): Promise<readonly RowOutcome[]> {
  const { definition, channel: name } = channel.setup;
  const path = join(jobFolder(workspace, name, job.number), file.name);
  const within =
    job.files.length === 1
      ? undefined
      : new Set((await sentReferences(path, definition, sentLayoutOf(definition))).values());
  const rows: RowOutcome[] = [];
  for await (const batch of jobs.entries(job.number))
    for (const { sku, listing } of batch)
      if (within === undefined || within.has(referenceOf(sku, listing, definition)))
        rows.push({ sku, isAccepted, message, id: "", code: "", field: "" });
  return rows;
}

/** What asking needs. */
export interface ResultsAsker {
  readonly workspace: Workspace;
  readonly jobs: ChannelJobs;
  readonly channel: WorkspaceChannel;
  readonly io: Io;
}

/** Rows of files that the channel did not want as a whole. */
export async function thrownOutRows(asker: ResultsAsker, job: Job): Promise<readonly RowOutcome[]> {
  const rows: RowOutcome[] = [];
  for (const file of job.files)
    if (file.state === "thrown out") addAll(rows, await ofAllRows(asker, job, file, false, file.because));
  return rows;
}

/** Asks a channel how far it is with a job, and fetches the reports that there are. Notes how far it is. */
export async function askResults(
  asker: ResultsAsker,
  carrier: Carrier,
  job: Job,
  patience: Patience,
  /** Whether a person wants to hear of what was answered, too. */
  isAgain = false,
): Promise<ChannelAnswer> {
  const { workspace, jobs, channel, io } = asker;
  const { definition, channel: name } = channel.setup;
  const exchange = exchangeOf(channel, "answers are fetched");
  const facts = factsOf(definition, job.purpose, job.number);
  const folder = jobFolder(workspace, name, job.number);
  const hasReports = exchange.report !== undefined && definition.results !== undefined;
  const [progress, reports, besides]: [FileProgress[], ReportOf[], RowOutcome[]] = [[], [], []];
  // Only when all have come once is it asked again what they left out.
  const isPartly =
    job.accepted + job.refused < job.listings && !job.files.some(({ state }) => state === "sent");
  await mkdir(folder, { recursive: true });
  if (isPartly) addAll(besides, await thrownOutRows(asker, job));
  for (const file of job.files) {
    if (file.state !== "sent" && !(file.state === "answered" && (isPartly || isAgain))) continue;
    const sent = { name: file.name, reference: file.reference, facts };
    const own = await askPatiently(() => carrier.progress(sent), patience);
    progress.push({ file, progress: own });
    const at = io.now().toISOString();
    if (own.kind === "reading") {
      const { percent } = own;
      if (percent !== undefined) await jobs.change(job.number, file.position, { at: file.at, percent });
      continue;
    }
    if (own.kind === "thrown out") {
      await jobs.change(job.number, file.position, { state: "thrown out", at, because: own.because });
      addAll(besides, await ofAllRows(asker, job, file, false, own.because));
    } else if (!hasReports) {
      // A channel without reports has what it took.
      await jobs.change(job.number, file.position, { state: "answered", at, percent: 100 });
      addAll(besides, await ofAllRows(asker, job, file, true, ""));
    } else {
      const path = join(folder, `${file.name}.report`);
      await askPatiently(() => carrier.report(sent, path), patience);
      reports.push({ position: file.position, path, sentPath: join(folder, file.name) });
    }
  }
  return { progress, reports, besides };
}
