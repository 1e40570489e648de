import type { Readable } from "node:stream";

/** Where a command reads and writes: passed in, so that tests can hold it. */
export interface Io {
  /** @throws OutputLost when the answer cannot be written any more */
  out(text: string): void;
  err(text: string): void;
  /** Columns of the terminal that is written to, or for sentences where there is none. */
  readonly columns: number;
  readonly isTerminal: boolean;
  readonly colors: boolean;
  /** Whether what goes to `err` may be coloured. */
  readonly errorColors: boolean;
  /** Whether a person is there to answer, and to see progress. */
  readonly isAttended: boolean;
  /**
   * Asks the person and gives the answer; undefined when their input has ended (Ctrl+D).
   * @throws Interrupted where they broke it off (Ctrl+C)
   */
  ask(question: string): Promise<string | undefined>;
  /** Shows a long answer page by page; undefined where nobody sees it on a terminal. */
  readonly page: ((text: string) => void) | undefined;
  readonly input: Readable;
  /** Comes when a person or the system ends what would else go on: a server, a watch. */
  untilEnded(): Promise<void>;
  now(): Date;
  readonly environment: Readonly<Record<string, string | undefined>>;
  readonly cwd: string;
}
