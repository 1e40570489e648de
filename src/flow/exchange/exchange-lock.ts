import { join, relative } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Io } from "../../io/io.js";
import { takeWriterLock } from "../../store/open-store.js";

/** Works as the only one that deals with a channel; the system lets go of the lock with the process. */
export async function alone<T>(
  root: string,
  { channel, work: name }: { readonly channel: string; readonly work: "exchange" | "sync" | "serve" },
  io: Io,
  work: () => Promise<T>,
): Promise<T> {
  const path = join(root, ".lexicant", `${name}-${channel}.lock`);
  const lock = await takeWriterLock(path, relative(io.cwd, path));
  if (lock === undefined) throw new Refusal([diagnostic("exchange-busy", { channel })], 3);
  try {
    return await work();
  } finally {
    lock.release();
  }
}
