import { resolve } from "node:path";
import { causeLines, countText } from "../report/findings.js";
import type { Io } from "../report/io.js";
import { findingJson, jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import type { CommandFile, ExitCode } from "./command-file.js";
import { importTable, type ImportResult } from "./flow/import-table.js";
import { surroundingsOf, withCatalogue } from "./flow/open-catalogue.js";
import { validOptions } from "./options/valid-options.js";

const delimiterNames: Readonly<Record<string, string>> = {
  ",": "commas",
  ";": "semicolons",
  "\t": "tabs",
  "|": "bars",
};

/** `lexicant import FILE`: a CSV file into one layer of the catalogue. */
export const importFile: CommandFile = {
  declare: (command) =>
    command
      .argument("<file>", "a CSV file")
      .option("--source <name>", "read the file by sources/NAME.yaml (else by the source of the file's name)")
      .option("--sku <column>", "the column that holds the SKU, where there is no source file yet")
      .option("--encoding <name>", "utf-8, utf-16le or windows-1252"),
  async run({ args, options, io }) {
    const [file = ""] = args;
    const given = await validOptions(
      options,
      ["source", "sku", "encoding"],
      async () => (await import("./options/import-options.js")).ImportOptions,
    );
    return withCatalogue(options.workspace, io, async ({ workspace, store }) => {
      const result = await importTable(workspace, store, {
        path: resolve(io.cwd, file),
        shown: file,
        source: given.source,
        skuColumn: given.sku,
        encoding: given.encoding,
        at: io.now().toISOString(),
        surroundings: surroundingsOf(io),
        onFinding: (finding) => {
          if (options.json) io.out(findingJson(finding));
        },
      });
      if (options.json)
        io.out(
          jsonLine({
            type: "import",
            file,
            source: result.source.name,
            layer: result.source.settings.layer,
            ...result.counts,
            rejectedFile: result.rejectedFile,
          }),
        );
      else if (!options.quiet) io.out(`${summary(result, io).join("\n")}\n`);
      return (result.counts.rejected > 0 ? 1 : 0) satisfies ExitCode;
    });
  },
};

const summary = (
  { table, source, proposed, counts, causes, rejectedFile }: ImportResult,
  io: Io,
): readonly string[] => {
  const style = styleFor(io);
  const { read, added, changed, unchanged, rejected } = counts;
  const number = (count: number): string => count.toLocaleString("en");
  return [
    `${style.bold(table.file)}: ${countText(read, "row")}, ${countText(table.header.filter(Boolean).length, "column")}, ` +
      `${table.encoding.toUpperCase()}, ${delimiterNames[table.delimiter] ?? table.delimiter}; read by sources/${source.name}.yaml into the layer ${source.settings.layer}`,
    `  ${number(added)} added + ${number(changed)} changed + ${number(unchanged)} unchanged + ${number(rejected)} rejected`,
    ...(rejectedFile === undefined
      ? []
      : [
          `  rejected rows with their reasons: ${rejectedFile} (correct them there and import that file with --source ${source.name})`,
        ]),
    ...(proposed === undefined ? [] : proposalLines(proposed, source.name)),
    ...causeLines(causes.causes(), io),
  ];
};

const proposalLines = (proposed: NonNullable<ImportResult["proposed"]>, name: string): readonly string[] => {
  const known = proposed.filter((proposal) => proposal.known);
  const own = proposed.filter((proposal) => !proposal.known);
  const list = (proposals: typeof proposed): string =>
    proposals.map(({ attribute, columns }) => `${attribute} ← ${columns.join(", ")}`).join("; ");
  return [
    `  there was no source file: sources/${name}.yaml was written from the column names. Read it once and correct it.`,
    `  understood: ${list(known)}`,
    ...(own.length === 0 ? [] : [`  kept as attributes of your own: ${list(own)}`]),
  ];
};
