import { writeSync } from "node:fs";
import type { Io } from "./report/io.js";

const DEFAULT_COLUMNS = 100;

/** Writes all of a text even where the descriptor is a pipe that is full for a moment; a closed pipe ends the run. */
const writeAll = (descriptor: number, text: string): void => {
  let rest = Buffer.from(text);
  while (rest.length > 0) {
    try {
      rest = rest.subarray(writeSync(descriptor, rest));
    } catch (error) {
      const code = error instanceof Error && "code" in error ? error.code : "";
      if (code === "EPIPE") process.exit(0);
      if (code !== "EAGAIN") throw error;
    }
  }
};

const ask = async (question: string): Promise<string> => {
  const { createInterface } = await import("node:readline/promises");
  const lines = createInterface({ input: process.stdin, output: process.stderr });
  try {
    return await lines.question(question);
  } finally {
    lines.close();
  }
};

/** The real terminal, clock and environment. */
export const processIo = (): Io => ({
  out: (text) => writeAll(1, text),
  err: (text) => writeAll(2, text),
  columns: process.stdout.columns ?? (Number(process.env["COLUMNS"]) || DEFAULT_COLUMNS),
  isTerminal: process.stdout.isTTY === true,
  colors:
    process.stdout.isTTY === true && process.env["NO_COLOR"] === undefined && process.env["TERM"] !== "dumb",
  isAttended: process.stdin.isTTY === true && process.stderr.isTTY === true,
  ask,
  input: process.stdin,
  now: () => new Date(),
  environment: process.env,
  cwd: process.cwd(),
});
