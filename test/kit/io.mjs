// A world for a command line that runs in this thread: nobody at a terminal, nothing to read, what is said handed on.
import { Readable } from "node:stream";

/** @param {{ cwd: string, environment: NodeJS.ProcessEnv, out(text: string): void, err(text: string): void, input?: string | Uint8Array, ended?: Promise<void> }} world */
export const worldOf = ({ cwd, environment, out, err, input, ended = new Promise(() => undefined) }) => ({
  out,
  err,
  cwd,
  environment,
  columns: Number(environment.COLUMNS),
  isTerminal: false,
  colors: false,
  errorColors: false,
  page: undefined,
  isAttended: false,
  ask: () => Promise.resolve(undefined),
  input: Readable.from(input === undefined ? [] : [Buffer.from(input)]),
  untilEnded: () => ended,
  now: () => new Date(),
});
