// Runs the built program as a whole process and tells its seconds, CPU seconds and peak memory.
import { spawnSync } from "node:child_process";
import { readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";

const main = fileURLToPath(new URL("../dist/main.js", import.meta.url));
const usage = new URL("usage.mjs", import.meta.url).href;

/** Runs a program of Node's with arguments; ends the bench when it fails with another code than 0 or 1. */
export const measureNode = (script, args, options = {}) => {
  const file = join(tmpdir(), `lexicant-usage-${process.pid}.json`);
  const start = performance.now();
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ["--import", usage, ...(script === undefined ? [] : [script]), ...args],
    {
      encoding: "utf8",
      maxBuffer: 1 << 28,
      env: { ...process.env, LEXICANT_USAGE: file, NO_COLOR: "1" },
      ...options,
    },
  );
  const seconds = (performance.now() - start) / 1000;
  if (status !== 0 && status !== 1)
    throw new Error(`${args.join(" ")} ended with ${status}: ${stderr}${stdout}`);
  const { peakMegabytes, cpuSeconds } = JSON.parse(readFileSync(file, "utf8"));
  rmSync(file);
  return { seconds, cpuSeconds, peakMegabytes, stdout };
};

export const lexicant = (args, options) => measureNode(main, args, options);

/** The run with the median time of several. */
export const median = (runs, run) => {
  const all = Array.from({ length: runs }, run).sort((a, b) => a.seconds - b.seconds);
  return all[all.length >> 1];
};

export const row = (title, { seconds, cpuSeconds, peakMegabytes }, more = "") =>
  process.stdout.write(
    `${title.padEnd(52)} ${seconds.toFixed(2).padStart(8)} s  ${cpuSeconds.toFixed(2).padStart(8)} s CPU  ${peakMegabytes.toFixed(0).padStart(6)} MB  ${more}\n`,
  );
