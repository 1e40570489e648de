/** Files that are read once a process, known again by their size, place and times. */
import { readdirSync, statSync } from "node:fs";
import { join } from "node:path";

/** A change within this time of a reading may not show in a file's times: such a reading is not kept. */
const SETTLED_MILLISECONDS = 100;

/** A definition's lists stand two folders down. No deeper: links may lead round. */
const DEPTH = 2;

/** How many are kept of each kind; the one that was asked for least lately goes first. */
const MOST = 24;

/** What tells that a folder's files are those of before: each with its size, its place on the disk and its times. */
function signOf(paths: readonly string[]): { readonly sign: string; readonly newest: number } {
  let [sign, newest] = ["", 0];
  const add = (path: string, depth: number): void => {
    const found = statSync(path, { bigint: true, throwIfNoEntry: false });
    sign += `${path}\0${found === undefined ? "" : `${found.ino} ${found.size} ${found.mtimeNs} ${found.ctimeNs}`}\0`;
    if (found === undefined) return;
    newest = Math.max(newest, Number(found.ctimeMs));
    if (found.isDirectory() && depth < DEPTH)
      for (const name of readdirSync(path).sort()) add(join(path, name), depth + 1);
  };
  for (const path of paths) add(path, 0);
  return { sign, newest };
}

/**
 * Reads files once a process: what was made of them is given again as long as none of them, nor a file below a folder
 * among them, has changed, and whatever else it was made with is the very same. A command reads each file once as it is;
 * what stays up (`serve`, `sync`, a watched check) or opens several workspaces reads a tree of 1,500 categories once.
 *
 * @param make never keeps hold of what a refusal left half done: what it throws is thrown, and asked anew the next time
 */
export function readOnce<Value>(): (
  paths: readonly string[],
  /** What else decides, held by identity. */
  world: readonly unknown[],
  make: () => Promise<Value>,
) => Promise<Value> {
  const kept = new Map<
    string,
    { readonly sign: string; readonly world: readonly unknown[]; readonly value: Value }
  >();
  return async (paths, world, make) => {
    const key = paths.join("\0");
    const { sign, newest } = signOf(paths);
    const before = kept.get(key);
    kept.delete(key);
    if (before?.sign === sign && before.world.every((one, at) => one === world[at])) {
      kept.set(key, before);
      return before.value;
    }
    const begun = Date.now();
    const value = await make();
    if (begun - newest > SETTLED_MILLISECONDS && signOf(paths).sign === sign)
      kept.set(key, { sign, world, value });
    const [oldest] = kept.keys();
    if (kept.size > MOST && oldest !== undefined) kept.delete(oldest);
    return value;
  };
}
