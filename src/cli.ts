import { Command, CommanderError } from "commander";
import { commands, type CommandEntry } from "./commands/commands.js";
import type { CommonOptions } from "./commands/command-file.js";
import type { ExitCode } from "./io/exit-code.js";
import { diagnostic, type Diagnostic } from "./core/diagnostics/diagnostic.js";
import { Refusal } from "./core/diagnostics/refusal.js";
import { findingLines } from "./report/findings.js";
import type { Io } from "./io/io.js";
import { guardedIo } from "./io/terminal-text.js";
import { OutputLost } from "./io/output-lost.js";
import { findingJson } from "./report/json.js";
import { version } from "./workspace/version.js";

/** Runs one command line and returns its exit code; nothing is thrown and the process is left alone. */
export const runCommandLine = async (argv: readonly string[], world: Io): Promise<ExitCode> => {
  const io = guardedIo(world);
  const wantsJson = argv.includes("--json");
  try {
    return await dispatch(argv, io);
  } catch (error) {
    if (error instanceof CommanderError) return commanderExit(error, io, wantsJson);
    if (error instanceof OutputLost) return outputLost(error, io);
    const refusal = error instanceof Refusal ? error : fault(error);
    printFindings(refusal.findings, io, wantsJson);
    if (
      !(error instanceof Refusal) &&
      io.environment["LEXICANT_TRACE"] !== undefined &&
      error instanceof Error
    )
      io.err(`${error.stack ?? ""}\n`);
    return refusal.exit;
  }
};

/** What was begun is rolled back; who went away on purpose is not told. */
const outputLost = (error: OutputLost, io: Io): ExitCode => {
  const lost = diagnostic("cannot-write", { path: "standard output", reason: error.message });
  if (!error.isReaderGone) io.err(`${findingLines(lost, io).join("\n")}\n`);
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

const withCommonOptions = (command: Command): Command =>
  command
    .option("-C, --workspace <dir>", "the workspace's folder")
    .option("--json", "answer in JSON Lines, for programs")
    .option("--quiet", "no messages beside the result");

const dispatch = async (argv: readonly string[], io: Io): Promise<ExitCode> => {
  let exit: ExitCode = 0;
  const program = withCommonOptions(new Command("lexicant"))
    .description("Makes each sales channel's listing files from one master catalogue.")
    .version(version(), "-V, --version")
    .usage("COMMAND [arguments] [options]")
    .helpCommand("help [COMMAND]", "show how a command is used")
    .configureHelp({ subcommandTerm: (command) => `${command.name()} ${command.usage()}`.trim() })
    .configureOutput({
      writeOut: (text) => io.out(text),
      writeErr: () => undefined,
      getOutHelpWidth: () => io.columns,
    })
    .exitOverride();
  const called = calledCommand(argv);
  for (const entry of commands) {
    const command = program
      .command(entry.name)
      .summary(entry.summary)
      .description(`${entry.summary[0]?.toUpperCase()}${entry.summary.slice(1)}.`);
    if (entry.name === called?.name) await declare(command, entry, io, (code) => (exit = code));
    else command.usage(entry.args).allowUnknownOption();
  }
  if (argv.length === 0) {
    program.outputHelp();
    return 0;
  }
  await program.parseAsync([...argv], { from: "user" });
  return exit;
};

const declare = async (
  command: Command,
  entry: CommandEntry,
  io: Io,
  done: (code: ExitCode) => void,
): Promise<void> => {
  const file = await entry.load();
  withCommonOptions(file.declare(command)).action(async () => {
    const given: Record<string, unknown> & Partial<CommonOptions> = command.optsWithGlobals();
    const options = {
      ...given,
      workspace: given.workspace ?? ".",
      json: given.json === true,
      quiet: given.quiet === true,
    };
    done(await file.run({ args: command.args, options, io }));
  });
};

/** The command that a line calls, so that no other command's file is loaded. */
const calledCommand = (argv: readonly string[]): CommandEntry | undefined => {
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i] ?? "";
    if (word === "-C" || word === "--workspace") i++;
    else if (word === "help") continue;
    else if (!word.startsWith("-")) return commands.find(({ name }) => name === word);
  }
  return undefined;
};

const commanderExit = (error: CommanderError, io: Io, json: boolean): ExitCode => {
  if (error.exitCode === 0) return 0;
  const reason = error.message.replace(/^error: /, "").replace(/\n/g, " ");
  printFindings(
    [diagnostic("unknown-option", { reason: `${reason}; "lexicant help" shows the commands` })],
    io,
    json,
  );
  return 2;
};
