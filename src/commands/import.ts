import type { Workspace } from "../workspace/workspace.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { workers } from "./options/shared-options.js";
import { tellErrors } from "../report/tell-errors.js";
import { formats } from "../formats/table-stream.js";
import { encodings } from "../formats/text-stream.js";
import { command } from "./command.js";
import { flag, text, named, oneOf, wholeNumber, nameOrNumber } from "./options/option.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Surroundings } from "../core/language/function.js";
import { findingLines } from "../report/findings.js";
import type { Io } from "../io/io.js";
import { findingJson, jsonLine } from "../report/json.js";
import type { CommandFile, CommonOptions } from "./command-file.js";
import type { ExitCode } from "../io/exit-code.js";
import type { ByteSource } from "../formats/byte-source.js";
import type { AnswersResult } from "../flow/gaps/take-answers.js";
import { isGapFile } from "../flow/gaps/filled-sheets.js";
import { oneAct } from "../flow/one-act.js";
import type { CatalogueTransaction } from "../store/store.js";
import { importProgress, type ImportProgress } from "../flow/import/import-progress.js";
import { importReport, proposalLines } from "../report/import-report.js";
import {
  chooseFiles,
  importFiles,
  proposeSources,
  type FileResult,
  type ImportRequest,
  type ImportResult,
  type IncomingFile,
} from "../flow/import/import-files.js";
import { incomingFiles } from "../flow/import/incoming-files.js";
import {
  surroundingsOf,
  withCatalogue,
  withWritableCatalogue,
  type OpenCatalogue,
  type WritableCatalogue,
} from "../flow/open-catalogue.js";

/** `lexicant import FILE…`: files into layers of the catalogue, all or nothing. */
export const importFile: CommandFile = command({
  args: [
    [
      "[files...]",
      "files, patterns, or - for standard input: CSV, XLSX, XML, JSON, JSON Lines, in ZIP or gzip too",
    ],
  ],
  options: {
    source: named(
      "--source <name>",
      "read them by sources/NAME.yaml (else by the source that names the file)",
      "is a source's name: small letters, digits and dashes",
    ),
    accept: flag("--accept", "use the proposal where there is no source file yet, without asking"),
    skuColumn: text(
      "--sku-column <column>",
      "the column that holds the SKU, where there is no source file yet",
      "is a column's name",
      200,
    ),
    propose: flag("--propose", "only write the proposed source files, and import nothing"),
    again: flag("--again", "read the files of these sources once more (of all, where none is named)"),
    dryRun: flag("--dry-run", "say what would change, and change nothing"),
    replace: flag("--replace", "take back what the layer said before and these files do not say again"),
    dropVanished: flag("--drop-vanished", "with --replace: also for products that the files no longer have"),
    format: oneOf("--format <name>", "csv, xlsx, xml, json or jsonl, where the name misleads", formats),
    encoding: oneOf("--encoding <name>", "utf-8, utf-16le, utf-16be or windows-1252", encodings),
    sheet: nameOrNumber(
      "--sheet <name>",
      "the workbook's sheet, by name or number",
      "is a sheet's name or number",
    ),
    strict: flag("--strict", "end with 1 where any row or answer was rejected (else told, and 0)"),
    headerRow: wholeNumber("--header-row <number>", "the row with the columns' names", {
      message: "is the number of the row with the columns' names",
    }),
    workers,
  },
  examples: [
    ["import shop-export.csv", "read by the source that knows it, or by a proposal"],
    ["import *.csv --dry-run", "what would come, and nothing changed"],
    ["import filled.xlsx", "the answers of a gap sheet"],
  ],
  async run({ given, args, options, io }) {
    refuseIdle([
      [given.dropVanished && !given.replace, "--drop-vanished", "--replace"],
      [given.accept && given.propose, "--accept", "an import, not with --propose"],
      [given.source !== undefined && given.again, "--source", "files, and --again names sources itself"],
      [given.propose && given.again, "--propose", "files without a source, not with --again"],
      [given.accept && given.again, "--accept", "files without a source, not with --again"],
    ]);
    if (args.includes("-") && given.source === undefined)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: "standard input has no name; say how it is read with --source NAME",
        }),
      ]);
    if (given.again) return read(await again(args, options, io), given, options, io);
    if (args.length === 0)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: "name the files to read; or say --again to read those of before",
        }),
      ]);
    const incoming = await apart(await incomingFiles(args, io), given.source !== undefined);
    refuseIdle([
      [
        given.propose && incoming.sheets.length > 0,
        "--propose",
        "files without a source, not with gap sheets",
      ],
    ]);
    return read(incoming, given, options, io);
  },
});

