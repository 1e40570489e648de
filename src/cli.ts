import { Command, CommanderError } from "commander";
import { commands } from "./commands/commands.js";
import type { CommandEntry, CommandFile, CommonOptions } from "./commands/command-file.js";
import type { ExitCode } from "./io/exit-code.js";
import { diagnostic, type Diagnostic } from "./core/diagnostics/diagnostic.js";
import { Refusal } from "./core/diagnostics/refusal.js";
import { nearest } from "./core/values/nearest.js";
import { pagedIo, workingIo } from "./io/bounded-io.js";
import { environmentAdvice, refuseEnvironment } from "./commands/options/environment.js";
import { commonOptions } from "./commands/options/common-options.js";
import { Interrupted } from "./io/interrupted.js";
import { findingLines } from "./report/findings.js";
import type { Io } from "./io/io.js";
import { guardedIo } from "./io/terminal-text.js";
import { OutputLost } from "./io/output-lost.js";
import { findingJson } from "./report/json.js";
import { version } from "./workspace/version.js";

/** Runs one command line and returns its exit code; nothing is thrown and the process is left alone. */
export const runCommandLine = async (argv: readonly string[], world: Io): Promise<ExitCode> => {
  const io = guardedIo(wishedIo(argv, world));
  try {
    return await dispatch(argv, io);
  } catch (error) {
    return failed(error, argv, io);
  }
};

/** What is said of an error, and how the command ends by it. */
const failed = (error: unknown, argv: readonly string[], io: Io): ExitCode => {
  const wantsJson = argv.includes("--json");
  if (error instanceof CommanderError) return commanderExit(error, argv, io, wantsJson);
  if (error instanceof OutputLost) return outputLost(error, io);
  if (error instanceof Interrupted) {
    io.err("Broken off; nothing was changed.\n");
    return 130;
  }
  const refusal = error instanceof Refusal ? error : fault(error);
  try {
    printFindings(refusal.findings, io, wantsJson);
  } catch (lost) {
    if (lost instanceof OutputLost) return outputLost(lost, io);
    throw lost;
  }
  const isTraced = io.environment["LEXICANT_TRACE"] !== undefined;
  if (isTraced && !(error instanceof Refusal) && error instanceof Error) io.err(`${error.stack ?? ""}\n`);
  return refusal.exit;
};

/** Who went away on purpose is not told; a device that took no more is. */
const outputLost = (error: OutputLost, io: Io): ExitCode => {
  if (error.isReaderGone) return 141;
  io.err(`${findingLines(diagnostic("answer-lost", { reason: error.message }), io).join("\n")}\n`);
  return 3;
};

const fault = (error: unknown): Refusal =>
  new Refusal(
    [diagnostic("internal-fault", { reason: error instanceof Error ? error.message : String(error) })],
    3,
  );

const printFindings = (findings: readonly Diagnostic[], io: Io, json: boolean): void => {
  if (json) for (const finding of findings) io.out(findingJson(finding));
  else for (const finding of findings) io.err(`${findingLines(finding, io).join("\n")}\n`);
};

const COLOR_WORDS = ["auto", "always", "never"] as const;

/** Options of the whole program, with those of how it speaks: they are read before any other, since errors are spoken by them too. */
const withCommonOptions = (command: Command): Command =>
  commonOptions.reduce(
    (declared, [flags, help]) => declared.option(flags, help),
    command.optionsGroup("Options of every command:"),
  );

const colorWord = (argv: readonly string[]): string | undefined => {
  const at = argv.findLastIndex((word) => word === "--color" || word.startsWith("--color="));
  const word = argv[at];
  return word?.includes("=") === true ? word.slice("--color=".length) : argv[at + (at < 0 ? 0 : 1)];
};

const isColor = (word: string | undefined): boolean =>
  word === undefined || COLOR_WORDS.some((known) => known === word);

/** The world as the command line wants it: with or without colours, questions, pages. */
const wishedIo = (argv: readonly string[], world: Io): Io => {
  const color = argv.some((word) => word.startsWith("--color")) ? colorWord(argv) : undefined;
  const paint = (auto: boolean): boolean => (color === "always" ? true : color === "never" ? false : auto);
  return {
    ...world,
    colors: paint(world.colors),
    errorColors: paint(world.errorColors),
    isAttended: world.isAttended && !argv.includes("--no-input"),
    page: argv.includes("--no-pager") || argv.includes("--json") ? undefined : world.page,
  };
};

