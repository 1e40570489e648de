/** Notes what reports say: an answer is one act. */
import { sentLayoutOf } from "../../core/channel/definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import {
  mindedPiece,
  messagePattern,
  refusalOf,
  type KnownRefusal,
} from "../../core/listing/known-refusals.js";
import { referenceOf } from "../../core/listing/live-reference.js";
import { ownOf } from "../../core/own.js";
import { addAll } from "../../core/many.js";
import type { AnswerCounts, ChannelJobs, Job, RowOutcome } from "../../store/jobs.js";
import type { LedgerEntry } from "../../store/ledger.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { addRefusals } from "../../workspace/refusals-file.js";
import { REFUSALS_FILE } from "../../workspace/channel-files.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import { fieldMeant, reportRows, sentReferences, type ReportRow } from "./read-report.js";

/** A report on one file of a job, or on all of it where it came by hand. */
export interface ReportOf {
  readonly position: number | undefined;
  readonly path: string;
  /** The file as it was sent, for a report that knows rows by their numbers; undefined where it is not kept. */
  readonly sentPath: string | undefined;
}

/** What is told of a job's answer beside its counts. */
export interface ReportTaken extends AnswerCounts {
  /** Rows that speak of nothing that was sent, so many and the first of them. */
  readonly strangers: number;
  readonly firstStrangers: readonly string[];
  /** What the channel said for the first time. */
  readonly news: readonly KnownRefusal[];
}

const SHOWN_STRANGERS = 5;
/** A report that says more new things than this says them about each row: a person reads no more. */
const MOST_NEWS = 100;

/** How a job's rows are found by what the channel calls them; only names that are not the SKU itself are held. */
async function skusByReference(
  jobs: ChannelJobs,
  job: number,
  { setup }: WorkspaceChannel,
): Promise<(reference: string) => string | undefined> {
  const other = new Map<string, string>();
  const own = new Set<string>();
  for await (const batch of jobs.entries(job))
    for (const { sku, listing } of batch) {
      const reference = referenceOf(sku, listing, setup.definition);
      if (reference === sku) own.add(sku);
      else other.set(reference, sku);
    }
  return (reference) => other.get(reference) ?? (own.has(reference) ? reference : undefined);
}

/** Everything that reports say of a job's rows. Nothing is changed yet. */
export async function readAnswers(
  channel: WorkspaceChannel,
  jobs: ChannelJobs,
  job: Job,
  reports: readonly ReportOf[],
): Promise<{ readonly outcomes: readonly RowOutcome[]; readonly strangers: readonly string[] }> {
  const { definition } = channel.setup;
  const { results } = definition;
  if (results === undefined) throw new Error("a report is read by a definition that knows reports");
  const layout = sentLayoutOf(definition);
  const skuOf = await skusByReference(jobs, job.number, channel);
  const outcomes: RowOutcome[] = [];
  const strangers: string[] = [];
  for (const { path, sentPath } of reports) {
    let sent: ReadonlyMap<number, string> | undefined;
    const byRow = async ({ row }: ReportRow): Promise<string | undefined> => {
      if (row === undefined || sentPath === undefined) return undefined;
      sent ??= await sentReferences(sentPath, definition, layout);
      const reference = sent.get(row);
      return reference === undefined ? undefined : skuOf(reference);
    };
    for await (const batch of reportRows(path, results))
      for (const row of batch) {
        // A row's number is asked only where its reference says nothing: numbers shift, references do not.
        const sku = skuOf(row.reference) ?? (row.reference === "" ? await byRow(row) : undefined);
        if (sku === undefined) strangers.push(row.reference === "" ? `row ${row.row ?? "?"}` : row.reference);
        else outcomes.push({ ...row, sku, field: fieldMeant(row.field, definition, layout) });
      }
  }
  return { outcomes, strangers };
}

/** Refuses reports of which not a row is ours. */
function refuseForeign(job: Job, outcomes: readonly RowOutcome[], strangers: readonly string[]): void {
  const [first] = strangers;
  if (outcomes.length === 0 && first !== undefined)
    throw new Refusal([diagnostic("not-our-report", { rows: strangers.length, job: job.number, first })]);
}

