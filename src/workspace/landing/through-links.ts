import { readlink } from "node:fs/promises";
import { dirname, resolve } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";

const MOST_LINKS = 40;

/** Where a path's links lead: what they point at is written, and the links stay. */
export async function throughLinks(path: string): Promise<string> {
  let target = path;
  for (let followed = 0; followed < MOST_LINKS; followed++) {
    const link = await readlink(target).catch(() => undefined);
    if (link === undefined) return target;
    target = resolve(dirname(target), link);
  }
  throw new Refusal([diagnostic("cannot-write", { path, reason: "its links go round in a circle" })], 3);
}
