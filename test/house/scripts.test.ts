import { spawnSync } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { describe, expect, it } from "vitest";
import { projectRoot, temporaryFolder } from "../kit/run.js";

const run = (script: string, ...args: readonly string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(projectRoot, script), ...args], {
    encoding: "utf8",
  });
  return { status, out: stdout, err: stderr };
};

const filesUnder = (folder: string): readonly string[] =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile())
    .map((entry) => relative(folder, join(entry.parentPath, entry.name)));

describe("the scripts that make what ships", () => {
  it.each([
    ["scripts/pages.mjs", 1],
    ["scripts/trees.mjs", 3],
    ["scripts/brindlecote.mjs", 5],
    ["scripts/templates.mjs", 5],
    ["scripts/papers.mjs", 3],
  ])("when %s runs, then it makes just the files that ship", (script, least) => {
    const folder = temporaryFolder();
    expect(run(script, folder)).toMatchObject({ status: 0 });
    const made = filesUnder(folder);
    expect(made.length).toBeGreaterThanOrEqual(least);
    for (const file of made)
      expect(readFileSync(join(folder, file)).equals(readFileSync(join(projectRoot, file))), file).toBe(true);
  });

  it("when the share of tests is asked for, then it is given", () => {
    expect(run("scripts/ratio.mjs").out).toMatch(/\d+(\.\d+)? ?%/);
  });

  it("when a bench is mistyped, then the others are named", () => {
    expect(run("bench/bench.mjs", "strat")).toMatchObject({
      status: 1,
      err: expect.stringContaining("start"),
    });
  });
});
