/** Sending and hearing as commands and `sync` need them: one works alone on a channel, plan, submit, results. */
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { ExchangeFault } from "../../exchange/carrier.js";
import { patienceOf } from "../../exchange/patience.js";
import type { Io } from "../../io/io.js";
import { KEPT_JOBS, type ChannelJobs, type Job, type RowOutcome } from "../../store/jobs.js";
import { workspaceRoot, type Workspace } from "../../workspace/workspace.js";
import type { NamedFolder } from "../../workspace/named-folder.js";
import type { Caller } from "../as-writer.js";
import { withCatalogue, withWritableCatalogue } from "../open-catalogue.js";
import { loadChannel } from "../run-channels.js";
import { addressOf, withCarrier } from "./account.js";
import { askResults, isOpen, thrownOutRows, type FileProgress } from "./ask-results.js";
import { tellSomeone } from "../tell-someone.js";
import { alone } from "./exchange-lock.js";
import { jobFolder } from "./job-files.js";
import { planJob, unfinished, type JobPlan, type SubmitWishes } from "./plan-job.js";
import { refusedRows, type RefusedRow } from "./refused-rows.js";
import { beginJob, sendJob, type Submitted, type SubmitWatch } from "./submit.js";
import { takeReports, type ReportOf, type ReportTaken } from "./take-report.js";

/** Who calls, in which workspace. */
export interface ExchangeCaller extends Caller {
  readonly workspace: NamedFolder;
}

/** A fault on the way, told with the channel that it was met at. */
export async function told<T>(channel: string, doing: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof ExchangeFault)) throw error;
    throw new Refusal([diagnostic("exchange-failed", { channel, doing, reason: error.message })], 3);
  }
}

/** Works as the only one that deals with a channel of the workspace. */
export function withChannelAlone<T>(
  { workspace }: ExchangeCaller,
  channel: string,
  io: Io,
  work: () => Promise<T>,
): Promise<T> {
  return alone(workspaceRoot(workspace, io.cwd), { channel, work: "exchange" }, io, work);
}

/** What would be sent where, and what of an earlier job still waits. */
export interface SubmitOutlook {
  readonly label: string;
  readonly address: string;
  readonly waiting: Job | undefined;
  /** Undefined where a job waits: that goes first. */
  readonly plan: JobPlan | undefined;
}

/** Says what a submit would do; changes nothing. */
export function outlookOf(
  caller: ExchangeCaller,
  name: string,
  wishes: SubmitWishes,
  io: Io,
): Promise<SubmitOutlook> {
  return withCatalogue(caller.workspace, io, async ({ workspace, store, surroundings }) => {
    const channel = await loadChannel(workspace, store, name, await surroundings());
    const jobs = store.jobsOf(name);
    const waiting = unfinished(await jobs.list());
    const plan =
      waiting === undefined
        ? await planJob(channel, workspace, store.ledgerOf(name), jobs, wishes)
        : undefined;
    return { label: channel.setup.definition.label, address: addressOf(channel), waiting, plan };
  });
}

/** How a person settles a file of which nobody knows whether it arrived. */
export type Settling =
  { readonly kind: "arrived"; readonly reference: string } | { readonly kind: "again" } | undefined;

async function settleUnclear(jobs: ChannelJobs, job: Job, settling: Settling, at: string): Promise<void> {
  if (settling === undefined) return;
  const file = job.files.find(({ state }) => state === "sending");
  if (file === undefined) return;
  const change =
    settling.kind === "again"
      ? ({ state: "waiting", at } as const)
      : ({ state: "sent", reference: settling.reference, at } as const);
  await jobs.change(job.number, file.position, change);
}

async function jobOf(jobs: ChannelJobs, number: number, channel: string): Promise<Job> {
  const found = (await jobs.list()).find((job) => job.number === number);
  if (found === undefined) throw new Refusal([diagnostic("no-job", { channel, job: String(number) })]);
  return found;
}

