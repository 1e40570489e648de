/** Small files of a person's own, read whole; what might never end is refused. */
import { readFile, stat } from "node:fs/promises";
import type { Stats } from "node:fs";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { readFault } from "./file-fault.js";

/** What stands under a name and is no file, in words; undefined for a file. */
function otherThanFile(found: Stats): string | undefined {
  if (found.isFile()) return undefined;
  if (found.isDirectory()) return "it is a folder";
  if (found.isFIFO())
    return "it is a pipe; what comes through one is read with: lexicant import - --source NAME";
  return found.isSocket() ? "it is a socket" : "it is a device, and no file";
}

/**
 * What the system says of a file that is to be read: a pipe or a device might never end.
 * @throws Refusal where it is none
 */
export async function fileStats(path: string, file: string): Promise<Stats> {
  const found = await stat(path).catch((error: unknown) => {
    throw readFault(file, error);
  });
  const reason = otherThanFile(found);
  if (reason !== undefined) throw new Refusal([diagnostic("cannot-read", { path: file, reason })], 3);
  return found;
}

/** The most bytes of a small file. */
export const SMALL_FILE = 64 << 20;

/**
 * A file of a person's own that is small by its nature, whole.
 * @throws Refusal where it is missing, no file, or larger than `limit` bytes
 */
export async function smallFile(path: string, file: string, limit = SMALL_FILE): Promise<Buffer> {
  const { size } = await fileStats(path, file);
  if (size > limit)
    throw new Refusal([diagnostic("file-too-large", { path: file, limit: Math.ceil(limit / (1 << 20)) })]);
  try {
    return await readFile(path);
  } catch (error) {
    throw readFault(file, error);
  }
}
