/** The files that arguments name: paths, patterns, archives, standard input. */
import { addAll } from "../../core/many.js";
import { existsSync } from "node:fs";
import { readdir } from "node:fs/promises";
import { basename, dirname, join, resolve } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { fileSource, inputSource, type ByteSource } from "../../formats/byte-source.js";
import { unpacked } from "../../formats/open-table.js";
import type { Io } from "../../io/io.js";
import { namePattern } from "../../workspace/name-pattern.js";

/** The files that a pattern names, sorted; a pattern's stars stand in its last part. */
async function matching(folder: string, pattern: string): Promise<readonly string[]> {
  const wanted = namePattern(pattern);
  const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
  return entries
    .filter((entry) => entry.isFile() && wanted.test(entry.name))
    .map((entry) => join(folder, entry.name))
    .sort();
}

async function pathsOf(file: string, io: Io): Promise<readonly string[]> {
  const path = resolve(io.cwd, file);
  if (existsSync(path) || !/[*?]/.test(basename(file))) return [path];
  const found = await matching(dirname(path), basename(file));
  if (found.length === 0) throw new Refusal([diagnostic("no-file", { path: file })]);
  return found;
}

/** Every file that the arguments name: files, patterns, standard input (`-`), and what archives among them hold. */
export async function incomingFiles(files: readonly string[], io: Io): Promise<readonly ByteSource[]> {
  const sources: ByteSource[] = [];
  for (const file of files) {
    const opened =
      file === "-"
        ? [inputSource(io.input)]
        : await Promise.all((await pathsOf(file, io)).map((path) => fileSource(path, basename(path))));
    for (const one of opened) addAll(sources, await unpacked(one));
  }
  return sources;
}