/** Sends a build, or what of an earlier sending was not done. */
export async function submitChannel(
  caller: ExchangeCaller,
  name: string,
  { settling, ...wishes }: SubmitWishes & { readonly settling?: Settling },
  io: Io,
  watch: SubmitWatch,
): Promise<Submitted> {
  // Secrets and addresses that will not do are found before anything is noted, and while nobody waits for the workspace.
  await withCatalogue(caller.workspace, io, async ({ workspace, store, surroundings }) => {
    const channel = await loadChannel(workspace, store, name, await surroundings());
    await told(name, "reaching it", () => withCarrier(channel, workspace, io, () => Promise.resolve()));
    return {};
  });
  const { job, isResumed } = await withWritableCatalogue(caller, io, async (open) => {
    const { workspace, store, surroundings } = open;
    const channel = await loadChannel(workspace, store, name, await surroundings());
    const jobs = store.jobsOf(name);
    const before = unfinished(await jobs.list());
    if (before !== undefined) {
      await settleUnclear(jobs, before, settling, io.now().toISOString());
      return { job: before.number, isResumed: true };
    }
    const plan = await planJob(channel, workspace, store.ledgerOf(name), jobs, wishes);
    return { job: await beginJob(open, channel, plan, wishes.isRepeated === true, io), isResumed: false };
  });
  const sent = await withCatalogue(caller.workspace, io, async ({ workspace, store, surroundings }) => {
    const channel = await loadChannel(workspace, store, name, await surroundings());
    const jobs = store.jobsOf(name);
    const files = await told(name, "sending", () =>
      withCarrier(channel, workspace, io, async (carrier) =>
        sendJob(
          { workspace, jobs, carrier, channel, patience: patienceOf(io), io, watch },
          await jobOf(jobs, job, name),
        ),
      ),
    );
    return { job: await jobOf(jobs, job, name), files, isResumed };
  });
  // What the channel did not want at all is refused, row by row.
  if (sent.job.files.some(({ state }) => state === "thrown out")) await noteThrownOut(caller, name, job, io);
  return sent;
}

const noteThrownOut = (caller: ExchangeCaller, name: string, number: number, io: Io): Promise<object> =>
  withWritableCatalogue(caller, io, async (open) => {
    const { workspace, store, surroundings } = open;
    const channel = await loadChannel(workspace, store, name, await surroundings());
    const jobs = store.jobsOf(name);
    const job = await jobOf(jobs, number, name);
    const rows = await thrownOutRows({ workspace, jobs, channel, io }, job);
    return takeReports(open, channel, job, [], rows, io.now().toISOString());
  });

/** What is known of one job after the channel was asked. */
export interface JobResults {
  readonly job: Job;
  /** Files that the channel is still at work on. */
  readonly reading: readonly FileProgress[];
  readonly taken: ReportTaken | undefined;
  readonly unanswered: readonly string[];
  /** Refused rows, one for each of the channel's reasons, with how many are alike. */
  readonly refused: readonly (RefusedRow & { readonly alike: number })[];
}

const MOST_REASONS = 20;
const SHOWN_UNANSWERED = 5;

/** One row for each reason of the channel's; the most frequent first. */
async function byReason(
  jobs: ChannelJobs,
  job: number,
): Promise<readonly (RowOutcome & { alike: number })[]> {
  const reasons = new Map<string, RowOutcome & { alike: number }>();
  for await (const batch of jobs.refused(job))
    for (const row of batch) {
      const key = JSON.stringify([row.code, row.field, row.code === "" ? row.message : ""]);
      const known = reasons.get(key);
      if (known === undefined) reasons.set(key, { ...row, alike: 1 });
      else known.alike++;
    }
  return [...reasons.values()].sort((a, b) => b.alike - a.alike).slice(0, MOST_REASONS);
}

/** Which answer is wanted. */
export interface ResultsWish {
  /** A report that a person has; undefined: the channel is asked. */
  readonly report: string | undefined;
  readonly job: number | undefined;
  /** Whether what was answered is asked for once more: channels think again. */
  readonly isAgain?: boolean;
}

function chosenJobs(all: readonly Job[], { job, report }: ResultsWish, channel: string): readonly Job[] {
  const numbered = all.filter(({ number }) => number === job);
  const found =
    job !== undefined
      ? numbered
      : report === undefined
        ? all.slice(0, KEPT_JOBS).filter(isOpen)
        : all.filter(isOpen).slice(0, 1);
  const [last] = all;
  if (found.length > 0) return [...found].sort((a, b) => a.number - b.number);
  if (job === undefined && last !== undefined) return [last];
  throw new Refusal([diagnostic("no-job", { channel, job: job === undefined ? "" : String(job) })]);
}

/** The file that a report without a name is of, where there is just one. */
const onlyFile = (workspace: Workspace, { channel, number, files }: Job): string | undefined =>
  files.length === 1 ? join(jobFolder(workspace, channel, number), files[0]?.name ?? "") : undefined;

