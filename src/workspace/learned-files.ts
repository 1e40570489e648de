/** A learned definition as files that a person may have edited: what they changed stays. */
import { addAll } from "../core/many.js";
import { ownOf } from "../core/own.js";
import { join } from "node:path";
import { parseDocument, stringify } from "yaml";
import { fieldColumns, type DefinitionDraft } from "../core/learning/definition-draft.js";
import { reviewColumns, type ReviewRow } from "../core/learning/review.js";
import { mergedTable, type MergedTable, type RowCells } from "../core/learning/three-way.js";
import type { GuessCorrection } from "../core/learning/corrections.js";
import { csvLine } from "../formats/csv-writer.js";
import { isThere, namesIn } from "../formats/is-there.js";
import { smallFile } from "../formats/small-file.js";
import { rawRecords, tableText } from "../formats/table-form.js";
import { editedTable } from "./edit-table.js";

/** Where a learned definition keeps what it was made of: the channel's own files, and what was learned of them. */
export const PUBLISHED = "published";
/** What was learned last, untouched. */
export const AS_LEARNED = "as-learned";
/** The guesses, for a person's eye. */
export const GUESSES = "guesses.csv";
/** Versions beside the one in use. */
export const VERSIONS = "versions";

const HEAD =
  "# Learned from what the channel hands out; the files are in published/. Change what is wrong: it stays when they are\n" +
  "# read again. guesses.csv says where each thing was read and how sure it is.\n";

/** A table of a definition: its file, its columns in order, and those by which a row is known. */
interface LearnedTable {
  readonly file: string;
  readonly columns: readonly string[];
  readonly keys: readonly string[];
  readonly rows: readonly RowCells[];
}

const valueColumns = ["value", "synonyms"];

const tablesOf = ({ categories, fields, values, axes }: DefinitionDraft): readonly LearnedTable[] => [
  { file: "categories.csv", columns: ["code", "parent", "name"], keys: ["code"], rows: categories },
  { file: "fields.csv", columns: fieldColumns, keys: ["field", "scope", "when"], rows: fields },
  ...(axes.length === 0
    ? []
    : [{ file: "axes.csv", columns: ["scope", "axes"], keys: ["scope"], rows: axes }]),
  ...[...values].map(([name, rows]) => ({
    file: `values/${name}.csv`,
    columns: valueColumns,
    keys: ["value"],
    rows,
  })),
];

function tableBytes({ columns, rows }: LearnedTable): string {
  const used = columns.filter(
    (column, at) => at < 4 || rows.some((row) => (ownOf(row, column) ?? "") !== ""),
  );
  return csvLine(used) + rows.map((row) => csvLine(used.map((column) => ownOf(row, column) ?? ""))).join("");
}

