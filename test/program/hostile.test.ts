import { readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { hostileFiles } from "../kit/hostile.js";
import { lexicantProcess, write } from "../kit/run.js";

const hook = fileURLToPath(new URL("../kit/peak.mjs", import.meta.url));

/** Whatever needs more memory than this, or more time, is killed: then there is no exit code of ours. */
const HEAP_MEGABYTES = 400;
const SECONDS = 40;

const bounded = (shop: string, args: readonly string[]) => {
  const peakFile = join(shop, "peak.json");
  const ran = lexicantProcess(shop, args, {
    env: { NODE_OPTIONS: `--max-old-space-size=${HEAP_MEGABYTES} --import ${hook}`, PEAK_FILE: peakFile },
    shell: `exec timeout -s KILL ${SECONDS} "$0" "$@"`,
  });
  if (process.env["HOSTILE_TABLE"] !== undefined) {
    const said = (ran.err || ran.out).replace(/\s+/g, " ").slice(0, 110);
    let peak = "killed";
    try {
      const { megabytes, seconds } = JSON.parse(readFileSync(peakFile, "utf8")) as Record<string, number>;
      peak = `${seconds?.toFixed(1)} s ${megabytes} MB`;
    } catch {
      // It was killed before it could say.
    }
    console.log(`${args.at(1)} | ${peak} | ${ran.exit} | ${said}`);
  }
  return ran;
};

describe("files that are made to hang or burst a program", () => {
  it.each(hostileFiles.map((one) => [one.name, one] as const))(
    "when it is %s, then it ends soon, in little memory, in a sentence",
    (_, { file, make, says, exit }) => {
      const shop = emptyShop();
      write(shop, file, make());
      const ran = bounded(shop, ["import", file, "--accept"]);
      const said = (ran.out + ran.err).replace(/\s+/g, " ");
      expect([0, 1, 2, 3], said.slice(0, 300)).toContain(ran.exit);
      expect(said).not.toMatch(/fault in Lexicant|call stack|heap|at .*\.js:/i);
      expect(said).toMatch(says);
      if (exit !== undefined) expect(ran.exit, said).toBe(exit);
    },
    60_000,
  );
});
