import { plainFinding } from "../finding.js";
import { quote } from "../phrases.js";

/** Files, the store, and ourselves. */
export const world = {
  "cannot-read": plainFinding<{ readonly path: string; readonly reason: string }>(
    ({ path, reason }) => `cannot read ${quote(path)}: ${reason}`,
  ),
  "cannot-write": plainFinding<{ readonly path: string; readonly reason: string }>(
    ({ path, reason }) => `cannot write ${quote(path)}: ${reason}; nothing was changed`,
  ),
  "answer-lost": plainFinding<{ readonly reason: string }>(
    ({ reason }) => `the answer could not be written: ${reason}; what had landed stands`,
  ),
  "store-newer": plainFinding<{ readonly path: string; readonly found: number; readonly known: number }>(
    ({ path, found, known }) =>
      `${quote(path)} was written by a newer Lexicant (store version ${found}, this one knows up to ${known}); update Lexicant`,
  ),
  "store-damaged": plainFinding<{ readonly path: string; readonly reason: string }>(
    ({ path, reason }) =>
      `${quote(path)} cannot be opened as a store: ${reason}; restore it from a copy, or move it away and import again`,
  ),
  "store-busy": plainFinding<{ readonly path: string }>(
    ({ path }) =>
      `${quote(path)} is in use by another Lexicant that writes to it; try again when that one is done`,
  ),
  "workspace-busy": plainFinding<{ readonly by: string; readonly seconds: number }>(
    ({ by, seconds }) =>
      `${by} still writes to this workspace after ${seconds} s; nothing was changed. Try again when it has ended`,
  ),
  "landing-waits": plainFinding<{ readonly path: string; readonly reason: string }>(
    ({ path, reason }) =>
      `what was done holds, and its files could not be put in place in ${quote(path)}: ${reason}; mend that, and the next command puts them there`,
  ),
  "landing-finished": plainFinding<{ readonly command: string; readonly at: string }>(
    ({ command, at }) =>
      `"lexicant ${command}" of ${at.slice(0, 16).replace("T", " ")} UTC was broken off while its files were put in place; they all are now`,
  ),
  "landing-taken-back": plainFinding<{ readonly command: string; readonly at: string }>(
    ({ command, at }) =>
      `"lexicant ${command}" of ${at.slice(0, 16).replace("T", " ")} UTC was broken off before it had done its work; nothing of it holds, and its unfinished files are cleared`,
  ),
  "landing-set-aside": plainFinding<{ readonly path: string; readonly aside: string }>(
    ({ path, aside }) =>
      `${quote(path)} cannot be read as the record of a command that was broken off; nothing was moved by it, and it lies in ${quote(aside)} now`,
  ),
  "worker-ended": plainFinding<{ readonly reason: string }>(
    ({ reason }) =>
      `a thread that did a part of the work ended before it was done: ${reason}; nothing was changed. Try again with --workers 1`,
  ),
  "catalogue-changed": plainFinding<{ readonly doing: string }>(
    ({ doing }) => `another command changed the catalogue while the ${doing} began; start it again`,
  ),
  "internal-fault": plainFinding<{ readonly reason: string }>(
    ({ reason }) => `a fault in Lexicant itself: ${reason}`,
  ),
} as const;