function rowsOf(bytes: Buffer): readonly RowCells[] {
  const { text, form } = tableText(bytes);
  const [head, ...rest] = rawRecords(text, form.delimiter);
  const header = (head?.cells ?? []).map((name) => name.trim());
  return rest
    .filter(({ cells, text: own }) => own.trim() !== "" && !(cells[0] ?? "").trimStart().startsWith("#"))
    .map(({ cells }) =>
      Object.fromEntries(
        header.map((column, at) => [column, (cells[at] ?? "").trim().replace(/^'(?=[=+@-])/, "")]),
      ),
    );
}

async function read(folder: string, name: string): Promise<Buffer | undefined> {
  const path = join(folder, name);
  return isThere(path, name) ? smallFile(path, name) : undefined;
}

/** A definition's files by their names in its folder; undefined: the file goes. */
export interface LearnedFiles {
  readonly files: ReadonlyMap<string, Buffer | string | undefined>;
  /** What a person changed and what was learned otherwise: theirs holds. */
  readonly kept: readonly string[];
}

/** The keys of `definition.yaml`, each as it is now where a person changed it since it was learned. */
function mergedYaml(
  before: Buffer | undefined,
  now: Buffer | undefined,
  next: Readonly<Record<string, unknown>>,
): { readonly text: string; readonly kept: readonly string[] } {
  const learned = HEAD + stringify(next, { lineWidth: 120 });
  if (before === undefined || now === undefined) return { text: learned, kept: [] };
  const document = parseDocument(now.toString());
  const was = parseDocument(before.toString()).toJS() as Readonly<Record<string, unknown>> | null;
  const is = document.toJS() as Readonly<Record<string, unknown>> | null;
  const same = (one: unknown, other: unknown): boolean => JSON.stringify(one) === JSON.stringify(other);
  const kept: string[] = [];
  for (const key of new Set([...Object.keys(next), ...Object.keys(was ?? {})])) {
    const [old, own, learnedNow] = [
      new Map(Object.entries(was ?? {})).get(key),
      new Map(Object.entries(is ?? {})).get(key),
      new Map(Object.entries(next)).get(key),
    ];
    if (same(own, learnedNow) || same(old, learnedNow)) continue;
    if (!same(own, old)) kept.push(`definition.yaml keeps your ${key}`);
    else if (learnedNow === undefined) document.delete(key);
    else document.set(key, document.createNode(learnedNow));
  }
  return { text: document.toString({ lineWidth: 120 }), kept };
}

/**
 * The files of a definition that is learned anew, beside what is there: what a person changed since it was learned the last
 * time stays. `folder` is the definition's; where it was never learned, everything is written as it is.
 */
export async function learnedFiles(folder: string, draft: DefinitionDraft): Promise<LearnedFiles> {
  const files = new Map<string, Buffer | string | undefined>();
  const kept: string[] = [];
  const yamlNow = await read(folder, "definition.yaml");
  const yaml = mergedYaml(await read(folder, `${AS_LEARNED}/definition.yaml`), yamlNow, draft.definition);
  files.set("definition.yaml", yaml.text);
  files.set(`${AS_LEARNED}/definition.yaml`, stringify(draft.definition, { lineWidth: 120 }));
  addAll(kept, yaml.kept);
  const tables = tablesOf(draft);
  for (const table of tables) {
    const [before, now] = [await read(folder, `${AS_LEARNED}/${table.file}`), await read(folder, table.file)];
    files.set(`${AS_LEARNED}/${table.file}`, tableBytes(table));
    if (before === undefined || now === undefined) {
      files.set(table.file, tableBytes(table));
      continue;
    }
    const merged = mergedTable(rowsOf(before), rowsOf(now), table.rows, table.keys);
    files.set(
      table.file,
      isUntouched(merged)
        ? now
        : editedTable(now, {
            columns: table.columns,
            keys: table.keys,
            edits: merged.edits,
            gone: merged.gone,
          }),
    );
    for (const { key, column, ours, learned } of merged.kept)
      kept.push(`${table.file}, ${key}: keeps your ${column} "${ours}" (learned: "${learned}")`);
  }
  for (const name of await goneValues(folder, tables)) files.set(name, undefined);
  return { files, kept };
}

const isUntouched = ({ edits, gone }: MergedTable): boolean => edits.length === 0 && gone.length === 0;

/** Lists that were learned before, are no longer, and that nobody changed. */
async function goneValues(folder: string, tables: readonly LearnedTable[]): Promise<readonly string[]> {
  const wanted = new Set(tables.map(({ file }) => file));
  const gone: string[] = [];
  for (const name of await namesIn(join(folder, AS_LEARNED, "values"), "values")) {
    const file = `values/${name}`;
    if (wanted.has(file)) continue;
    const [before, now] = [await read(folder, `${AS_LEARNED}/${file}`), await read(folder, file)];
    gone.push(`${AS_LEARNED}/${file}`);
    if (before !== undefined && now !== undefined && before.equals(now)) gone.push(file);
  }
  return gone;
}

/** The table of guesses: as the review, for an editor or a spreadsheet. */
export const guessesText = (rows: readonly ReviewRow[]): string =>
  csvLine(reviewColumns) +
  rows.map((row) => csvLine(reviewColumns.map((column) => String(row[column])))).join("");

/** Corrections that stand in the table of guesses. */
export async function readCorrections(folder: string): Promise<readonly GuessCorrection[]> {
  const bytes = await read(folder, GUESSES);
  return bytes === undefined ? [] : correctionsIn(rowsOf(bytes));
}

/** Rows of a review whose last column says something. */
export function correctionsIn(rows: readonly RowCells[]): readonly GuessCorrection[] {
  return rows.flatMap((row): readonly GuessCorrection[] => {
    const value = (row["correction"] ?? "").trim();
    if (value === "") return [];
    const fact = row["fact"] ?? "";
    return [
      {
        field: row["field"] ?? "",
        scope: row["scope"] ?? "*",
        fact,
        value: fact === "values" ? value.replace(/\s*\|\s*/g, "\n") : value,
      },
    ];
  });
}