async function sentValues(
  jobs: ChannelJobs,
  job: number,
  refused: readonly RowOutcome[],
): Promise<ReadonlyMap<string, LedgerEntry["listing"]["values"]>> {
  const wanted = new Set(refused.filter(({ field }) => field !== "").map(({ sku }) => sku));
  const found = new Map<string, LedgerEntry["listing"]["values"]>();
  if (wanted.size === 0) return found;
  for await (const batch of jobs.entries(job))
    for (const { sku, listing } of batch) if (wanted.has(sku)) found.set(sku, listing.values);
  return found;
}

/** What of refusals the channel says for the first time, as rows of the decision file. */
async function newRefusals(
  channel: WorkspaceChannel,
  jobs: ChannelJobs,
  job: number,
  outcomes: readonly RowOutcome[],
): Promise<readonly KnownRefusal[]> {
  const refused = outcomes.filter(({ isAccepted, message, code }) => !isAccepted && message + code !== "");
  const values = await sentValues(jobs, job, refused);
  const news: KnownRefusal[] = [];
  for (const { sku, code, message, field } of refused) {
    const value = ownOf(values.get(sku) ?? {}, field) ?? "";
    const contains = mindedPiece(message, value);
    const known = [...channel.setup.refusals, ...news].find(
      (one) =>
        refusalOf([one], { code, message }) !== undefined &&
        (contains === "" || one.contains === contains || one.means + one.act !== ""),
    );
    if (known !== undefined || news.length >= MOST_NEWS) continue;
    const pattern = messagePattern(message, sku);
    news.push({ code, message: pattern === "" ? "*" : pattern, field, contains, means: "", act: "" });
  }
  return news;
}

/** Notes what reports say of a job: what the channel has now, what it refused, what it said for the first time. */
export async function takeReports(
  { workspace, store, landing }: WritableCatalogue,
  channel: WorkspaceChannel,
  job: Job,
  reports: readonly ReportOf[],
  /** What is said of rows without a report: of files that were thrown out, or are taken without a word. */
  besides: readonly RowOutcome[],
  at: string,
): Promise<ReportTaken> {
  const { channel: name, definition } = channel.setup;
  const jobs = store.jobsOf(name);
  const read =
    reports.length === 0 ? { outcomes: [], strangers: [] } : await readAnswers(channel, jobs, job, reports);
  const outcomes: RowOutcome[] = [...read.outcomes];
  addAll(outcomes, besides);
  refuseForeign(job, outcomes, read.strangers);
  if (definition.results?.silenceMeans === "accepted")
    addAll(outcomes, await silentRows(jobs, job.number, outcomes));
  const news = await newRefusals(channel, jobs, job.number, read.outcomes);
  if (news.length > 0) await addRefusals(landing, workspace.path("channels", name, REFUSALS_FILE), news);
  let counts: AnswerCounts = { accepted: 0, refused: 0, takenBack: 0, revision: undefined };
  await landing.land((mark) =>
    store.together(mark, async () => {
      counts = await jobs.answer(job.number, at, outcomes);
      for (const { position } of reports)
        for (const file of job.files)
          if (position === undefined || file.position === position)
            await jobs.change(job.number, file.position, {
              state: "answered",
              at,
              percent: 100,
              because: "",
            });
    }),
  );
  return {
    ...counts,
    strangers: read.strangers.length,
    firstStrangers: read.strangers.slice(0, SHOWN_STRANGERS),
    news,
  };
}

async function silentRows(
  jobs: ChannelJobs,
  job: number,
  outcomes: readonly RowOutcome[],
): Promise<readonly RowOutcome[]> {
  const told = new Set(outcomes.map(({ sku }) => sku));
  const silent: RowOutcome[] = [];
  for await (const batch of jobs.entries(job))
    for (const { sku } of batch)
      if (!told.has(sku)) silent.push({ sku, isAccepted: true, id: "", code: "", message: "", field: "" });
  return silent;
}
