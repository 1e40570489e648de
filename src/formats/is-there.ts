import { statSync } from "node:fs";
import { readdir } from "node:fs/promises";
import { readFault } from "./file-fault.js";

const isAbsent = (error: unknown): boolean =>
  error instanceof Error && "code" in error && (error.code === "ENOENT" || error.code === "ENOTDIR");

/**
 * Whether something stands under a name.
 * @throws Refusal where that may not be looked at: what cannot be seen is never taken for missing
 */
export function isThere(path: string, shown: string): boolean {
  try {
    statSync(path);
    return true;
  } catch (error) {
    if (isAbsent(error)) return false;
    throw readFault(shown, error);
  }
}

/**
 * The names in a folder; none where there is no folder.
 * @throws Refusal where it may not be looked into
 */
export async function namesIn(path: string, shown: string): Promise<readonly string[]> {
  try {
    return await readdir(path);
  } catch (error) {
    if (isAbsent(error)) return [];
    throw readFault(shown, error);
  }
}
