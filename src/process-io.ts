import { writeSync } from "node:fs";
import { isatty } from "node:tty";
import type { Io } from "./io/io.js";
import { OutputLost } from "./io/output-lost.js";

const DEFAULT_COLUMNS = 100;

/** Writes all of a text even where the descriptor is a pipe that is full for a moment. */
const writeAll = (descriptor: number, text: string): void => {
  let rest = Buffer.from(text);
  while (rest.length > 0) {
    try {
      rest = rest.subarray(writeSync(descriptor, rest));
    } catch (error) {
      const code = error instanceof Error && "code" in error ? error.code : "";
      if (code !== "EAGAIN") throw new OutputLost(String(code));
    }
  }
};

/** Lines that a person types, kept until they are asked for: one may type ahead. */
const typedLines = async (): Promise<(question: string) => Promise<string | undefined>> => {
  const { createInterface } = await import("node:readline");
  const reader = createInterface({ input: process.stdin, output: process.stderr });
  const typed: string[] = [];
  let [waiting, ended]: [((line: string | undefined) => void) | undefined, boolean] = [undefined, false];
  const answer = (line: string | undefined): void => {
    const resolve = waiting;
    waiting = undefined;
    resolve?.(line);
  };
  reader.on("line", (line) => (waiting === undefined ? typed.push(line) : answer(line)));
  reader.on("close", () => {
    ended = true;
    answer(undefined);
  });
  return async (question) => {
    tell(question);
    const ahead = typed.shift();
    if (ahead !== undefined || ended) return ahead;
    reader.setPrompt(question);
    reader.resume();
    const line = await new Promise<string | undefined>((resolve) => {
      waiting = resolve;
    });
    // A reader that goes on listening would keep the program from ending.
    reader.pause();
    return line;
  };
};

let lines: ReturnType<typeof typedLines> | undefined;

const ask = async (question: string): Promise<string | undefined> => {
  lines ??= typedLines();
  return (await lines)(question);
};

/** Standard output, as long as somebody reads it. */
const standardOutput = (): Pick<Io, "out" | "landed"> => {
  let [hasLanded, isLost] = [false, false];
  return {
    out(text) {
      if (isLost) return;
      try {
        writeAll(1, text);
      } catch (error) {
        isLost = true;
        if (!hasLanded) throw error;
      }
    },
    landed() {
      hasLanded = true;
    },
  };
};

/** Messages are beside the work: where nobody reads them, it goes on. */
const tell = (text: string): void => {
  try {
    writeAll(2, text);
  } catch (error) {
    if (!(error instanceof OutputLost)) throw error;
  }
};

/** The real terminal, clock and environment. */
export const processIo = (): Io => ({
  ...standardOutput(),
  err: tell,
  columns: (isatty(1) ? process.stdout.columns : Number(process.env["COLUMNS"])) || DEFAULT_COLUMNS,
  isTerminal: isatty(1),
  colors: isatty(1) && process.env["NO_COLOR"] === undefined && process.env["TERM"] !== "dumb",
  isAttended: isatty(0) && isatty(2),
  ask,
  input: process.stdin,
  now: () => new Date(),
  environment: process.env,
  cwd: process.cwd(),
});
