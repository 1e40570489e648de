import type { Readable } from "node:stream";

/** Where a command reads and writes: passed in, so that tests can hold it. */
export interface Io {
  /** @throws OutputLost when nobody reads any more and the command's work has not landed yet: it is to be rolled back */
  out(text: string): void;
  err(text: string): void;
  /** The command's work stands: from now on it ends as it would, whether its answer is read or not. */
  landed(): void;
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
