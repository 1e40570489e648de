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
  "internal-fault": plainFinding<{ readonly reason: string }>(
    ({ reason }) => `a fault in Lexicant itself: ${reason}`,
  ),
} as const;
