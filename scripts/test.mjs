// The whole test from a fresh clone: install, build, lint, types, tests.
import { join } from "node:path";
import { build, install, root, step, systemPrograms } from "./setup.mjs";

const bin = (name, path) => [join(root, "node_modules", name, path)];

install();
systemPrograms({ xmllint: "libxml2-utils", "python3:openpyxl": "python3-openpyxl" });
build();
step("format", process.execPath, [
  ...bin("prettier", "bin/prettier.cjs"),
  "--check",
  "--log-level",
  "warn",
  ".",
]);
step("lint", process.execPath, [...bin("eslint", "bin/eslint.js"), "."]);
step("types of the tests", process.execPath, [...bin("typescript", "bin/tsc"), "-p", "tsconfig.json"]);
step("tests", process.execPath, [...bin("vitest", "vitest.mjs"), "run", ...process.argv.slice(2)]);
