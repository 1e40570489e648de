import type { Readable } from "node:stream";

/** Where a command reads and writes: passed in, so that tests can hold it. */
export interface Io {
  out(text: string): void;
  err(text: string): void;
  readonly columns: number;
  readonly isTerminal: boolean;
  readonly colors: boolean;
  /** Whether a person is there to answer, and to see progress. */
  readonly isAttended: boolean;
  /** Asks the person and gives the answer; undefined when their input has ended (Ctrl+D). */
  ask(question: string): Promise<string | undefined>;
  readonly input: Readable;
  now(): Date;
  readonly environment: Readonly<Record<string, string | undefined>>;
  readonly cwd: string;
}
