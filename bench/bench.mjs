// Measures the built program: `npm run bench` for all, `npm run bench -- start slice` for some.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build, install } from "../scripts/setup.mjs";

install();
build();

const benches = {
  start: () => import("./start.mjs"),
  slice: () => import("./slice.mjs"),
  imports: () => import("./imports.mjs"),
  proposal: () => import("./proposal.mjs"),
  incoming: () => import("./incoming.mjs"),
  placement: () => import("./placement.mjs"),
  templates: () => import("./templates.mjs"),
  expressions: () => import("./expressions.mjs"),
  definitions: () => import("./definitions.mjs"),
  check: () => import("./check.mjs"),
  build: () => import("./build.mjs"),
  scale: () => import("./scale.mjs"),
  serve: () => import("./serve.mjs"),
  attack: () => import("./attack.mjs"),
};

// They take long.
const onlyAsked = new Set(["attack", "scale"]);

const asked = process.argv.slice(2);
for (const name of asked.length > 0 ? asked : Object.keys(benches).filter((one) => !onlyAsked.has(one))) {
  if (benches[name] === undefined)
    throw new Error(`no bench ${name}; there are ${Object.keys(benches).join(", ")}`);
  const folder = mkdtempSync(join(tmpdir(), "lexicant-bench-"));
  process.stdout.write(`\n${name}\n`);
  try {
    await (await benches[name]()).run(folder);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