/** What a command line says of an import. */
interface ImportGiven {
  readonly source: string | undefined;
  readonly skuColumn: string | undefined;
  readonly strict: boolean;
  readonly format: (typeof formats)[number] | undefined;
  readonly encoding: (typeof encodings)[number] | undefined;
  readonly sheet: string | number | undefined;
  readonly headerRow: number | undefined;
  readonly accept: boolean;
  readonly propose: boolean;
  readonly replace: boolean;
  readonly dropVanished: boolean;
  readonly dryRun: boolean;
  readonly workers: number | undefined;
}

/** What comes in: files for the catalogue, and filled gap sheets, which know themselves where their answers go. */
interface IncomingFiles {
  readonly files: readonly IncomingFile[];
  readonly sheets: readonly ByteSource[];
}

/** Files that sources read before, to be read once more, each by its source, in the order in which they came. */
async function again(sources: readonly string[], options: CommonOptions, io: Io): Promise<IncomingFiles> {
  const { filesAgain } = await import("../flow/import/read-again.js");
  const found = await withCatalogue(options.workspace, io, (open) =>
    filesAgain(open.workspace, open.store, sources),
  );
  const files: IncomingFile[] = [];
  for (const { path, source } of found)
    for (const file of await incomingFiles([path], io)) files.push({ file, source });
  return { files, sheets: [] };
}

/** Reads all that comes in as one act, and tells what became of it once that has landed. */
async function read(
  { files, sheets }: IncomingFiles,
  given: ImportGiven,
  options: CommonOptions,
  io: Io,
): Promise<ExitCode> {
  const sources = files.map(({ file }) => file);
  const progress = importProgress(sources, io, options.quiet || options.json);
  try {
    const isAsked = !(given.accept || given.dryRun || given.propose) && !options.json && io.isAttended;
    const choose = async (open: OpenCatalogue) => {
      const request = await requestOf(files, given, open, options, io, progress);
      return { request, chosen: await chooseFiles(open, request) };
    };
    const asked =
      isAsked && files.length > 0 ? await withCatalogue(options.workspace, io, choose) : undefined;
    const { answers, imported } = await withWritableCatalogue(
      options,
      io,
      async (open): Promise<LandedFiles> => {
        const own = files.length === 0 ? undefined : (asked ?? (await choose(open)));
        if (own !== undefined && given.propose) return { imported: await proposeSources(open, own.chosen) };
        const landed = await oneAct(
          open,
          async (transaction) => ({
            answers:
              sheets.length === 0
                ? undefined
                : await answersIn(sheets, open, transaction, given, options, io),
            imported: own && (await importFiles(open, transaction, own.chosen, own.request)),
          }),
          { isTrial: given.dryRun },
        );
        if (!given.dryRun) for (const { keep } of landed.imported?.files ?? []) await keep();
        return landed;
      },
    );
    progress.end();
    const exits = [
      answers === undefined ? 0 : await tellAnswers(answers, given, options, io),
      imported === undefined ? 0 : tellImported(imported, given, options, io),
    ];
    return exits.includes(1) ? 1 : 0;
  } finally {
    progress.end();
    for (const file of [...sources, ...sheets]) await file.close();
  }
}

interface LandedFiles {
  readonly answers?: AnswersResult | undefined;
  readonly imported?: ImportResult | undefined;
}

function tellImported(result: ImportResult, given: ImportGiven, options: CommonOptions, io: Io): ExitCode {
  const { dryRun, dropVanished } = given;
  if (options.json) for (const file of result.files) io.out(fileJson(file, dryRun));
  else if (options.quiet) tellErrors(result.causes.causes(), io);
  else io.out(`${importReport(result, io, { dryRun, dropVanished }).join("\n")}\n`);
  const rejected = result.files.reduce((sum, { counts }) => sum + counts.rejected, 0);
  const rows = result.files.reduce((sum, { counts }) => sum + counts.read, 0);
  return rejected > 0 && (given.strict || rejected === rows) ? 1 : 0;
}

