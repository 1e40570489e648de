/** One round for a channel: import, check, build, send, wait, note. */
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ExitCode } from "../../io/exit-code.js";
import type { Io } from "../../io/io.js";
import { workspaceRoot } from "../../workspace/workspace.js";
import { sentence } from "../../workspace/wording.js";
import {
  awaitResults,
  submitChannel,
  withChannelAlone,
  type ExchangeCaller,
} from "../exchange/exchange-work.js";
import { alone } from "../exchange/exchange-lock.js";
import { takesWhole, unfinished } from "../exchange/plan-job.js";
import { isOpen } from "../exchange/ask-results.js";
import type { Logger } from "../log.js";
import { withCatalogue } from "../open-catalogue.js";
import { loadChannel } from "../run-channels.js";
import { rebuild, runBeside } from "../run-beside.js";
import { tellSomeone } from "../tell-someone.js";
import { newFiles, noteRead, type NewFile } from "./new-files.js";

/** What a round may do. */
export interface SyncWishes {
  /** Whether a person confirmed what the limits would stop. */
  readonly isConfirmed: boolean;
  /** Minutes that results are waited for. */
  readonly minutes: number;
}

/** How a sync ended, for logs and for cron. */
export interface Synced {
  readonly exit: ExitCode;
  readonly says: string;
}

const MOST_WITHDRAWN = 10;
const MOST_PRICES = 30;
/** So few are no accident. */
const FEW = 5;

interface Outlook {
  readonly root: string;
  readonly isWhole: boolean;
  readonly isFirst: boolean;
  readonly priceField: string;
  readonly limits: { readonly most_withdrawn?: number; readonly most_prices_moved?: number };
  readonly files: readonly NewFile[];
  /** Whether a job was broken off, or an answer is awaited. */
  readonly isBroken: boolean;
  readonly openJob: number | undefined;
}

const outlook = (caller: ExchangeCaller, name: string, io: Io): Promise<Outlook> =>
  withCatalogue(caller.workspace, io, async ({ workspace, store, surroundings }) => {
    const { setup, syncing } = await loadChannel(workspace, store, name, await surroundings());
    const jobs = await store.jobsOf(name).list();
    return {
      root: workspace.root,
      isWhole: takesWhole(setup.definition, { kind: "full" }),
      isFirst: await store.ledgerOf(name).isEmpty(),
      priceField: setup.definition.roles.price?.code ?? "",
      limits: syncing,
      files: await newFiles(workspace, store),
      isBroken: unfinished(jobs) !== undefined,
      openJob: jobs.slice(0, 1).find(isOpen)?.number,
    };
  });

class Stop extends Error {
  constructor(
    readonly exit: ExitCode,
    says: string,
  ) {
    super(says);
  }
}

/** What the next full file would change, counted. */
interface Changes {
  readonly new: number;
  readonly changed: number;
  readonly same: number;
  readonly ended: number;
  readonly fields: Readonly<Record<string, number>>;
}

async function importNew({ root, files }: Outlook, log: Logger, io: Io): Promise<void> {
  if (files.length === 0) {
    log.info("import: nothing new");
    return;
  }
  const { exit, lines, said } = await runBeside(
    { root },
    ["import", ...files.map(({ path }) => `${root}/${path}`)],
    "import",
    io,
  );
  for (const { file, read, added, changed, rejected, revision } of lines)
    log.info({ file, read, added, changed, rejected, revision }, "imported");
  if (exit > 1) throw new Stop(exit === 2 ? 2 : 3, `the import did not come about: ${said}`);
  await noteRead({ root }, files);
}

function refuseMany(changes: Changes, { limits, priceField }: Outlook, name: string): void {
  const live = changes.same + changes.changed + changes.ended;
  const moved = Object.hasOwn(changes.fields, priceField)
    ? (new Map(Object.entries(changes.fields)).get(priceField) ?? 0)
    : 0;
  const over = [
    {
      what: "would end",
      count: changes.ended,
      limit: limits.most_withdrawn ?? MOST_WITHDRAWN,
      key: "sync.most_withdrawn",
    },
    {
      what: "would change their price",
      count: moved,
      limit: limits.most_prices_moved ?? MOST_PRICES,
      key: "sync.most_prices_moved",
    },
  ].find(({ count, limit }) => count > FEW && count * 100 > live * limit);
  if (over !== undefined)
    throw new Stop(1, sentence(diagnostic("too-much-changes", { channel: name, of: live, ...over })));
}

/** Sends the last build of a purpose, and waits for what comes of it. */
async function send(
  caller: ExchangeCaller,
  name: string,
  purpose: string | undefined,
  { minutes }: SyncWishes,
  log: Logger,
  io: Io,
): Promise<ExitCode> {
  const submitted = await submitChannel(caller, name, { files: [], purpose }, io, {
    begins: ({ name: file }) => log.info({ file }, "sending"),
    of: ({ name: file }) => ({
      bytes: () => undefined,
      waits: (reason, milliseconds) =>
        log.warn({ file, reason, wait: Math.round(milliseconds) }, "trying again"),
    }),
  });
  const { job, files } = submitted;
  for (const { file, sending } of files)
    log.info({ job: job.number, file: file.name, ...sending }, sending.kind);
  const bad = files.find(({ sending }) => sending.kind === "unclear" || sending.kind === "not sent");
  if (bad !== undefined)
    throw new Stop(3, `${bad.file.name} was not sent: ${"reason" in bad.sending ? bad.sending.reason : ""}`);
  return hear(caller, name, job.number, minutes, log, io);
}

