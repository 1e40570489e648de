import { readFile } from "node:fs/promises";
import { csvLine, lineAsItIs, neutral } from "../formats/csv-writer.js";
import { isMissing, readFault } from "../formats/file-fault.js";
import { writeFileWhole } from "./write-file.js";

/** A row to be written: cells by column; columns that it does not name stay as they are. */
export type TableEdit = Readonly<Record<string, string>>;

/** Records of a CSV text as their own characters, line ends included; a quoted cell may span lines. */
const records = (text: string): readonly string[] => {
  const found: string[] = [];
  let [start, quoted] = [0, false];
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '"') quoted = !quoted;
    if (text[i] === "\n" && !quoted) {
      found.push(text.slice(start, i + 1));
      start = i + 1;
    }
  }
  if (start < text.length) found.push(text.slice(start));
  return found;
};

const cellsOf = (record: string): readonly string[] => {
  const cells: string[] = [];
  const pattern = /(?:^|,)(?:"((?:[^"]|"")*)"|([^,\r\n]*))/g;
  for (const [, quoted, plain = ""] of record.replace(/\r?\n$/, "").matchAll(pattern))
    cells.push(quoted === undefined ? plain : quoted.replaceAll('""', '"'));
  return cells;
};

/**
 * Sets rows of a small decision table: a row with the same key is changed in its place, others are added at the end.
 * Comments, order, and columns of the person's own stay.
 */
export const editTable = async (
  path: string,
  columns: readonly string[],
  keys: readonly string[],
  edits: readonly TableEdit[],
  /** Rows that go, where they are still as written here. */
  gone: readonly TableEdit[] = [],
): Promise<void> => {
  const text = await readFile(path, "utf8").catch((error: unknown) => {
    if (isMissing(error)) return csvLine(columns);
    throw readFault(path, error);
  });
  const [head = csvLine(columns), ...rest] = records(text.replace(/^\ufeff/, ""));
  const header = cellsOf(head).map((name) => name.trim());
  const added = columns.filter((column) => !header.includes(column));
  const all = [...header, ...added];
  const keyOf = (cells: (column: string) => string): string =>
    keys.map((key) => cells(key).trim()).join("\u0000");
  const waiting = new Map(edits.map((edit) => [keyOf((column) => edit[column] ?? ""), edit]));
  const isGone = (cells: readonly string[]): boolean =>
    gone.some((row) =>
      Object.entries(row).every(([column, text]) => (cells[header.indexOf(column)] ?? "").trim() === text),
    );
  const changed = rest.flatMap((record): readonly string[] => {
    const cells = cellsOf(record);
    if (record.trim() === "" || (cells[0] ?? "").trimStart().startsWith("#")) return [record];
    if (isGone(cells)) return [];
    const key = keyOf((column) => cells[header.indexOf(column)] ?? "");
    const edit = waiting.get(key);
    if (edit === undefined) return [record];
    waiting.delete(key);
    return [
      lineAsItIs(
        all.map((column, index) => {
          const value = edit[column];
          return value === undefined ? (cells[index] ?? "") : neutral(value);
        }),
      ),
    ];
  });
  const last = changed.at(-1);
  if (last !== undefined && !last.endsWith("\n")) changed[changed.length - 1] = `${last}\n`;
  const appended = [...waiting.values()].map((edit) => csvLine(all.map((column) => edit[column] ?? "")));
  const first = added.length === 0 ? (head.endsWith("\n") ? head : `${head}\n`) : csvLine(all);
  await writeFileWhole(path, [first, ...changed, ...appended].join(""));
};
