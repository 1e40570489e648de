import type { ReadingProblem } from "../../values/read.js";
import { asOne, byField, rowFinding } from "../finding.js";
import { listed, orNearest, problems, quote } from "../phrases.js";

/** Files that come in, their rows and cells. */
export const incoming = {
  "no-file": rowFinding<{ readonly path: string }>({
    says: ({ path }) => `there is no file ${quote(path)}`,
    ofMany: asOne,
    apart: byField,
  }),
  "empty-file": rowFinding<{ readonly path: string }>({
    says: ({ path }) => `${quote(path)} is empty; a table has a header row and rows below it`,
    ofMany: asOne,
    apart: byField,
  }),
  "no-rows": rowFinding<{ readonly path: string; readonly columns: number }>({
    says: ({ path, columns }) => `${quote(path)} has a header of ${columns} columns and no rows below it`,
    ofMany: asOne,
    apart: byField,
  }),
  "repeated-column": rowFinding<{ readonly column: string; readonly first: string; readonly second: string }>(
    {
      says: ({ column, first, second }) =>
        `two columns are named ${quote(column)} (${first} and ${second}); give each a name of its own`,
      ofMany: asOne,
      apart: byField,
    },
  ),
  "blank-column": rowFinding<{ readonly column: string }>({
    says: ({ column }) => `column ${column} holds values and has no name in the header row; name it`,
    ofMany: asOne,
    apart: byField,
  }),
  "broken-quote": rowFinding<{ readonly line: number }>({
    says: ({ line }) =>
      `a quoted cell opens at line ${line} and is never closed; close the quote there, or double quotes that belong to the text`,
    ofMany: asOne,
    apart: byField,
  }),
  "stray-quote": rowFinding<{ readonly text: string }>({
    says: ({ text }) =>
      `a quote inside a quoted cell is not doubled, near ${quote(text)}; write "" for a quote in a text`,
    ofMany: asOne,
    apart: byField,
  }),
  "wrong-encoding": rowFinding<{ readonly byte: string; readonly line: number; readonly encoding: string }>({
    says: ({ byte, line, encoding }) =>
      `line ${line} holds the byte ${byte}, which is not UTF-8; save the file as UTF-8, or import it with --encoding ${encoding}`,
    ofMany: asOne,
    apart: byField,
  }),
  "not-a-table": rowFinding<{ readonly found: string }>({
    says: ({ found }) => `this is no table but ${found}; save it as CSV or XLSX first`,
    ofMany: asOne,
    apart: byField,
  }),
  "row-too-long": rowFinding<{ readonly limit: number }>({
    says: ({ limit }) =>
      `a row is longer than ${limit} characters; a quote is open, or the line ends are missing`,
    ofMany: asOne,
    apart: byField,
  }),
  "ragged-row": rowFinding<{ readonly expected: number; readonly actual: number }>({
    says: ({ expected, actual }) => `the row has ${actual} cells, the header has ${expected}`,
    ofMany: ({ expected }) => `rows have another number of cells than the header's ${expected}`,
    apart: byField,
  }),
  "blank-key": rowFinding<{ readonly key: string }>({
    says: ({ key }) => `the row has no ${key}`,
    ofMany: asOne,
    apart: byField,
  }),
  "repeated-key": rowFinding<{ readonly key: string; readonly value: string }>({
    says: ({ key, value }) =>
      `${key} ${quote(value)} stands in an earlier row of this file; only that one was taken`,
    ofMany: ({ key }) => `${key} stands in an earlier row of this file; only that one was taken`,
    apart: byField,
  }),
  "unreadable-value": rowFinding<{
    readonly attribute: string;
    readonly value: string;
    readonly problem: ReadingProblem;
  }>({
    says: ({ attribute, value, problem }) => `${attribute} ${quote(value)}: ${problems[problem]}`,
    ofMany: ({ attribute, problem }) => `${attribute}: ${problems[problem]}`,
    apart: ({ attribute, problem }) => `${attribute} ${problem}`,
  }),
  /** A cell of several names beside one of another count of values. */
  "pairs-apart": rowFinding<{ readonly names: number; readonly values: number; readonly text: string }>({
    says: ({ names, values, text }) =>
      `${values} values ${quote(text)} stand beside ${names} names: which belongs to which does not show; none was taken`,
    ofMany: () =>
      "the values are more or fewer than their names: which belongs to which does not show; none was taken",
    apart: byField,
  }),
  "value-without-name": rowFinding<{ readonly value: string }>({
    says: ({ value }) =>
      `the value ${quote(value)} has no name beside it that says what it is; it was not taken`,
    ofMany: () => "a value has no name beside it that says what it is; it was not taken",
    apart: byField,
  }),
  /** Rows of the file that stand inside one cell, since a quote before them was never closed. */
  "swallowed-rows": rowFinding<{ readonly rows: number; readonly column: string }>({
    says: ({ rows, column }) =>
      `a quote that opens in ${quote(column)} and is not closed there takes the next ${rows} rows into the cell; close it, or double a quote that belongs to the text`,
    ofMany: () => "a quote that is not closed takes the rows that follow into its cell",
    apart: byField,
  }),
  "bare-row": rowFinding<{ readonly sku: string }>({
    says: ({ sku }) =>
      `${quote(sku)} is not in the catalogue and the row says nothing of it but that; a heading, a note or a row that lost its cells`,
    ofMany: () =>
      "the row has nothing but an SKU that is not in the catalogue: a heading, a note or a row that lost its cells",
    apart: byField,
  }),
  "total-row": rowFinding<{ readonly text: string }>({
    says: ({ text }) => `${quote(text)} is a sum under the rows, and no product`,
    ofMany: () => "the row is a sum under the rows, and no product",
    apart: byField,
  }),
  /** Rows of a sheet's second table, which would be read as the first's. */
  "another-table": rowFinding<{ readonly from: number }>({
    says: ({ from }) =>
      `another table begins in row ${from}, with a header of its own; put it on a sheet or into a file of its own`,
    ofMany: asOne,
    apart: byField,
  }),
  "still-rejected": rowFinding<{ readonly reason: string }>({
    says: ({ reason }) => `the row is as it was when it was rejected: ${reason}`,
    ofMany: () => "the row is as it was when it was rejected",
    apart: byField,
  }),
  "no-name": rowFinding<{ readonly sku: string }>({
    says: ({ sku }) =>
      `${sku} came into the catalogue without a name; give it one, or take it out again: lexicant remove ${sku}`,
    ofMany: () =>
      "products came into the catalogue without a name; give them one, or take them out again (lexicant remove)",
    apart: byField,
  }),
  "empty-group": rowFinding<{ readonly group: string }>({
    says: ({ group }) =>
      `the group ${quote(group)} has a row of its own and no members; look for their group in the file`,
    ofMany: () => "groups have a row of their own and no members; look for their group in the file",
    apart: byField,
  }),
  "key-not-written": rowFinding<{
    readonly key: string;
    readonly value: string;
    readonly has: string;
    readonly by: string;
  }>({
    says: ({ key, value, has, by }) =>
      `${key} ${quote(value)} was not written: the product was found by its ${by} and ${has === "" ? `has no ${key}` : `has ${quote(has)}`} (${has === "" ? "write_keys: where-blank" : "write_keys: yes"} in the source writes it)`,
    ofMany: ({ key, by, has }) =>
      has === ""
        ? `${key} is blank in the catalogue and was not written, since products are found by it (here by ${by}); write_keys: where-blank in the source writes it`
        : `${key} differs from the catalogue's and was not written, since products are found by it (here by ${by}); write_keys: yes in the source writes it`,
    apart: ({ key, by, has }) => `${key} ${by} ${has === "" ? "blank" : ""}`,
  }),
  "says-nothing": rowFinding<{ readonly key: string }>({
    says: ({ key }) => `the row says nothing beside its ${key}`,
    ofMany: ({ key }) => `rows say nothing beside their ${key}`,
    apart: ({ key }) => key,
  }),
  "unknown-row-mark": rowFinding<{ readonly what: "language" | "currency"; readonly value: string }>({
    says: ({ what, value }) =>
      value === ""
        ? `the row does not say the ${what} of what stands in it`
        : `${quote(value)} is no ${what} that is known`,
    ofMany: ({ what }) => `the ${what} of what stands in the rows is not said, or none that is known`,
    apart: ({ what }) => what,
  }),
  "no-place-in-order": rowFinding<{ readonly value: string }>({
    says: ({ value }) =>
      value === ""
        ? "the row has no place in the order, and comes behind the others"
        : `${quote(value)} is no place in an order: the row comes behind the others`,
    ofMany: () => "rows have no place in the order, and come behind the others",
    apart: byField,
  }),
  "rules-changed": rowFinding<{ readonly source: string; readonly revision: number }>({
    says: ({ source, revision }, files) =>
      `${files.source(source)} has changed since revision ${revision}: what it no longer gives was taken back of the products in this file; for all others: lexicant import --again ${source}`,
    ofMany: asOne,
    apart: ({ source }) => source,
  }),
  "source-never-read": rowFinding<{
    readonly source: string;
    readonly nearest: readonly string[];
    readonly known: readonly string[];
  }>({
    says: ({ source, nearest, known }) =>
      source === ""
        ? "no file was read by a source yet; begin with lexicant import FILE"
        : `no file was read by a source ${quote(source)}${nearest.length > 0 ? orNearest(nearest) : known.length > 0 ? `; there are: ${listed(known)}` : ""}`,
    ofMany: asOne,
    apart: byField,
  }),
  "file-to-read-again": rowFinding<{
    readonly file: string;
    readonly source: string;
    readonly revision: number;
    readonly isOther: boolean;
  }>({
    says: ({ file, source, revision, isOther }) =>
      isOther
        ? `${quote(file)} is another file than the one of revision ${revision}; if it takes its place, import it by its name; else bring that one back, to be read again by ${source}`
        : `to read revision ${revision} again by ${source}, its file is wanted, and ${quote(file)} is not there any more`,
    ofMany: asOne,
    apart: byField,
  }),
  "no-key-column": rowFinding<{
    readonly key: string;
    readonly columns: readonly string[];
    /** Columns that come nearest to being one. */
    readonly near?: readonly { readonly column: string; readonly because: "repeats" | "blanks" | "long" }[];
  }>({
    says: ({ key, columns, near = [] }) => {
      const why = {
        repeats: "has values that come again",
        blanks: "is blank in some rows",
        long: "holds texts rather than codes",
      };
      if (near.length > 0)
        return `no column gives the ${key}; nearest: ${near.map(({ column, because }) => `${quote(column)} ${why[because]}`).join(", ")} (name the column with --sku-column, or under columns in the source file)`;
      const shown =
        columns.length > 12
          ? `${columns.slice(0, 12).map(quote).join(", ")} and ${columns.length - 12} more`
          : listed(columns);
      return `no column gives the ${key}; the file has ${shown} (name the column in the source file, under columns; where there is none yet, with --sku-column)`;
    },
    ofMany: asOne,
    apart: byField,
  }),
  "unknown-column": rowFinding<{ readonly column: string; readonly nearest: readonly string[] }>({
    says: ({ column, nearest }) =>
      `the source reads a column ${quote(column)} that the file does not have${orNearest(nearest)}`,
    ofMany: asOne,
    apart: byField,
  }),
  "no-header": rowFinding<{ readonly row: number }>({
    says: ({ row }) => `there is no row ${row} to be the header`,
    ofMany: asOne,
    apart: byField,
  }),
  "no-records": rowFinding<{ readonly path: string; readonly format: string }>({
    says: ({ path, format }) =>
      `no records are found in ${quote(path)}; name where they are in the source file: records: ${format === "XML" ? "the element of one record" : "the key of their list"}`,
    ofMany: asOne,
    apart: byField,
  }),
  "broken-data": rowFinding<{ readonly format: string; readonly reason: string }>({
    says: ({ format, reason }) => `the file is not whole as ${format}: ${reason}; nothing was changed`,
    ofMany: asOne,
    apart: byField,
  }),
  "broken-record": rowFinding<{ readonly reason: string }>({
    says: ({ reason }) => `the line is no JSON object: ${reason}`,
    ofMany: () => "the line is no JSON object",
    apart: byField,
  }),
  "unsafe-archive": rowFinding<{ readonly reason: string }>({
    says: ({ reason }) => `the archive is not opened: ${reason}`,
    ofMany: asOne,
    apart: byField,
  }),
  "xml-entities": rowFinding<Record<string, never>>({
    says: () =>
      "the file declares entities of its own, by which XML can grow without end or read other files; export it without them",
    ofMany: asOne,
    apart: byField,
  }),
  "file-changed": rowFinding<{ readonly path: string }>({
    says: ({ path }) =>
      `${quote(path)} changed while it was read; import it when the program that writes it is done; nothing was changed`,
    ofMany: asOne,
    apart: byField,
  }),
  /** The limit in megabytes. */
  "file-too-large": rowFinding<{ readonly path: string; readonly limit: number }>({
    says: ({ path, limit }) => `${quote(path)} is larger than ${limit} MB; split it, or export it as CSV`,
    ofMany: asOne,
    apart: byField,
  }),
  "unknown-encoding": rowFinding<{ readonly encoding: string }>({
    says: ({ encoding }) =>
      `the file declares the encoding ${quote(encoding)}, which is not known here; save it as UTF-8, or say --encoding`,
    ofMany: asOne,
    apart: byField,
  }),
  "not-the-encoding": rowFinding<{ readonly encoding: string; readonly line: number }>({
    says: ({ encoding, line }) =>
      `the file declares the encoding ${quote(encoding)}, and about line ${line} bytes stand that it does not have; save it as UTF-8, or say --encoding`,
    ofMany: asOne,
    apart: byField,
  }),
  "workbook-too-large": rowFinding<{ readonly texts: number; readonly megabytes: number }>({
    says: ({ texts, megabytes }) =>
      `the workbook holds more than ${texts} different texts, or more than ${megabytes} MB of them; save its sheet as CSV and import that`,
    ofMany: asOne,
    apart: byField,
  }),
  "name-too-long": rowFinding<{ readonly name: string; readonly limit: number }>({
    says: ({ name, limit }) =>
      `a column's name is longer than ${limit} characters (${quote(`${name}…`)}): is this the row with the columns' names? --header-row says which`,
    ofMany: asOne,
    apart: byField,
  }),
  "too-many-columns": rowFinding<{ readonly limit: number }>({
    says: ({ limit }) =>
      `there are more than ${limit} different columns; are line ends missing, or is something else a record? The source file can name it`,
    ofMany: asOne,
    apart: byField,
  }),
  "unknown-sheet": rowFinding<{
    readonly sheet: string;
    readonly nearest: readonly string[];
    readonly known: readonly string[];
  }>({
    says: ({ sheet, nearest, known }) =>
      `there is no sheet ${quote(sheet)}${nearest.length > 0 ? orNearest(nearest) : `; there are: ${listed(known)}`}`,
    ofMany: asOne,
    apart: byField,
  }),
  "named-otherwise": rowFinding<{
    readonly path: string;
    readonly named: string;
    readonly found: string;
    readonly format: string;
  }>({
    says: ({ path, named, found, format }) =>
      `${quote(path)} is named as ${named} and holds ${found}; rename it, or import it with --format ${format}`,
    ofMany: asOne,
    apart: byField,
  }),
  "column-never-seen": rowFinding<{ readonly column: string; readonly nearest: readonly string[] }>({
    says: ({ column, nearest }) =>
      `the source reads ${quote(column)}, which no record of the file has${orNearest(nearest)}`,
    ofMany: asOne,
    apart: ({ column }) => column,
  }),
  "proposal-open": rowFinding<{ readonly source: string }>({
    says: ({ source }, files) =>
      `nothing was imported: ${files.source(source)} does not exist yet; look at the proposal above, then run the same again with --accept, or write the file yourself`,
    ofMany: asOne,
    apart: byField,
  }),
} as const;
