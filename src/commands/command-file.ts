import type { Command } from "commander";
import type { ExitCode } from "../io/exit-code.js";
import type { OptionTable } from "./options/given-options.js";
import type { Io } from "../io/io.js";

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

/** One command: how it is declared, and what it does. */
export interface CommandFile {
  /** Its own options, once for all. */
  readonly options: OptionTable;
  declare(command: Command): Command;
  run(request: Request<Record<string, unknown>>): Promise<ExitCode>;
}