const requestOf = async (
  files: readonly IncomingFile[],
  given: ImportGiven,
  { surroundings, workspace }: OpenCatalogue,
  options: CommonOptions,
  io: Io,
  progress: ImportProgress,
): Promise<ImportRequest> => ({
  files,
  source: given.source,
  skuColumn: given.skuColumn,
  stated: {
    format: given.format,
    encoding: given.encoding,
    sheet: given.sheet,
    headerRow: given.headerRow,
  },
  at: io.now().toISOString(),
  surroundings: await withoutFaultyTables(surroundings, io, workspace),
  replace: given.replace,
  dropVanished: given.dropVanished,
  dryRun: given.dryRun,
  workers: given.workers,
  onlyPropose: given.propose,
  review: reviewing(given.accept || given.dryRun || given.propose, options.json, io),
  onFinding: (finding) => {
    if (options.json) io.out(findingJson(finding));
  },
  onProgress: progress.at,
});

/** A source that is named is meant for all files. */
async function apart(incoming: readonly ByteSource[], isSourceNamed: boolean): Promise<IncomingFiles> {
  const files: IncomingFile[] = [];
  const sheets: ByteSource[] = [];
  for (const file of incoming)
    if (!isSourceNamed && (await isGapFile(file))) sheets.push(file);
    else files.push({ file });
  return { files, sheets };
}

async function answersIn(
  files: readonly ByteSource[],
  open: WritableCatalogue,
  transaction: CatalogueTransaction,
  { dryRun }: ImportGiven,
  options: CommonOptions,
  io: Io,
): Promise<AnswersResult> {
  const { takeAnswers } = await import("../flow/gaps/take-answers.js");
  return takeAnswers(open, transaction, {
    files,
    at: io.now().toISOString(),
    surroundings: await open.surroundings(),
    dryRun,
    onFinding: (finding) => {
      if (options.json) io.out(findingJson(finding));
    },
  });
}

async function tellAnswers(
  result: AnswersResult,
  { dryRun, strict }: ImportGiven,
  options: CommonOptions,
  io: Io,
): Promise<ExitCode> {
  const { answersJson, answersLines } = await import("../report/answers-report.js");
  if (options.json) io.out(answersJson(result, dryRun));
  else if (options.quiet) tellErrors(result.causes.causes(), io);
  else io.out(`${answersLines(result, dryRun, io).join("\n")}\n`);
  const isNothing = result.refused > 0 && result.refused === result.answers;
  return result.causes.count("error") > 0 && (strict || isNothing) ? 1 : 0;
}

/** What is wrong with a table of the user's own keeps no stock file out: an expression that needs it says so itself. */
async function withoutFaultyTables(
  surroundings: () => Promise<Surroundings>,
  io: Io,
  workspace: Workspace,
): Promise<Surroundings> {
  try {
    return await surroundings();
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    for (const finding of error.findings)
      io.err(`${findingLines({ ...finding, severity: "warning" }, io).join("\n")}\n`);
    return surroundingsOf(io, workspace);
  }
}

/** Shows a proposal, and lets it be corrected where somebody is there to answer. */
const reviewing =
  (accepted: boolean, json: boolean, io: Io): ImportRequest["review"] =>
  async (open) => {
    const { proposal, source, table } = open;
    if (json) io.out(jsonLine({ type: "proposal", source: source.name, file: table.file, ...proposal }));
    else if (!accepted && io.isAttended) {
      const { askProposal } = await import("../report/ask-proposal.js");
      return askProposal(open, io);
    } else io.out(`${proposalLines(proposal, source, open, io).join("\n")}\n`);
    return accepted ? proposal : undefined;
  };

const fileJson = (
  { file, source, counts, revision, channels, told, vanished, rejectedFile, from, changes }: FileResult,
  dryRun: boolean,
): string =>
  jsonLine({
    type: "import",
    file,
    source: source.name,
    layer: source.settings.layer,
    readAs: from.kind,
    told,
    ...counts,
    vanished,
    revision: dryRun ? undefined : revision,
    channels: channels.map((one) => (dryRun ? { ...one, revision: undefined } : one)),
    rejectedFile: dryRun ? undefined : rejectedFile,
    dryRun,
    ...(dryRun ? { changes } : {}),
  });
