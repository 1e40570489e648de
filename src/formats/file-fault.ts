import { ownOf } from "../core/own.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";

const reasons: Readonly<Record<string, string>> = {
  ENOENT: "it does not exist",
  EACCES: "permission is denied",
  EPERM: "permission is denied",
  EROFS: "the disk is read-only",
  ENOSPC: "the disk is full",
  EDQUOT: "the disk quota is used up",
  EISDIR: "it is a folder",
  ENOTDIR: "a part of its path is no folder",
  EMFILE: "too many files are open",
  EIO: "the disk reports an error",
};

const errorCode = (error: unknown): string =>
  typeof error === "object" && error !== null && "code" in error ? String(error.code) : "";

/** What the system says, in words; the system's own text where we have none. */
export const faultReason = (error: unknown): string =>
  ownOf(reasons, errorCode(error)) ?? (error instanceof Error ? error.message : String(error));

/** Whether an error says that there is no such file. */
export const isMissing = (error: unknown): boolean => errorCode(error) === "ENOENT";

/** A file that cannot be read: wrong usage when it is not there, a fault of the world otherwise. */
export function readFault(path: string, error: unknown): Refusal {
  if (error instanceof Refusal) return error;
  if (isMissing(error)) return new Refusal([diagnostic("no-file", { path })]);
  return new Refusal([diagnostic("cannot-read", { path, reason: faultReason(error) })], 3);
}

/** That a file could not be written, as a refusal. */
export function writeFault(path: string, error: unknown): Refusal {
  return error instanceof Refusal
    ? error
    : new Refusal([diagnostic("cannot-write", { path, reason: faultReason(error) })], 3);
}
