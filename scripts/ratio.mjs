// Prints how the code divides: tests should be a quarter to a third of it.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./setup.mjs";

const filesUnder = (folder) =>
  readdirSync(join(root, folder), { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? filesUnder(join(folder, entry.name)) : [join(folder, entry.name)],
  );
const lines = (file) => readFileSync(join(root, file), "utf8").split("\n").length - 1;
const code = (folder) => filesUnder(folder).filter((file) => /\.(ts|js|mjs)$/.test(file));

const count = (folders) => folders.flatMap(code).reduce((sum, file) => sum + lines(file), 0);
const [source, tests, tools] = [count(["src"]), count(["test"]), count(["scripts", "bench"])];
const lengths = code("src")
  .map(lines)
  .sort((a, b) => a - b);
process.stdout.write(
  `src ${source} lines in ${lengths.length} files (median ${lengths[lengths.length >> 1]}, longest ${lengths.at(-1)}), ` +
    `tests ${tests}, scripts and bench ${tools}\n` +
    `tests are ${((100 * tests) / (source + tests + tools)).toFixed(1)}% of all code\n`,
);
