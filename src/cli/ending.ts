/**
 * How a command line ends by an error: a refusal in words with what may have been meant, Ctrl+C, a reader that went
 * away, or a fault of ours with where it happened. Leans on `core/diagnostics` for the words.
 */
import { relative } from "node:path";
import { CommanderError } from "commander";
import { calledCommand, firstWord } from "./words.js";
import { commands } from "../commands/commands.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { faultReason } from "../formats/file-fault.js";
import { nearest } from "../core/values/nearest.js";
import type { ExitCode } from "../io/exit-code.js";
import { Interrupted } from "../io/interrupted.js";
import type { Io } from "../io/io.js";
import { OutputLost } from "../io/output-lost.js";
import { findingLines } from "../report/findings.js";
import { findingJson } from "../report/json.js";

/** What is said of an error, and how the command ends by it. */
export function failed(error: unknown, argv: readonly string[], io: Io): ExitCode {
  const wantsJson = argv.includes("--json");
  if (error instanceof CommanderError) return commanderExit(error, argv, io, wantsJson);
  if (error instanceof OutputLost) return outputLost(error, io);
  if (error instanceof Interrupted) {
    io.err("Broken off; nothing was changed.\n");
    return 130;
  }
  const refusal = error instanceof Refusal ? error : (systemFault(error, io) ?? fault(error));
  try {
    printFindings(refusal.findings, io, wantsJson);
  } catch (lost) {
    if (lost instanceof OutputLost) return outputLost(lost, io);
    throw lost;
  }
  const isTraced = io.environment["LEXICANT_TRACE"] !== undefined;
  if (isTraced && !(error instanceof Refusal) && error instanceof Error) io.err(`${error.stack ?? ""}\n`);
  return refusal.exit;
}

/** Who went away on purpose is not told; a device that took no more is. */
export function outputLost(error: OutputLost, io: Io): ExitCode {
  if (error.isReaderGone) return 141;
  io.err(`${findingLines(diagnostic("answer-lost", { reason: error.message }), io).join("\n")}\n`);
  return 3;
}

const READS = /^(?:open|read|stat|lstat|scandir|readlink|access)$/;

/** What the system refuses, wherever it comes up, is told as such and never as a fault of ours. */
function systemFault(error: unknown, io: Io): Refusal | undefined {
  if (!(error instanceof Error) || !("syscall" in error) || typeof error.syscall !== "string")
    return undefined;
  const path = "path" in error && typeof error.path === "string" ? relative(io.cwd, error.path) : "a file";
  const code = READS.test(error.syscall) ? "cannot-read" : "cannot-write";
  return new Refusal([diagnostic(code, { path, reason: faultReason(error) })], 3);
}

const fault = (error: unknown): Refusal =>
  new Refusal(
    [diagnostic("internal-fault", { reason: error instanceof Error ? error.message : String(error) })],
    3,
  );

function printFindings(findings: readonly Diagnostic[], io: Io, json: boolean): void {
  if (json) for (const finding of findings) io.out(findingJson(finding));
  else for (const finding of findings) io.err(`${findingLines(finding, io).join("\n")}\n`);
}

/** The refusal of a command that there is none of, with those that were probably meant. */
export function unknownCommand(name: string): Refusal {
  const near = nearest(name, [...commands.map((command) => command.name), "help"]);
  const found = near.length === 0 ? "" : `; nearest: ${near.join(", ")}`;
  return new Refusal([
    diagnostic("unknown-option", {
      reason: `there is no command "${name}"${found}; "lexicant help" shows them all`,
    }),
  ]);
}

function commanderExit(error: CommanderError, argv: readonly string[], io: Io, json: boolean): ExitCode {
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
}
