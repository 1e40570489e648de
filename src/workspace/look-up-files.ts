/** The user's own tables and rates, read once a process. */
import { namesIn } from "../formats/is-there.js";
import { addAll } from "../core/many.js";
import { join } from "node:path";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Place } from "../core/diagnostics/place.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Surroundings } from "../core/language/function.js";
import { lookUpTable, type LookUpTable } from "../core/language/look-up-table.js";
import { isCurrency } from "../core/values/currencies.js";
import { readDate } from "../core/values/date.js";
import { decimal } from "../core/values/decimal.js";
import { ratesOf, type RateRow } from "../core/values/rates.js";
import { cleanText } from "../core/values/text.js";
import { readOnce } from "./read-once.js";

/** The table of exchange rates among the user's tables: from this day on, one unit of `from` is worth `rate` of `to`. */
export const RATES_TABLE = "rates";

const rateColumns = ["day", "from", "to", "rate"] as const;

interface ReadTable {
  readonly file: string;
  readonly header: readonly string[];
  readonly rows: readonly { readonly row: number; readonly cells: readonly string[] }[];
}

const HEAD = 65_536;

/** A table may begin with lines of its author's, each with # in front. */
function headerRow(head: Buffer): number {
  const lines = head
    .toString("utf8", 0, HEAD)
    .replace(/^\ufeff/, "")
    .split("\n");
  const first = lines.findIndex((line) => !line.trimStart().startsWith("#"));
  return first < 0 ? 1 : first + 1;
}

// Tables are held in memory whole.
const MEGABYTES = 64;

/** A line of the author's among the rows: # and words, and nothing in the other columns. A key may begin with # as well. */
const isRemark = ([first = "", ...others]: readonly string[]): boolean =>
  first.trimStart().startsWith("#") && others.length > 0 && others.every((cell) => cell === "");

async function readOne(path: string, file: string): Promise<ReadTable> {
  const { fileSource } = await import("../formats/byte-source.js");
  const { openCsv } = await import("../formats/csv-reader.js");
  const { refuseRepeatedColumns } = await import("../formats/table-stream.js");
  const source = await fileSource(path, file);
  if ((source.size ?? 0) > MEGABYTES << 20)
    throw new Refusal([diagnostic("file-too-large", { path: file, limit: MEGABYTES })]);
  const table = await openCsv(source, { headerRow: headerRow(await source.head()) });
  refuseRepeatedColumns(table);
  const rows: { readonly row: number; readonly cells: readonly string[] }[] = [];
  for await (const batch of table.batches)
    for (const { row, cells, fault } of batch) {
      if (fault !== undefined) throw new Refusal([fault]);
      if (!isRemark(cells) && cells.some((cell) => cell !== ""))
        rows.push({ row, cells: cells.map((cell) => cleanText(cell)) });
    }
  return { file, header: table.header.map((column) => column.trim()), rows };
}

type LookUps = Pick<Surroundings, "tables" | "rates">;

const tablesRead = readOnce<LookUps>();

/** The user's own tables and exchange rates, as expressions look them up; nothing where there are none. */
export function lookUps(root: string): Promise<LookUps> {
  const folder = join(root, "tables");
  return tablesRead([folder], [], () => readLookUps(folder));
}

async function readLookUps(folder: string): Promise<LookUps> {
  const files = (await namesIn(folder, "tables")).filter((name) => name.endsWith(".csv")).sort();
  if (files.length === 0) return {};
  const tables = new Map<string, LookUpTable>();
  const findings: Diagnostic[] = [];
  let rates: Surroundings["rates"];
  for (const name of files) {
    const read = await readOne(join(folder, name), `tables/${name}`);
    const table = name.slice(0, -".csv".length);
    tables.set(
      table,
      lookUpTable(
        table,
        read.header,
        read.rows.map(({ cells }) => cells),
      ),
    );
    if (table === RATES_TABLE) rates = ratesOf(rateRows(read, findings));
  }
  if (findings.length > 0) throw new Refusal(findings);
  return rates === undefined ? { tables } : { tables, rates };
}

function rateRows({ file, header, rows }: ReadTable, findings: Diagnostic[]): readonly RateRow[] {
  const missing = rateColumns.filter((column) => !header.includes(column));
  addAll(
    findings,
    missing.map((column) => diagnostic("missing-column", { column }, { place: { file, row: 1 } })),
  );
  if (missing.length > 0) return [];
  return rows.flatMap(({ row, cells }): readonly RateRow[] => {
    const cell = (column: (typeof rateColumns)[number]): string => cells[header.indexOf(column)] ?? "";
    const wrong = (column: (typeof rateColumns)[number], expected: string): void => {
      const place: Place = { file, row, column };
      findings.push(diagnostic("wrong-cell", { column, value: cell(column), expected }, { place }));
    };
    const day = readDate(cell("day"));
    const rate = decimal(cell("rate"));
    if (day === undefined) wrong("day", "a day such as 2026-03-01");
    if (rate === undefined || !rate.greaterThan(0))
      wrong("rate", "a number above 0 with a decimal point, such as 1.1725");
    for (const column of ["from", "to"] as const)
      if (!isCurrency(cell(column))) wrong(column, "a currency code such as GBP or EUR (ISO 4217)");
    return day === undefined || rate === undefined
      ? []
      : [{ day: day.iso, from: cell("from"), to: cell("to"), rate }];
  });
}
