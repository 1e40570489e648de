/** Faults of the database as findings of ours: what SQLite's codes mean to who keeps a shop. */
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { faultReason } from "../../formats/file-fault.js";

const codeOf = (error: unknown): string =>
  error instanceof Error && "code" in error ? String(error.code) : "";

/** Whether somebody else holds the store. */
export const isBusy = (error: unknown): boolean => /^SQLITE_(?:BUSY|LOCKED)/.test(codeOf(error));

/** Whether the store's own disk or folder takes nothing, so that it can be read from a copy alone. */
export function takesNothing(error: unknown): boolean {
  return /^(?:SQLITE_(?:CANTOPEN|READONLY|FULL|IOERR|PERM|AUTH)|EACCES|EROFS|EPERM|ENOSPC|EDQUOT)/.test(
    codeOf(error),
  );
}

const reasons: readonly (readonly [code: string, reason: string])[] = [
  ["SQLITE_FULL", "the disk is full"],
  ["SQLITE_READONLY", "the disk or the file is read-only"],
  ["SQLITE_CANTOPEN", "it cannot be opened there; may its folder be written to?"],
  ["SQLITE_PERM", "permission is denied"],
  ["SQLITE_IOERR", "the disk reports an error, or is full"],
];

/** Turns the database's own errors into what a person can act on. */
export function storeFault(path: string, error: unknown): unknown {
  if (error instanceof Refusal || !(error instanceof Error)) return error;
  const code = codeOf(error);
  if (isBusy(error)) return new Refusal([diagnostic("store-busy", { path })], 3);
  if (code === "SQLITE_NOTADB" || code.startsWith("SQLITE_CORRUPT"))
    return new Refusal(
      [diagnostic("store-damaged", { path, reason: "it is no database, or parts of it are broken" })],
      3,
    );
  const reason = reasons.find(([known]) => code.startsWith(known))?.[1];
  if (reason !== undefined) return new Refusal([diagnostic("cannot-write", { path, reason })], 3);
  if (/^(?:SQLITE_|ENOSPC|EDQUOT|EACCES|EROFS|EPERM|EMFILE|ENFILE)/.test(code))
    return new Refusal([diagnostic("cannot-write", { path, reason: faultReason(error) })], 3);
  return error;
}
