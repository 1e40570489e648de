import { readdirSync, statSync } from "node:fs";
import { extname, join } from "node:path";
import { fileURLToPath } from "node:url";

const program = fileURLToPath(new URL("../../", import.meta.url));

/**
 * What tells a program from one that was built before, beside its version: that one may have kept what this one would not
 * find. Of all its files, since a build writes only those anew that are others than before.
 */
export const programMark = (folder = program): string => {
  const own = extname(import.meta.url);
  const times = readdirSync(folder, { recursive: true, encoding: "utf8" })
    .filter((file) => extname(file) === own)
    .sort()
    .map((file) => `${file} ${statSync(join(folder, file)).mtimeMs}`);
  return times.join("\n");
};
