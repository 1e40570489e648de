import { statSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

const program = fileURLToPath(new URL("../../", import.meta.url));

/**
 * What tells a program from one that was built before, beside its version: that one may have kept what this one would not
 * find. It is when the compiler last noted what it wrote, since of the program's files it writes only those anew that are
 * others than before. A program that was packed has no such note: its version tells it.
 */
export const programMark = (folder = program): number =>
  statSync(join(folder, ".tsbuildinfo"), { throwIfNoEntry: false })?.mtimeMs ?? 0;