async function hear(
  caller: ExchangeCaller,
  name: string,
  job: number,
  minutes: number,
  log: Logger,
  io: Io,
): Promise<ExitCode> {
  const results = await awaitResults(caller, name, { report: undefined, job, minutes }, io, (reading) =>
    log.debug({ job, files: reading.length }, "the channel is at work"),
  );
  let exit: ExitCode = 0;
  for (const { job: own, refused, reading } of results) {
    for (const { sku, alike, code, message, field } of refused)
      log.warn({ sku, alike, code, field, message }, "refused");
    log.info(
      {
        job: own.number,
        listings: own.listings,
        accepted: own.accepted,
        refused: own.refused,
        atWork: reading.length,
      },
      "results",
    );
    if (own.accepted < own.listings) exit = 1;
  }
  return exit;
}

const isSentAlready = (error: unknown): boolean =>
  error instanceof Refusal && error.findings.some(({ code }) => code === "sent-already");

async function steps(
  caller: ExchangeCaller,
  name: string,
  wishes: SyncWishes,
  log: Logger,
  io: Io,
): Promise<Synced> {
  const first = await outlook(caller, name, io);
  if (first.isBroken) {
    log.info("an earlier sending was broken off; it goes on first");
    await send(caller, name, undefined, wishes, log, io);
  } else if (first.openJob !== undefined) await hear(caller, name, first.openJob, wishes.minutes, log, io);
  await importNew(first, log, io);
  const { exit, lines, said } = await runBeside(first, ["diff", name, "--against", "sent"], "diff", io);
  const changes = lines[0] as Changes | undefined;
  if (exit !== 0 || changes === undefined)
    throw new Stop(exit === 2 ? 2 : 3, `the check did not come about: ${said}`);
  log.info(
    { new: changes.new, changed: changes.changed, same: changes.same, ended: changes.ended },
    "checked",
  );
  if (!wishes.isConfirmed && !first.isFirst) refuseMany(changes, first, name);
  const ended = { exit: 0 as ExitCode };
  const build = async (options: readonly string[], purpose: string): Promise<void> => {
    const built = await rebuild(first, name, options, io);
    if (built.kind === "failed")
      throw new Stop(built.exit === 2 ? 2 : 3, `the build did not come about: ${built.reason}`);
    log.info(
      { purpose, ready: built.ready, held: built.held, listings: built.listings, files: built.files },
      "built",
    );
    if (built.files.length === 0) return;
    try {
      if ((await send(caller, name, purpose, wishes, log, io)) !== 0) ended.exit = 1;
    } catch (error) {
      if (!isSentAlready(error)) throw error;
      // All that differs is what the channel refused, and nobody has mended.
      log.warn("only what was refused before is left; nothing was sent");
      ended.exit = 1;
    }
  };
  if (changes.new + changes.changed + (first.isWhole ? changes.ended : 0) > 0)
    await build(first.isWhole || first.isFirst ? [] : ["--changed"], "full");
  if (!first.isWhole && changes.ended > 0) await build(["--purpose", "withdraw", "--yes"], "withdraw");
  if (changes.new + changes.changed + changes.ended === 0)
    return { exit: 0, says: "the channel has all as it is" };
  return {
    exit: ended.exit,
    says: ended.exit === 0 ? "all was accepted" : "some is refused or without an answer",
  };
}

/** Imports what is new, checks, builds what changed, sends it, waits, and notes what came of it; one at a time. */
export function syncChannel(
  caller: ExchangeCaller,
  name: string,
  wishes: SyncWishes,
  log: Logger,
  io: Io,
): Promise<Synced> {
  return alone(workspaceRoot(caller.workspace, io.cwd), { channel: name, work: "sync" }, io, () =>
    withChannelAlone(caller, name, io, async () => {
      try {
        return await steps(caller, name, wishes, log, io);
      } catch (error) {
        const stopped = error instanceof Stop ? error : undefined;
        if (stopped === undefined && !(error instanceof Refusal)) throw error;
        const refusal = error instanceof Refusal ? error : undefined;
        const says = stopped?.message ?? refusal?.findings.map(sentence).join("; ") ?? "";
        await withCatalogue(caller.workspace, io, async ({ workspace }) => {
          await tellSomeone(
            workspace,
            { occasion: "sync-stopped", channel: name, says, counts: {}, causes: [], report: undefined },
            io,
          );
          return {};
        });
        return { exit: stopped?.exit ?? refusal?.exit ?? 3, says };
      }
    }),
  );
}
