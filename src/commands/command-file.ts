/** The shapes that every command has in common: what it is given and what it must be able to say of itself. */
import type { Command } from "commander";
import type { ExitCode } from "../io/exit-code.js";
import type { OptionTable } from "./options/given-options.js";
import type { NamedFolder } from "../workspace/named-folder.js";
import type { Io } from "../io/io.js";

/** What every command is given: its arguments and options as Commander read them. */
export interface Request<Options> {
  readonly args: readonly string[];
  readonly options: Options & CommonOptions;
  readonly io: Io;
}

/** What every command is given, whatever it does. */
export interface CommonOptions {
  readonly workspace: NamedFolder;
  readonly json: boolean;
  readonly quiet: boolean;
  /** The command's own name, for those who wait for it. */
  readonly command: string;
}

/** A command line, without the program's name, and what it does. */
export type Example = readonly [line: string, does: string];

/** One command: how it is declared, and what it does. */
export interface CommandFile {
  /** Its own options, once for all. */
  readonly options: OptionTable;
  /** Its arguments as Commander takes them, each with its help. */
  readonly args: readonly (readonly [syntax: string, help: string])[];
  readonly examples: readonly Example[];
  declare(command: Command): Command;
  run(request: Request<Record<string, unknown>>): Promise<ExitCode>;
}

/** The steps of the work, in their order. */
export type CommandGroup =
  | "Begin"
  | "The catalogue"
  | "What channels demand"
  | "Decide"
  | "See what is missing"
  | "Build and send"
  | "The program itself";

/** A command's line in the help, and its file, loaded only when the command is called. */
export interface CommandEntry {
  readonly name: string;
  readonly group: CommandGroup;
  readonly args: string;
  readonly summary: string;
  /** Whether it only answers, always or with the flag that is named: a long answer is shown page by page, and ends where nobody reads it. Any other does its work whoever reads. */
  readonly answers?: true | "list";
  load(): Promise<CommandFile>;
}
