import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";

/** Turns the database's own errors into what a person can act on. */
export const storeFault = (path: string, error: unknown): unknown => {
  if (error instanceof Refusal || !(error instanceof Error)) return error;
  const code = "code" in error ? String(error.code) : "";
  if (code.startsWith("SQLITE_BUSY") || code.startsWith("SQLITE_LOCKED"))
    return new Refusal([diagnostic("store-busy", { path })], 3);
  if (code === "SQLITE_NOTADB" || code.startsWith("SQLITE_CORRUPT"))
    return new Refusal(
      [diagnostic("store-damaged", { path, reason: "it is no database, or parts of it are broken" })],
      3,
    );
  if (code === "SQLITE_FULL" || code === "ENOSPC")
    return new Refusal([diagnostic("cannot-write", { path, reason: "the disk is full" })], 3);
  if (code.startsWith("SQLITE_") || code === "EACCES" || code === "EROFS" || code === "EPERM")
    return new Refusal([diagnostic("cannot-write", { path, reason: error.message })], 3);
  return error;
};
