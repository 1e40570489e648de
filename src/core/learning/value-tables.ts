/** Lists of permitted values in sheets and files of their own. */
import { trust } from "./trust.js";
import { cellOrigin, valuesText, type Claim } from "./claim.js";
import { nameKey } from "./headings.js";
import { textAt, type SheetPaper } from "./paper.js";

/** Lists that stand in sheets or files under the name of a column, by that name. */
export type ValueTables = ReadonlyMap<string, readonly Claim[]>;

const ROWS_OF_HEAD = 5;

const fileStem = (file: string): string => file.replace(/^.*[\\/]/, "").replace(/\.[^.]*$/, "");

function listClaims(sheet: SheetPaper, column: number, from: number): readonly Claim[] {
  const values: string[] = [];
  for (let row = from; row < sheet.rows.length; row++) {
    const text = textAt(sheet, row, column);
    if (text !== "") values.push(text);
  }
  if (values.length < 2) return [];
  const origin = cellOrigin(sheet, from, column);
  const because = "a list under its name";
  return [
    { fact: "values", value: valuesText(values), confidence: trust.listChoice, from: origin, because },
    { fact: "kind", value: "choice", confidence: trust.listChoice, from: origin, because },
  ];
}

/** `Field, Value` with a row for each value. */
function longTable(
  sheet: SheetPaper,
  head: number,
  names: ReadonlySet<string>,
): ReadonlyMap<string, readonly Claim[]> | undefined {
  const found = new Map<string, { values: string[]; row: number }>();
  let rows = 0;
  for (let row = head + 1; row < sheet.rows.length; row++) {
    const [name, value] = [nameKey(textAt(sheet, row, 0)), textAt(sheet, row, 1)];
    if (name === "" || value === "") continue;
    rows++;
    if (!names.has(name)) continue;
    const own = found.get(name) ?? { values: [], row };
    own.values.push(value);
    found.set(name, own);
  }
  const known = [...found.values()].reduce((sum, { values }) => sum + values.length, 0);
  if (found.size === 0 || known < rows * 0.6 || known < found.size * 2) return undefined;
  return new Map(
    [...found].map(([name, { values, row }]) => {
      const from = cellOrigin(sheet, row, 1);
      const because = "a list under its name";
      return [
        name,
        [
          { fact: "values", value: valuesText(values), confidence: trust.listFile, from, because },
          { fact: "kind", value: "choice", confidence: trust.listChoice, from, because },
        ] satisfies Claim[],
      ] as const;
    }),
  );
}

/** Reads sheets and files that hold nothing but lists, for the columns whose names they bear. */
export function valueTables(
  sheets: readonly SheetPaper[],
  names: ReadonlySet<string>,
): { readonly tables: ValueTables; readonly used: ReadonlySet<SheetPaper> } {
  const tables = new Map<string, readonly Claim[]>();
  const used = new Set<SheetPaper>();
  for (const sheet of sheets) {
    const before = tables.size;
    for (let row = 0; row < Math.min(ROWS_OF_HEAD, sheet.rows.length); row++) {
      const cells = (sheet.rows[row] ?? []).map((_, column) => nameKey(textAt(sheet, row, column)));
      const matched = cells.flatMap((name, column) => (name !== "" && names.has(name) ? [column] : []));
      const long = matched.length === 0 ? longTable(sheet, row, names) : undefined;
      for (const [name, claims] of long ?? []) if (!tables.has(name)) tables.set(name, claims);
      for (const column of matched) {
        const claims = listClaims(sheet, column, row + 1);
        const name = cells[column] ?? "";
        if (claims.length > 0 && !tables.has(name)) tables.set(name, claims);
      }
      if (tables.size > before) break;
    }
    if (tables.size === before) {
      // A file with one list bears the column's name itself: `Values condition.csv`.
      const stem = nameKey(sheet.sheet === "" ? fileStem(sheet.file) : sheet.sheet);
      const name = [...names]
        .filter((one) => one.length > 2 && stem.endsWith(one))
        .sort((a, b) => b.length - a.length)[0];
      const claims = name === undefined || (sheet.rows[0]?.length ?? 0) > 3 ? [] : listClaims(sheet, 0, 1);
      if (name !== undefined && claims.length > 0)
        tables.set(
          name,
          claims.map((claim) => ({ ...claim, confidence: claim.confidence * trust.foreignList })),
        );
    }
    if (tables.size > before) used.add(sheet);
  }
  return { tables, used };
}
