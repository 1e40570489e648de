/**
 * Sends a job, file by file: noted before each, noted after each, so that a kill at any moment sends nothing twice.
 */
import { randomUUID } from "node:crypto";
import { join } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Carrier, OutgoingFile, Sending } from "../../exchange/carrier.js";
import { askPatiently, sendPatiently, type Patience, type SendWatch } from "../../exchange/patience.js";
import type { Io } from "../../io/io.js";
import { sentLayoutOf } from "../../core/channel/definition.js";
import { referenceOf } from "../../core/listing/live-reference.js";
import { KEPT_JOBS, type ChannelJobs, type Job, type JobFile } from "../../store/jobs.js";
import type { ChannelLedger, LedgerEntry } from "../../store/ledger.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import { exchangeOf } from "./account.js";
import { forgetFiles, jobFolder, keepFiles, sha256Of } from "./job-files.js";
import { factsOf, type JobPlan } from "./plan-job.js";
import { sentReferences } from "./read-report.js";

/** What became of one file that was to be sent. */
export interface SubmittedFile {
  readonly file: JobFile;
  readonly sending: Sending;
}

/** What became of a sending. */
export interface Submitted {
  readonly job: Job;
  readonly files: readonly SubmittedFile[];
  /** Whether it was begun by an earlier run. */
  readonly isResumed: boolean;
}

/** Who follows a sending. */
export interface SubmitWatch {
  begins(file: JobFile): void;
  of(file: JobFile): SendWatch;
}

/** Begins a job: what it sends is kept, and it is noted, before a byte goes out. */
export async function beginJob(
  { workspace, store, landing }: WritableCatalogue,
  channel: WorkspaceChannel,
  plan: JobPlan,
  isRepeated: boolean,
  io: Io,
): Promise<number> {
  const { build, purpose, whole, files } = plan;
  const name = channel.setup.channel;
  const jobs = store.jobsOf(name);
  const before = await jobs.list();
  if (!isRepeated) refuseSame(before, files);
  const skus = plan.isPart ? await skusIn(plan, channel, store.ledgerOf(name)) : undefined;
  let number = 0;
  await landing.land((mark) =>
    store.together(mark, async () => {
      number = await jobs.open({
        kind: build.kind,
        purpose,
        build: build.number,
        whole,
        at: io.now().toISOString(),
        skus,
        files: files.map(({ sentAs, bytes, sha256 }) => ({ name: sentAs, bytes, sha256, key: randomUUID() })),
      });
      await keepFiles(
        files.map(({ sentAs, ...file }) => ({ ...file, name: sentAs })),
        jobFolder(workspace, name, number),
      );
    }),
  );
  const kept = [number, ...before.map((job) => job.number)].slice(0, KEPT_JOBS);
  await forgetFiles(workspace, name, kept);
  return number;
}

/** What of a build stands in some of its files. */
async function skusIn(
  { build, files }: JobPlan,
  { setup }: WorkspaceChannel,
  ledger: ChannelLedger,
): Promise<readonly string[]> {
  const { definition } = setup;
  const references = new Set<string>();
  for (const { path } of files)
    for (const reference of (await sentReferences(path, definition, sentLayoutOf(definition))).values())
      references.add(reference);
  const skus: string[] = [];
  const groups = new Set<string>();
  const rows: LedgerEntry[] = [];
  for await (const batch of ledger.built(build.kind))
    for (const entry of batch) {
      const { sku, listing } = entry;
      if (listing.isGroup === true) rows.push(entry);
      else if (references.has(referenceOf(sku, listing, definition))) {
        skus.push(sku);
        if (listing.group !== undefined) groups.add(listing.group);
      }
    }
  // A group's own row stands with its members.
  for (const { sku, listing } of rows) if (groups.has(listing.group ?? "")) skus.push(sku);
  return skus;
}

/** The very bytes of an open job are not sent once more: the channel has them. */
function refuseSame(jobs: readonly Job[], files: JobPlan["files"]): void {
  const last = jobs[0];
  if (last === undefined || last.files.length !== files.length) return;
  const isSame = files.every(({ sha256 }) =>
    last.files.some((file) => file.sha256 === sha256 && file.state !== "thrown out"),
  );
  if (isSame)
    throw new Refusal([
      diagnostic("sent-already", {
        job: last.number,
        channel: last.channel,
        at: last.at.slice(0, 16).replace("T", " "),
      }),
    ]);
}

/** Sends what of a job is not sent yet. Each step is noted before it is taken, so that whoever is killed knows where they stood. */
export async function sendJob(
  { workspace, jobs, carrier, channel, patience, io, watch }: Sender,
  job: Job,
): Promise<readonly SubmittedFile[]> {
  const { setup } = channel;
  const { send } = exchangeOf(channel, "files are sent");
  const folder = jobFolder(workspace, setup.channel, job.number);
  const done: SubmittedFile[] = [];
  const change = async (
    file: JobFile,
    state: JobFile["state"],
    more: { readonly reference?: string; readonly because?: string } = {},
  ): Promise<void> =>
    jobs.change(job.number, file.position, { state, at: io.now().toISOString(), because: "", ...more });
  for (const file of job.files) {
    if (file.state !== "waiting" && file.state !== "sending") continue;
    const path = join(folder, file.name);
    if ((await sha256Of(path).catch(() => "")) !== file.sha256) {
      // It can never go out any more: it must not keep the next build from going.
      if (file.state === "waiting")
        await change(file, "thrown out", {
          because: "what was kept of it was changed or removed; it was not sent",
        });
      throw new Refusal([diagnostic("job-file-changed", { file: file.name, job: job.number })], 3);
    }
    const outgoing: OutgoingFile = {
      name: file.name,
      path,
      bytes: file.bytes,
      key: file.key,
      facts: factsOf(setup.definition, job.purpose, job.number),
    };
    watch.begins(file);
    // A file of this name that was there before is not ours: after an unclear sending the two could not be told apart.
    if (
      send.again === "find" &&
      file.state === "waiting" &&
      (await askPatiently(() => carrier.find(outgoing), patience)) !== undefined
    ) {
      const reason = "a file of this name was there before; build again, so that it goes under another";
      await change(file, "thrown out", { because: reason });
      done.push({ file, sending: { kind: "refused", reason } });
      continue;
    }
    await change(file, "sending");
    const sending = await sendPatiently(
      carrier,
      outgoing,
      send.again,
      patience,
      watch.of(file),
      file.state === "sending",
    );
    if (sending.kind === "taken") await change(file, "sent", { reference: sending.reference });
    else if (sending.kind === "refused") await change(file, "thrown out", { because: sending.reason });
    // What certainly did not arrive waits as before; what may have stays so until the channel is asked.
    else await change(file, sending.kind === "not sent" ? "waiting" : "sending", { because: sending.reason });
    done.push({ file, sending });
    // What the channel says of one file it does not say of the next; but where one does not arrive, none will.
    if (sending.kind === "not sent" || sending.kind === "unclear") break;
  }
  return done;
}

interface Sender {
  readonly workspace: WritableCatalogue["workspace"];
  readonly jobs: ChannelJobs;
  readonly carrier: Carrier;
  readonly channel: WorkspaceChannel;
  readonly patience: Patience;
  readonly io: Io;
  readonly watch: SubmitWatch;
}