const dispatch = async (argv: readonly string[], io: Io): Promise<ExitCode> => {
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
};

/** `help build` is `build --help`. */
const asHelp = (argv: readonly string[]): readonly string[] => {
  const at = firstWord(argv);
  if (argv[at] !== "help") return argv;
  const others = argv.filter((_, index) => index !== at);
  const next = firstWord(others);
  const name = others[next];
  if (name !== undefined && !commands.some((command) => command.name === name)) throw unknownCommand(name);
  return [...others, "--help"];
};

const unknownCommand = (name: string): Refusal => {
  const near = nearest(name, [...commands.map((command) => command.name), "help"]);
  const found = near.length === 0 ? "" : `; nearest: ${near.join(", ")}`;
  return new Refusal([
    diagnostic("unknown-option", {
      reason: `there is no command "${name}"${found}; "lexicant help" shows them all`,
    }),
  ]);
};

const declare = async (
  command: Command,
  entry: CommandEntry,
  io: Io,
  done: (code: ExitCode) => void,
): Promise<void> => {
  const file = await entry.load();
  withCommonOptions(file.declare(command)).action(async () => {
    const given: Record<string, unknown> = command.optsWithGlobals();
    done(await run(entry, file, command.args, given, io));
  });
  command.addHelpText("after", examplesText(file, io.columns));
};

/** Each example in a line where all fit beside what they do, else above it. */
const examplesText = ({ examples }: CommandFile, columns: number): string => {
  const width = Math.max(...examples.map(([line]) => line.length));
  const isWide = width + Math.max(...examples.map(([, does]) => does.length)) + 13 > columns;
  const lines = examples.map(([line, does]) =>
    isWide ? `  lexicant ${line}\n      ${does}` : `  lexicant ${line.padEnd(width)}  ${does}`,
  );
  return `\nExamples:\n${lines.join("\n")}`;
};

/** A command that only answers is shown page by page and ends with its reader; any other does its work whoever reads. */
const run = async (
  entry: CommandEntry,
  file: CommandFile,
  args: readonly string[],
  given: Record<string, unknown>,
  io: Io,
): Promise<ExitCode> => {
  const { color } = given;
  if (typeof color === "string" && !isColor(color))
    throw new Refusal([
      diagnostic("unknown-option", { reason: `--color is one of ${COLOR_WORDS.join(", ")}` }),
    ]);
  const options = { ...given, ...commonOf(given, io) };
  if (entry.answers !== true) {
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
};

const commonOf = (given: Record<string, unknown>, io: Io): CommonOptions => {
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
  };
};

/** Where the command's name stands: options of the program may come before it. */
const firstWord = (argv: readonly string[]): number => {
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i] ?? "";
    if (word === "-C" || word === "--workspace" || word === "--color") i++;
    else if (!word.startsWith("-")) return i;
  }
  return -1;
};

/** The command that a line calls, so that no other command's file is loaded. */
const calledCommand = (argv: readonly string[]): CommandEntry | undefined => {
  const word = argv[firstWord(argv)];
  return commands.find(({ name }) => name === word);
};

const commanderExit = (error: CommanderError, argv: readonly string[], io: Io, json: boolean): ExitCode => {
  if (error.exitCode === 0) return 0;
  const word = argv[firstWord(argv)];
  const called = calledCommand(argv);
  if (called === undefined && word !== undefined && error.code === "commander.unknownCommand") {
    printFindings(unknownCommand(word).findings, io, json);
    return 2;
  }
  const reason = error.message
    .replace(/^error: /, "")
    .replace(
      /^too many arguments for '(.*)'\. Expected (\d+) arguments? but got (\d+)\./,
      "$1 takes no more than $2 arguments, and $3 are given",
    )
    .replace(/^option '(--[a-z-]+).*' argument '.*' is invalid\. It is /, "$1 is ")
    .replace(/\n\(Did you mean (?:one of )?(.*?)\?\)/, "; nearest: $1")
    .replace(/\n/g, " ")
    .replaceAll("'", '"');
  const help = called === undefined ? "help" : `help ${called.name}`;
  printFindings(
    [diagnostic("unknown-option", { reason: `${reason}; "lexicant ${help}" shows what there is` })],
    io,
    json,
  );
  return 2;
};