/** Asks a channel what became of what was sent, or reads a report that a person has, and notes it. */
export async function resultsOfChannel(
  caller: ExchangeCaller,
  name: string,
  wish: ResultsWish,
  io: Io,
): Promise<readonly JobResults[]> {
  const asked = await withCatalogue(caller.workspace, io, async ({ workspace, store, surroundings }) => {
    const channel = await loadChannel(workspace, store, name, await surroundings());
    const jobs = store.jobsOf(name);
    const own = chosenJobs(await jobs.list(), wish, name);
    const answers: {
      job: Job;
      progress: readonly FileProgress[];
      reports: readonly ReportOf[];
      besides: readonly RowOutcome[];
    }[] = [];
    const { report } = wish;
    if (report !== undefined)
      for (const job of own)
        answers.push({
          job,
          progress: [],
          reports: [{ position: undefined, path: report, sentPath: onlyFile(workspace, job) }],
          besides: [],
        });
    else
      await told(name, "asking for results", () =>
        withCarrier(channel, workspace, io, async (carrier) => {
          for (const job of own)
            answers.push({
              job,
              ...(await askResults(
                { workspace, jobs, channel, io },
                carrier,
                job,
                patienceOf(io),
                wish.isAgain,
              )),
            });
        }),
      );
    return answers;
  });
  const results: JobResults[] = [];
  for (const { job, progress, reports, besides } of asked) {
    const isNews = reports.length > 0 || besides.length > 0;
    const taken = isNews
      ? await withWritableCatalogue(caller, io, async (open) => {
          const channel = await loadChannel(open.workspace, open.store, name, await open.surroundings());
          return takeReports(open, channel, job, reports, besides, io.now().toISOString());
        })
      : undefined;
    const shown = await withCatalogue(caller.workspace, io, async (open) => {
      const known = await open.surroundings();
      const channel = await loadChannel(open.workspace, open.store, name, known);
      const jobs = open.store.jobsOf(name);
      const reasons = await byReason(jobs, job.number);
      const rows = await refusedRows(reasons, channel, { store: open.store, jobs, surroundings: known });
      const result: JobResults = {
        taken,
        job: await jobOf(jobs, job.number, name),
        refused: rows.map((row, at) => ({ ...row, alike: reasons[at]?.alike ?? 1 })),
        unanswered: isNews ? await jobs.unanswered(job.number, SHOWN_UNANSWERED) : [],
        reading: progress.filter((one) => one.progress.kind === "reading"),
      };
      if (taken !== undefined) await tellOf(open.workspace, result, reports[0]?.path, io);
      return result;
    });
    results.push(shown);
  }
  return results;
}

/** Tells whoever wants to know how a job ended. */
async function tellOf(
  workspace: Workspace,
  { job, refused, reading }: JobResults,
  report: string | undefined,
  io: Io,
): Promise<void> {
  if (reading.length > 0) return;
  const counts = { listings: job.listings, accepted: job.accepted, refused: job.refused };
  const causes = refused.map(
    ({ sku, alike, code, message }) =>
      `${alike} × ${[code, message].filter(Boolean).join(" ")}, such as ${sku}`,
  );
  await tellSomeone(
    workspace,
    {
      occasion: job.refused > 0 ? "job-refused" : "job-ended",
      channel: job.channel,
      says: `job ${job.number} (${job.purpose}): ${job.accepted} of ${job.listings} accepted, ${job.refused} refused`,
      counts,
      causes,
      report,
    },
    io,
  );
}

/** What was heard of a job in one answer after the other. */
function hear(heard: Map<number, ReportTaken>, job: number, taken: ReportTaken): void {
  const before = heard.get(job);
  heard.set(
    job,
    before === undefined
      ? taken
      : {
          ...taken,
          takenBack: before.takenBack + taken.takenBack,
          revision: taken.revision ?? before.revision,
          strangers: Math.max(before.strangers, taken.strangers),
          firstStrangers: [...new Set([...before.firstStrangers, ...taken.firstStrangers])].slice(0, 5),
          news: [...before.news, ...taken.news],
        },
  );
}

const FIRST_ASK_MILLISECONDS = 300;
const LONGEST_ASK_MILLISECONDS = 15_000;

/** Asks again and again until the channel has done with what was sent, or patience ends. */
export async function awaitResults(
  caller: ExchangeCaller,
  name: string,
  { minutes, ...wish }: ResultsWish & { readonly minutes: number },
  io: Io,
  watch: (reading: readonly FileProgress[]) => void,
): Promise<readonly JobResults[]> {
  const begun = performance.now();
  const heard = new Map<number, ReportTaken>();
  for (let wait = FIRST_ASK_MILLISECONDS; ; wait = Math.min(LONGEST_ASK_MILLISECONDS, wait * 1.6)) {
    const results = await resultsOfChannel(caller, name, wish, io);
    const reading = results.flatMap((one) => one.reading);
    for (const { job, taken } of results) if (taken !== undefined) hear(heard, job.number, taken);
    if (reading.length === 0 || performance.now() - begun > minutes * 60_000)
      return results.map((one) => ({ ...one, taken: heard.get(one.job.number) ?? one.taken }));
    watch(reading);
    await pause(wait);
  }
}
