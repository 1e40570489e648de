/** The one that writes: takes the workspace's lock, ends what a killed command began, and gives the landing. */
import { lstatSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { hostname } from "node:os";
import { join, relative } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Io } from "../io/io.js";
import { hasLanded, takeWriterLock } from "../store/open-store.js";
import type { WriterLock } from "../store/store.js";
import { landing, type Landing } from "../workspace/landing/landing.js";
import { isLandingOpen, settleLanding } from "../workspace/landing/settle.js";
import { sentence } from "../workspace/wording.js";
import { placesIn } from "../workspace/workspace.js";

/** Who calls: the command, and whether it may say more than errors. */
export interface Caller {
  readonly command: string;
  readonly quiet: boolean;
}

const TRY_MILLISECONDS = 50;
const TELL_MILLISECONDS = 400;
const WAIT_SECONDS = 600;
const NOTE_BYTES = 10_000;

const ownerPath = (root: string): string => join(root, ".lexicant", "writer.json");

const tell = (finding: Diagnostic, io: Io): void => io.err(`${sentence(finding)}\n`);

/** Who writes, in words; whatever the note of it says is only told. */
function ownerText(root: string): string {
  try {
    const found = lstatSync(ownerPath(root));
    if (!found.isFile() || found.size > NOTE_BYTES) return "another command";
    const note: unknown = JSON.parse(readFileSync(ownerPath(root), "utf8"));
    if (typeof note !== "object" || note === null) return "another command";
    const { command, person, process: pid, host, since } = note as Readonly<Record<string, unknown>>;
    const text = (value: unknown): string => (typeof value === "string" ? value.slice(0, 80) : "");
    const where = text(host) === hostname() ? "" : ` on ${text(host)}`;
    const who = text(person) === "" ? "" : ` of ${text(person)}`;
    return `"lexicant ${text(command)}"${who} (process ${Number(pid)}${where}, since ${text(since).slice(11, 19)} UTC)`;
  } catch {
    return "another command";
  }
}

/** A name that cannot be written is missed by those who wait, and by nobody else. */
function ifItCan(work: () => void): void {
  try {
    work();
  } catch {
    // As said.
  }
}

function noteOwner(root: string, { command }: Caller, io: Io): void {
  const person = io.environment["USER"] ?? io.environment["LOGNAME"] ?? "";
  const note = { command, person, process: process.pid, host: hostname(), since: io.now().toISOString() };
  ifItCan(() => writeFileSync(ownerPath(root), JSON.stringify(note)));
}

const forgetOwner = (root: string): void => ifItCan(() => rmSync(ownerPath(root), { force: true }));

const takeLock = (root: string, { cwd }: Io): Promise<WriterLock | undefined> =>
  takeWriterLock(placesIn(root).lockPath, relative(cwd, join(root, ".lexicant")));

/** Seconds that a writer waits for another. */
const patience = ({ environment }: Io): number => Number(environment["LEXICANT_WAIT"] ?? WAIT_SECONDS);

async function waitForLock(root: string, caller: Caller, io: Io): Promise<WriterLock> {
  const begun = performance.now();
  let isTold = caller.quiet;
  for (;;) {
    const lock = await takeLock(root, io);
    if (lock !== undefined) return lock;
    const waited = performance.now() - begun;
    if (waited >= patience(io) * 1000)
      throw new Refusal(
        [diagnostic("workspace-busy", { by: ownerText(root), seconds: Math.round(waited / 1000) })],
        3,
      );
    if (!isTold && waited > TELL_MILLISECONDS) {
      isTold = true;
      io.err(`Waiting for ${ownerText(root)} to end; this begins then.\n`);
    }
    await pause(TRY_MILLISECONDS);
  }
}

async function settle(root: string, io: Io): Promise<void> {
  if (!isLandingOpen(root)) return;
  const told = await settleLanding(root, (mark) => hasLanded(placesIn(root).storePath, mark));
  if (told !== undefined) tell(told, io);
}

/** The landing of a command that is called there. */
export const landingFor = (root: string, { command }: Caller, io: Io): Landing =>
  landing({ root, command, at: io.now().toISOString(), cwd: io.cwd });

/**
 * Works as the one that may write to a workspace, and waits for whoever does. What a killed command began is ended
 * first; what is not landed when the work is done is cleared.
 * @throws Refusal where another still writes when patience ends, or nothing can be written there
 */
export async function asWriter<T>(
  root: string,
  caller: Caller,
  io: Io,
  work: (own: Landing) => Promise<T>,
): Promise<T> {
  const lock = await waitForLock(root, caller, io);
  const own = landingFor(root, caller, io);
  try {
    noteOwner(root, caller, io);
    await settle(root, io);
    return await work(own);
  } finally {
    await own.discard();
    forgetOwner(root);
    lock.release();
  }
}

/** For whoever only reads: ends what a killed command began, unless somebody is at work there or nothing can be written. */
export async function settleIfFree(root: string, io: Io): Promise<void> {
  if (!isLandingOpen(root)) return;
  try {
    const lock = await takeLock(root, io);
    if (lock === undefined) return;
    try {
      await settle(root, io);
    } finally {
      lock.release();
    }
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    for (const finding of error.findings) tell({ ...finding, severity: "warning" }, io);
  }
}

/** Changes files alone, as the one that may: they land together when the work is done, or not at all. */
export function landFiles(
  root: string,
  caller: Caller,
  io: Io,
  work: (own: Landing) => Promise<void>,
): Promise<void> {
  return asWriter(root, caller, io, async (own) => {
    await work(own);
    await own.land();
  });
}
