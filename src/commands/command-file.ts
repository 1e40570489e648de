import type { Command } from "commander";
import type { Io } from "../report/io.js";

/** What every command is given: its arguments and options as Commander read them. */
export interface Request<Options> {
  readonly args: readonly string[];
  readonly options: Options & CommonOptions;
  readonly io: Io;
}

export interface CommonOptions {
  /** The workspace's folder (-C), relative to the current one. */
  readonly workspace: string;
  readonly json: boolean;
  readonly quiet: boolean;
}

/** 0 done, 1 done with errors in the data, 2 wrong usage or configuration, 3 could not finish. */
export type ExitCode = 0 | 1 | 2 | 3;

/** One command: how it is declared, and what it does. */
export interface CommandFile {
  declare(command: Command): Command;
  run(request: Request<Record<string, unknown>>): Promise<ExitCode>;
}
