// The whole test from a fresh clone: install, build, then format, lint, types and dead code side by side, then tests.
import { spawn } from "node:child_process";
import { join } from "node:path";
import { build, install, root, step, systemPrograms } from "./setup.mjs";

const bin = (name, path) => join(root, "node_modules", name, path);
const tsc = bin("typescript", "bin/tsc");

const begun = performance.now();
const seconds = (since) => `${((performance.now() - since) / 1000).toFixed(0)} s`;

/** Runs a step beside others: what it says is shown when it ends. */
const beside = (title, args) =>
  new Promise((resolve, reject) => {
    const started = performance.now();
    const child = spawn(process.execPath, args, { cwd: root });
    let said = "";
    const take = (chunk) => (said += chunk);
    child.stdout.on("data", take);
    child.stderr.on("data", take);
    child.on("error", reject);
    child.on("close", (status) => {
      process.stderr.write(`\n— ${title} (${seconds(started)})\n${said}`);
      resolve(status === 0);
    });
  });

const inTurn = async (...steps) => {
  let good = true;
  for (const [title, args] of steps) good = (await beside(title, args)) && good;
  return good;
};

install();
systemPrograms({ xmllint: "libxml2-utils", "python3:openpyxl": "python3-openpyxl" });
build();
const checks = await Promise.all([
  inTurn(["lint", [bin("eslint", "bin/eslint.js"), "."]]),
  inTurn(
    ["format", [bin("prettier", "bin/prettier.cjs"), "--check", "--log-level", "warn", "."]],
    ["types of the tests", [tsc, "-p", "tsconfig.json"]],
    ["types of scripts and benches", [tsc, "-p", "tsconfig.scripts.json"]],
    ["dead code", [bin("knip", "bin/knip.js"), "--no-progress"]],
  ),
]);
if (!checks.every(Boolean)) process.exit(1);
process.stderr.write(`\n(so far ${seconds(begun)})\n`);
step("tests", process.execPath, [bin("vitest", "vitest.mjs"), "run", ...process.argv.slice(2)]);
