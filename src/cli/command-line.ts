/**
 * From words on a command line to an exit code: finds the command, declares its options to Commander, gives it its
 * world and its options, and turns whatever is thrown into an ending. It loads nothing but the command that is called.
 */
import { greatest } from "../core/many.js";
import { Command } from "commander";
import { failed, outputLost, unknownCommand } from "./ending.js";
import { calledCommand, firstWord } from "./words.js";
import { COLOR_WORDS, isColor, wishedIo } from "./world.js";
import { commands } from "../commands/commands.js";
import type { CommandEntry, CommandFile, CommonOptions } from "../commands/command-file.js";
import { commonOptions } from "../commands/options/common-options.js";
import { environmentAdvice, refuseEnvironment } from "../commands/options/environment.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { pagedIo, workingIo } from "../io/bounded-io.js";
import type { ExitCode } from "../io/exit-code.js";
import type { Io } from "../io/io.js";
import { guardedIo } from "../io/terminal-text.js";
import { findingLines } from "../report/findings.js";
import { version } from "../workspace/version.js";

/** Runs one command line and returns its exit code; nothing is thrown and the process is left alone. */
export async function runCommandLine(argv: readonly string[], world: Io): Promise<ExitCode> {
  const io = guardedIo(wishedIo(argv, world));
  try {
    return await dispatch(argv, io);
  } catch (error) {
    return failed(error, argv, io);
  }
}

/** Options of the whole program, with those of how it speaks: they are read before any other, since errors are spoken by them too. */
const withCommonOptions = (command: Command): Command =>
  commonOptions.reduce(
    (declared, [flags, help]) => declared.option(flags, help),
    command.optionsGroup("Options of every command:"),
  );

async function dispatch(argv: readonly string[], io: Io): Promise<ExitCode> {
  refuseEnvironment(io.environment);
  for (const advice of environmentAdvice(io.environment)) io.err(`${findingLines(advice, io).join("\n")}\n`);
  let exit: ExitCode = 0;
  const program = withCommonOptions(new Command("lexicant"))
    .description("Makes each sales channel's listing files from one master catalogue.")
    .version(version(), "-V, --version")
    .usage("COMMAND [arguments] [options]")
    .helpOption("-h, --help", "show this help")
    .helpCommand(false)
    .configureHelp({ subcommandTerm: (command) => `${command.name()} ${command.usage()}`.trim() })
    .configureOutput({
      writeOut: (text) => (io.page ?? io.out)(text),
      writeErr: () => undefined,
      getOutHelpWidth: () => io.columns,
      getOutHasColors: () => io.colors,
    })
    .exitOverride();
  const words = asHelp(argv);
  const called = calledCommand(words);
  for (const entry of commands) {
    const command = program
      .command(entry.name)
      .helpGroup(`${entry.group}:`)
      .summary(entry.summary)
      .description(`${entry.summary[0]?.toUpperCase()}${entry.summary.slice(1)}.`);
    if (entry.name === called?.name) await declare(command, entry, io, (code) => (exit = code));
    else command.usage(entry.args || " ").allowUnknownOption();
  }
  program.addHelpText("after", '\n"lexicant help COMMAND" shows how a command is used, with examples.');
  if (words.length === 0) {
    program.outputHelp();
    return 0;
  }
  await program.parseAsync([...words], { from: "user" });
  return exit;
}

/** `help build` is `build --help`. */
function asHelp(argv: readonly string[]): readonly string[] {
  const at = firstWord(argv);
  if (argv[at] !== "help") return argv;
  const others = argv.filter((_, index) => index !== at);
  const next = firstWord(others);
  const name = others[next];
  if (name !== undefined && !commands.some((command) => command.name === name)) throw unknownCommand(name);
  return [...others, "--help"];
}

async function declare(
  command: Command,
  entry: CommandEntry,
  io: Io,
  done: (code: ExitCode) => void,
): Promise<void> {
  const file = await entry.load();
  withCommonOptions(file.declare(command)).action(async () => {
    const given: Record<string, unknown> = command.optsWithGlobals();
    done(await run(entry, file, command.args, given, io));
  });
  command.addHelpText("after", examplesText(file, io.columns));
}

/** Each example in a line where all fit beside what they do, else above it. */
function examplesText({ examples }: CommandFile, columns: number): string {
  const width = greatest(examples.map(([line]) => line.length));
  const isWide = width + greatest(examples.map(([, does]) => does.length)) + 13 > columns;
  const lines = examples.map(([line, does]) =>
    isWide ? `  lexicant ${line}\n      ${does}` : `  lexicant ${line.padEnd(width)}  ${does}`,
  );
  return `\nExamples:\n${lines.join("\n")}`;
}

/** A command that only answers is shown page by page and ends with its reader; any other does its work whoever reads. */
async function run(
  entry: CommandEntry,
  file: CommandFile,
  args: readonly string[],
  given: Record<string, unknown>,
  io: Io,
): Promise<ExitCode> {
  const { color } = given;
  if (typeof color === "string" && !isColor(color))
    throw new Refusal([
      diagnostic("unknown-option", { reason: `--color is one of ${COLOR_WORDS.join(", ")}` }),
    ]);
  const options = { ...given, ...commonOf(entry, given, io) };
  const isAnswer = entry.answers === true || (entry.answers !== undefined && given[entry.answers] === true);
  if (!isAnswer) {
    const working = workingIo(io);
    const exit = await file.run({ args, options, io: working.io });
    const lost = working.lost();
    return lost === undefined ? exit : outputLost(lost, io);
  }
  if (io.page === undefined || given["watch"] === true) return file.run({ args, options, io });
  const paged = pagedIo(io, io.page);
  try {
    return await file.run({ args, options, io: paged.io });
  } finally {
    paged.end();
  }
}

function commonOf({ name: command }: CommandEntry, given: Record<string, unknown>, io: Io): CommonOptions {
  const { workspace, json, quiet } = given;
  const fromWorld = io.environment["LEXICANT_WORKSPACE"];
  return {
    workspace:
      typeof workspace === "string"
        ? { folder: workspace, named: "-C" }
        : fromWorld === undefined || fromWorld === ""
          ? { folder: ".", named: undefined }
          : { folder: fromWorld, named: "LEXICANT_WORKSPACE" },
    json: json === true,
    quiet: quiet === true,
    command,
  };
}
