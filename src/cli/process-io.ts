/**
 * The one place that knows the process: its pipes, terminal, pager, signals and environment, handed on as an {@link
 * Io}. Everything else is given that value, so that tests can hold it.
 */
import { writeSync } from "node:fs";
import { spawnSync } from "node:child_process";
import { isatty } from "node:tty";
import { Interrupted } from "../io/interrupted.js";
import type { Io } from "../io/io.js";
import { OutputLost } from "../io/output-lost.js";

const DEFAULT_COLUMNS = 100;

/** Writes all of a text even where the descriptor is a pipe that is full for a moment. */
function writeAll(descriptor: number, text: string): void {
  let rest = Buffer.from(text);
  while (rest.length > 0) {
    try {
      rest = rest.subarray(writeSync(descriptor, rest));
    } catch (error) {
      const code = error instanceof Error && "code" in error ? error.code : "";
      if (code !== "EAGAIN") throw new OutputLost(String(code));
    }
  }
}

/** Lines that a person types, kept until they are asked for: one may type ahead. */
async function typedLines(): Promise<(question: string) => Promise<string | undefined>> {
  const { createInterface } = await import("node:readline");
  const reader = createInterface({ input: process.stdin, output: process.stderr });
  const typed: string[] = [];
  let waiting: ((line: string | undefined) => void) | undefined;
  const input = { hasEnded: false, isBroken: false };
  const isBroken = (): boolean => input.isBroken;
  const answer = (line: string | undefined): void => {
    const resolve = waiting;
    waiting = undefined;
    resolve?.(line);
  };
  reader.on("SIGINT", () => {
    input.isBroken = true;
    reader.close();
  });
  reader.on("line", (line) => (waiting === undefined ? typed.push(line) : answer(line)));
  reader.on("close", () => {
    input.hasEnded = true;
    answer(undefined);
  });
  return async (question) => {
    tell(question);
    const ahead = typed.shift();
    if (ahead !== undefined) return ahead;
    if (isBroken()) throw new Interrupted();
    if (input.hasEnded) return undefined;
    reader.setPrompt(question);
    reader.resume();
    const line = await new Promise<string | undefined>((resolve) => {
      waiting = resolve;
    });
    if (isBroken()) {
      tell("\n");
      throw new Interrupted();
    }
    // A reader that goes on listening would keep the program from ending.
    reader.pause();
    return line;
  };
}

let lines: ReturnType<typeof typedLines> | undefined;

async function ask(question: string): Promise<string | undefined> {
  lines ??= typedLines();
  return (await lines)(question);
}

/** Messages are beside the work: where nobody reads them, it goes on. */
function tell(text: string): void {
  try {
    writeAll(2, text);
  } catch (error) {
    if (!(error instanceof OutputLost)) throw error;
  }
}

/** Less shows colours, ends by itself where all is on one screen, and leaves what was shown. */
const PAGER = "less -FRX";

/** Shows a text by the user's pager where it is longer than the terminal. */
function page(text: string): void {
  const rows = process.stdout.rows || 0;
  const { LEXICANT_PAGER, PAGER: usual } = process.env;
  const pager = LEXICANT_PAGER ?? usual ?? PAGER;
  if (rows > 0 && pager !== "" && text.split("\n").length > rows) {
    const { error, status } = spawnSync(pager, {
      shell: true,
      input: text,
      stdio: ["pipe", "inherit", "inherit"],
      env: { LESSCHARSET: "utf-8", ...process.env },
    });
    // 127: there is no such pager.
    if (error === undefined && status !== 127) return;
  }
  writeAll(1, text);
}

/** Waits for Ctrl+C, or for the system's wish that we end. It keeps no process alive: what goes on does. */
const untilEnded = (): Promise<void> =>
  new Promise((done) => {
    process.once("SIGINT", done);
    process.once("SIGTERM", done);
  });

/** The real terminal, clock and environment. */
export function processIo(): Io {
  const isPlain = process.env["NO_COLOR"] !== undefined || process.env["TERM"] === "dumb";
  return {
    out: (text) => writeAll(1, text),
    err: tell,
    columns: (isatty(1) ? process.stdout.columns : Number(process.env["COLUMNS"])) || DEFAULT_COLUMNS,
    isTerminal: isatty(1),
    colors: isatty(1) && !isPlain,
    errorColors: isatty(2) && !isPlain,
    isAttended: isatty(0) && isatty(2),
    ask,
    page: isatty(1) && isatty(0) ? page : undefined,
    input: process.stdin,
    untilEnded,
    now: () => new Date(),
    environment: process.env,
    cwd: process.cwd(),
  };
}
