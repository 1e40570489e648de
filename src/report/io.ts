/** Where a command reads and writes: passed in, so that tests can hold it. */
export interface Io {
  out(text: string): void;
  err(text: string): void;
  readonly columns: number;
  readonly isTerminal: boolean;
  readonly colors: boolean;
  now(): Date;
  readonly environment: Readonly<Record<string, string | undefined>>;
  readonly cwd: string;
}
