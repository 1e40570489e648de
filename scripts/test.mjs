// The whole test from a fresh clone: install and build; format, lint, types and dead code while the store's engine is
// compiled; then the tests, and at the end how long each step took, the slowest files, and what was passed over.
// `--long` tries kills, models and properties many times over.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { beside, build, installBeside, root, step, systemPrograms } from "./setup.mjs";

const bin = (name, path) => join(root, "node_modules", name, path);
const tsc = bin("typescript", "bin/tsc");

const SLOWEST = 20;
const begun = performance.now();
const times = [];

const timed = async (title, work) => {
  const since = performance.now();
  const done = await work();
  times.push([title, (performance.now() - since) / 1000]);
  return done;
};

const shown = ({ title, isGood, seconds, said }) => {
  times.push([title, seconds]);
  process.stderr.write(`\n— ${title} (${seconds.toFixed(0)} s)\n${said}`);
  return isGood;
};

const words = process.argv.slice(2).filter((word) => word !== "--long");
const isLong = process.argv.includes("--long");

const engine = await timed("packages", () => Promise.resolve({ compiled: installBeside() }));
systemPrograms({ xmllint: "libxml2-utils", "python3:openpyxl": "python3-openpyxl" });
await timed("build", () => Promise.resolve(build()));
/** The longest first, two at once: two cores are what the whole test is meant for. */
const AT_ONCE = 2;
const waiting = [
  ...(engine.compiled === undefined ? [] : [() => engine.compiled]),
  ...[
    ["lint", bin("eslint", "bin/eslint.js"), "."],
    ["types of the tests", tsc, "-p", "tsconfig.json"],
    ["format", bin("prettier", "bin/prettier.cjs"), "--check", "--log-level", "warn", "."],
    ["dead code", bin("knip", "bin/knip.js"), "--no-progress"],
    ["types of scripts and benches", tsc, "-p", "tsconfig.scripts.json"],
  ].map(
    ([title, ...args]) =>
      () =>
        beside(title, process.execPath, args),
  ),
];
let isGood = true;
const runner = async () => {
  for (let next = waiting.shift(); next !== undefined; next = waiting.shift())
    isGood = shown(await next()) && isGood;
};
await Promise.all(Array.from({ length: AT_ONCE }, runner));
if (!isGood) process.exit(1);

const report = join(root, "node_modules", ".tests.json");
const line = [bin("vitest", "vitest.mjs"), "run", "--reporter=default", "--reporter=json"];
const tests = await timed("tests", () =>
  Promise.resolve(
    step(
      isLong ? "tests, many times over" : "tests",
      process.execPath,
      [...line, `--outputFile.json=${report}`, ...words],
      { isAsked: true, env: { ...process.env, ...(isLong ? { TEST_LONG: "yes" } : {}) } },
    ),
  ),
);

const { testResults } = JSON.parse(readFileSync(report, "utf8"));
const named = (file) => file.slice(file.indexOf("/test/") + 1);
const all = testResults.flatMap(({ name, assertionResults }) =>
  assertionResults.map(({ title, status }) => ({ status, title: `${named(name)}: ${title}` })),
);
const passedOver = all.filter(({ status }) => status !== "passed" && status !== "failed");
const count = (wanted) => all.filter(({ status }) => status === wanted).length;
const row = ([title, seconds]) => `${seconds.toFixed(1).padStart(8)} s  ${title}\n`;
const slowest = testResults
  .map(({ name, startTime, endTime }) => [named(name), (endTime - startTime) / 1000])
  .sort((a, b) => b[1] - a[1])
  .slice(0, SLOWEST);
process.stderr.write(`\nThe slowest ${slowest.length} files\n${slowest.map(row).join("")}`);
process.stderr.write(
  `\nSteps\n${times.map(row).join("")}${row(["all", (performance.now() - begun) / 1000])}`,
);
process.stderr.write(`\nPassed over: ${passedOver.length === 0 ? "none" : passedOver.length}\n`);
for (const { title } of passedOver) process.stderr.write(`  ${title}\n`);

// The line by which whoever runs this counts the tests.
const skipped = passedOver.length > 0 ? `, ${passedOver.length} skipped` : "";
process.stdout.write(`\n${count("passed")} passed, ${count("failed")} failed${skipped}\n`);
process.exit(tests);
