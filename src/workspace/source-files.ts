import { existsSync } from "node:fs";
import { readdir } from "node:fs/promises";
import { basename } from "node:path";
import type { ColumnReading, RowReading } from "../core/catalogue/row-reader.js";
import type { ColumnProposal } from "../core/catalogue/propose-columns.js";
import { isAttributeName, attributeKind } from "../core/catalogue/vocabulary.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Surroundings } from "../core/language/function.js";
import { namesOf } from "../core/language/names.js";
import { keywords } from "../core/language/token.js";
import { program } from "../core/language/program.js";
import type { TableStream } from "../formats/csv-reader.js";
import { loadSettings } from "./load-settings.js";
import type { ManifestModel } from "./models/manifest-model.js";
import type { SourceModel } from "./models/source-model.js";
import { writeFileWhole } from "./write-file.js";
import type { Workspace } from "./workspace.js";
import { expressionAt, parseYaml, readYaml, type YamlFile } from "./yaml-file.js";

/** A source file, read and checked as far as no table is needed. */
export interface Source {
  readonly name: string;
  readonly settings: SourceModel;
  readonly yaml: YamlFile;
}

const DEFAULT_LIST_SEPARATOR = "|";

/** A source's name after a file: `Shop Export 2026.csv` gives `shop-export-2026`. */
export const sourceNameFor = (path: string): string =>
  basename(path)
    .replace(/\.[^.]+$/, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "") || "source";

export const sourceExists = (workspace: Workspace, name: string): boolean =>
  existsSync(workspace.path("sources", `${name}.yaml`));

/** Loads `sources/NAME.yaml`, or refuses with the names there are. */
export const loadSource = async (workspace: Workspace, name: string): Promise<Source> => {
  if (!sourceExists(workspace, name))
    throw new Refusal([diagnostic("unknown-source", { source: name, known: await sourceNames(workspace) })]);
  const file = `sources/${name}.yaml`;
  const yaml = await readYaml(workspace.path("sources", `${name}.yaml`), file);
  const settings = await loadSettings(
    yaml,
    async () => (await import("./models/source-model.js")).SourceModel,
  );
  const { layers } = workspace.manifest;
  if (!layers.includes(settings.layer))
    throw new Refusal([
      diagnostic("unknown-layer", { layer: settings.layer, known: layers }, { place: yaml.place(["layer"]) }),
    ]);
  return { name, settings, yaml };
};

const sourceNames = async (workspace: Workspace): Promise<readonly string[]> => {
  const folder = workspace.path("sources");
  if (!existsSync(folder)) return [];
  return (await readdir(folder))
    .filter((file) => file.endsWith(".yaml"))
    .map((file) => file.slice(0, -".yaml".length))
    .sort();
};

/**
 * Ties a source to the header of the file at hand.
 * @throws Refusal with every column that the file does not have and every wrong expression
 */
export const readingFor = (
  { settings, yaml }: Source,
  table: TableStream,
  manifest: ManifestModel,
  surroundings: Surroundings,
): RowReading => {
  const names = namesOf(
    "column",
    table.header.map((name) => ({ name, kind: "text" })),
  );
  const findings: Diagnostic[] = [];
  const columns = Object.keys(settings.columns).flatMap((attribute): readonly ColumnReading[] => {
    if (!isAttributeName(attribute)) {
      const facts = {
        key: attribute,
        reason: "an attribute's name has small letters, digits and underscores, as in name or name@de",
      };
      findings.push(diagnostic("wrong-setting", facts, { place: yaml.place(["columns", attribute]) }));
      return [];
    }
    const source = expressionAt(yaml, ["columns", attribute]);
    if (source === undefined) {
      findings.push(
        diagnostic(
          "wrong-setting",
          { key: attribute, reason: "a column is wanted" },
          { place: yaml.place(["columns", attribute]) },
        ),
      );
      return [];
    }
    const index = names.find(source.text.replace(/^`(.*)`$/, "$1"))?.slot;
    if (index !== undefined)
      return [{ attribute, column: table.header[index] ?? "", from: { kind: "column", index } }];
    const compiled = program(source, names, surroundings);
    if (compiled.kind === "faulty") {
      findings.push(...compiled.findings);
      return [];
    }
    const read = compiled.reads.map((slot) => table.header[slot] ?? "");
    return [
      { attribute, column: read.join(", ") || source.text, from: { kind: "expression", run: compiled.run } },
    ];
  });
  if (!columns.some(({ attribute }) => attribute === "sku"))
    findings.push(
      diagnostic(
        "no-key-column",
        { key: "sku", columns: table.header.filter(Boolean) },
        { place: yaml.place(["columns"]) },
      ),
    );
  if (findings.length > 0) throw new Refusal(findings);
  return {
    file: table.file,
    columns,
    defaults: { currency: settings.currency ?? manifest.currency, decimalMark: settings.decimal_mark ?? "." },
    units: settings.units ?? {},
    listSeparator: settings.list_separator ?? DEFAULT_LIST_SEPARATOR,
    clearWord: settings.clear_word,
  };
};

const columnExpression = (column: string): string =>
  /^[\p{L}_][\p{L}\p{N}_]*$/u.test(column) && !(keywords as readonly string[]).includes(column)
    ? column
    : `\`${column.replaceAll("'", "''")}\``;

/** `list` takes four values at a time; longer lists nest. */
const listExpression = (columns: readonly string[]): string => {
  const [own, rest] = columns.length <= 4 ? [columns, []] : [columns.slice(0, 3), columns.slice(3)];
  return `list(${[...own.map(columnExpression), ...(rest.length === 0 ? [] : [listExpression(rest)])].join(", ")})`;
};

const yamlExpression = (expression: string): string =>
  /^[\p{L}_][\p{L}\p{N}_]*$/u.test(expression) ? expression : `'${expression}'`;

/** A source made from a proposal: it exists in memory, as the very text that {@link saveProposedSource} would write. */
export const proposedSource = async (
  name: string,
  proposals: readonly ColumnProposal[],
  manifest: ManifestModel,
): Promise<Source> => {
  const lines = proposals.map(({ attribute, columns }) => {
    const [first = ""] = columns;
    const expression = columns.length === 1 ? columnExpression(first) : listExpression(columns);
    return `  ${attribute}: ${yamlExpression(expression)}`;
  });
  const measures = proposals
    .filter(({ attribute }) => attributeKind(attribute).kind === "measure")
    .map(({ attribute }) => attribute);
  const unitLines = measures.map(
    (attribute) =>
      `  ${attribute}: ${attribute.includes("weight") ? "kg" : attribute === "unit_quantity" ? "pc" : "cm"}`,
  );
  const text = [
    `# How files like ${name} are read. Each line gives one of our attributes the column it comes from,`,
    "# or an expression over columns. Delete what is not wanted, and correct what was guessed.",
    `layer: ${name}`,
    `currency: ${manifest.currency}`,
    ...(unitLines.length === 0
      ? []
      : ["# The unit of numbers that stand without one.", "units:", ...unitLines]),
    "columns:",
    ...lines,
    "",
  ].join("\n");
  const yaml = parseYaml(text, `sources/${name}.yaml`);
  const settings = await loadSettings(
    yaml,
    async () => (await import("./models/source-model.js")).SourceModel,
  );
  return { name, settings, yaml };
};

/** Writes a proposed source's file, for the person to read and correct. */
export const saveProposedSource = (workspace: Workspace, { name, yaml }: Source): Promise<void> =>
  writeFileWhole(workspace.path("sources", `${name}.yaml`), yaml.text);
