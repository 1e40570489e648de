/** A source tied to the columns of one file: expressions compiled, marks of numbers and dates found. */
import { addAll } from "../core/many.js";
import type { ColumnReading } from "../core/catalogue/cell-reader.js";
import type { PairReading } from "../core/catalogue/pair-reader.js";
import type { MarkColumn, RowMarks } from "../core/catalogue/row-marks.js";
import type { GroupLayout, RowOrder, RowReading } from "../core/catalogue/row-reader.js";
import {
  detectDateOrder,
  detectDecimalMark,
  openMarksIn,
  type ColumnMarks,
} from "../core/catalogue/proposal/sample-marks.js";
import { isAttributeName, isOurs } from "../core/catalogue/vocabulary.js";
import type { KindOf } from "../core/values/attribute-kind.js";
import type { Kind } from "../core/values/value.js";
import { beforeDate } from "../core/values/damage.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Run } from "../core/language/program.js";
import type { Surroundings } from "../core/language/function.js";
import type { Names } from "../core/language/names.js";
import { program } from "../core/language/program.js";
import { readDate, type DateOrder } from "../core/values/date.js";
import type { DecimalMark } from "../core/values/number.js";
import type { ReadingDefaults } from "../core/values/read.js";
import { kindOf as formatOf } from "../formats/kinds/kinds.js";
import type { TableStream } from "../formats/table-stream.js";
import type { PairModel } from "./models/source-model.js";
import type { Source } from "./source-files.js";
import type { Workspace } from "./workspace.js";
import { expressionAt, type KeyPath } from "./yaml-file.js";

const DEFAULT_LIST_SEPARATOR = "|";

/** A source tied to the columns of one file. */
export interface TiedSource {
  readonly reading: RowReading;
  /** What was found out about the file's values, in words. */
  readonly told: readonly string[];
}

/** A file's columns as names for expressions. */
const columnNames = (table: TableStream): Names => ({
  what: "column",
  all: table.header,
  find(name) {
    const slot = columnIn(table, name);
    return slot === undefined ? undefined : { slot, kind: "text" };
  },
});

interface Tying {
  readonly source: Source;
  readonly table: TableStream;
  readonly names: Names;
  readonly surroundings: Surroundings;
  readonly findings: Diagnostic[];
}

// A path into a record of XML or JSON that no expression looks like; others stand in backquotes.
const pathStep = String.raw`(?:@?[\p{L}_][\p{L}\p{N}_.:-]*(?:@[\p{L}-]+)?(?:\[[^[\]]*\])*|\*|\d+|name\(\)|text\(\))`;
const isPlainPath = new RegExp(String.raw`^(?:/|(?:\.\./)+)?${pathStep}(?:/${pathStep})*$`, "u");

/** A column by its name; rejected rows of JSON are a table whose columns are named by their paths. */
const columnIn = (table: TableStream, name: string): number | undefined =>
  table.column(name) ?? (table.headerGrows ? undefined : table.column(name.replaceAll(".", "/")));

/** An attribute's column as it stands, or its expression compiled; for all channels, or for one. */
function columnReading(tying: Tying, attribute: string, channel?: string): readonly ColumnReading[] {
  const { source, table, names, surroundings, findings } = tying;
  const path: KeyPath = channel === undefined ? ["columns", attribute] : ["channels", channel, attribute];
  const place = source.yaml.place(path);
  if (!isAttributeName(attribute)) {
    const reason =
      "an attribute's name has small letters of any script, digits and underscores, such as name or name@de";
    findings.push(diagnostic("wrong-setting", { key: attribute, reason }, { place }));
    return [];
  }
  const expression = expressionAt(source.yaml, path);
  if (expression === undefined) {
    findings.push(diagnostic("wrong-setting", { key: attribute, reason: "a column is wanted" }, { place }));
    return [];
  }
  const plain = /^`([^`]*)`$/.exec(expression.text)?.[1] ?? expression.text;
  const isName = plain !== expression.text || !table.headerGrows || isPlainPath.test(plain);
  const index = isName ? columnIn(table, plain) : undefined;
  if (index !== undefined) {
    const column = table.header[index] ?? plain;
    const areDays = isOurs(attribute) ? undefined : showsDays(table, index);
    return [{ attribute, channel, column, from: { kind: "column", index }, areDays }];
  }
  const compiled = program(expression, names, surroundings);
  if (compiled.kind === "faulty") {
    addAll(findings, compiled.findings);
    return [];
  }
  const read = compiled.reads.map((slot) => table.header[slot] ?? "");
  return [
    {
      attribute,
      channel,
      column: read.join(", ") || expression.text,
      from: { kind: "expression", run: compiled.run },
    },
  ];
}

const LOOKED_AT = 300;

/** Whether a column's cells are days, or are none, by its first rows: a day among texts was another text before. */
function showsDays(table: TableStream, index: number): boolean | undefined {
  const cells = table.sample.slice(0, LOOKED_AT).flatMap(({ cells: all }) => all[index]?.trim() || []);
  if (cells.length < 3) return undefined;
  const days = cells.filter((cell) => beforeDate(cell).length > 0 || readDate(cell) !== undefined);
  const share = days.length / cells.length;
  return share >= 0.5;
}

/** The columns that single channels alone see. */
function channelColumns(tying: Tying, { channelsInUse: inUse }: Workspace): readonly ColumnReading[] {
  const { settings, yaml } = tying.source;
  const keys = settings.key ?? ["sku"];
  return Object.entries(settings.channels ?? {}).flatMap(([channel, columns]) => {
    const place = yaml.place(["channels", channel]);
    if (!inUse.includes(channel)) {
      tying.findings.push(
        diagnostic("channel-not-in-use", { channel, inUse, nearest: nearest(channel, inUse) }, { place }),
      );
      return [];
    }
    return Object.keys(columns).flatMap((attribute) => {
      if (!keys.includes(attribute)) return columnReading(tying, attribute, channel);
      const reason = "it finds products, so that it is the same for all channels";
      tying.findings.push(
        diagnostic("wrong-setting", { key: `channels.${channel}.${attribute}`, reason }, { place }),
      );
      return [];
    });
  });
}

function condition({ source, names, surroundings, findings }: Tying, path: KeyPath): Run | undefined {
  const expression = expressionAt(source.yaml, path);
  if (expression === undefined) return undefined;
  const compiled = program(expression, names, surroundings, "yes-no");
  if (compiled.kind === "program") return compiled.run;
  addAll(findings, compiled.findings);
  return undefined;
}

const pairs = (
  { source, table, findings }: Tying,
  key: "options" | "pairs",
  models: readonly PairModel[],
): readonly PairReading[] =>
  models.flatMap(({ name, value, names: meant }, at): readonly PairReading[] => {
    const [nameIndex, valueIndex] = [columnIn(table, name), columnIn(table, value)];
    if (nameIndex !== undefined && valueIndex !== undefined)
      return [
        {
          nameIndex,
          valueIndex,
          column: value,
          varies: key === "options",
          ...(meant === undefined ? {} : { meant }),
        },
      ];
    const column = nameIndex === undefined ? name : value;
    findings.push(
      diagnostic(
        "unknown-column",
        { column, nearest: nearest(column, table.header) },
        { place: source.yaml.place([key, at]) },
      ),
    );
    return [];
  });

/** By what rows of one product are ordered: a column, or an expression over columns. */
function rowOrder({ source, table, names, surroundings, findings }: Tying): RowOrder | undefined {
  const expression = expressionAt(source.yaml, ["further_rows", "order_by"]);
  if (expression === undefined) return undefined;
  const compiled = program(expression, names, surroundings);
  if (compiled.kind === "faulty") {
    addAll(findings, compiled.findings);
    return undefined;
  }
  const column = compiled.reads.map((slot) => table.header[slot] ?? "").join(", ");
  return { column: column || expression.text, run: compiled.run };
}

/** The columns that say the language and the currency of rows. */
function rowMarks({ source, table, findings }: Tying, { manifest }: Workspace): RowMarks | undefined {
  const { language_from: language, currency_from: currency } = source.settings;
  if (language === undefined && currency === undefined) return undefined;
  const column = (name: string | undefined, key: string): MarkColumn | undefined => {
    const index = name === undefined ? undefined : columnIn(table, name);
    if (name === undefined || index !== undefined)
      return index === undefined ? undefined : { index, column: table.header[index] ?? "" };
    const facts = { column: name, nearest: nearest(name, table.header) };
    findings.push(diagnostic("unknown-column", facts, { place: source.yaml.place([key]) }));
    return undefined;
  };
  return {
    language: column(language, "language_from"),
    currency: column(currency, "currency_from"),
    ownLanguage: manifest.language,
  };
}

function groupLayout(tying: Tying): GroupLayout {
  const { groups } = tying.source.settings;
  const place = (key: string) => ({ place: tying.source.yaml.place(["groups", key]) });
  if (groups === undefined || groups.layout === "rows") return { layout: "rows" };
  if (groups.layout === "first-row") return { layout: "first-row", shared: new Set(groups.shared ?? []) };
  const when = condition(tying, ["groups", "when"]);
  if (when !== undefined) return { layout: "own-row", when };
  const reason = "the condition is wanted by which a group's own row is told";
  if (expressionAt(tying.source.yaml, ["groups", "when"]) === undefined)
    tying.findings.push(diagnostic("wrong-setting", { key: "groups.when", reason }, place("layout")));
  return { layout: "rows" };
}

/** What a file's first rows show of its numbers and dates. */
export interface FoundMarks {
  readonly decimalMark: DecimalMark | undefined;
  readonly dateOrder: DateOrder | undefined;
}

const numericKinds: ReadonlySet<Kind> = new Set(["money", "decimal", "measure", "integer"]);

/** The first cells that the attributes of some kinds are read from, by attribute. */
function cellsByAttribute(
  { settings }: Pick<Source, "settings">,
  table: TableStream,
  isMeant: (kind: Kind) => boolean,
  kindOf: KindOf,
): ReadonlyMap<string, readonly string[]> {
  const found = new Map<string, readonly string[]>();
  // What one channel alone sees is written as the rest of the file is.
  const own = Object.values(settings.channels ?? {}).flatMap((columns) => Object.entries(columns));
  for (const [attribute, expression] of [...Object.entries(settings.columns), ...own]) {
    if (typeof expression !== "string" || !isMeant(kindOf(attribute).kind)) continue;
    const indexes = table.header.flatMap((name, index) => (mentions(expression, name) ? [index] : []));
    const cells = table.sample.flatMap((row) => indexes.map((index) => row.cells[index] ?? ""));
    found.set(attribute, [...(found.get(attribute) ?? []), ...cells]);
  }
  return found;
}

/** Looks at the cells that a source reads as numbers and as dates. */
export function marksIn(source: Pick<Source, "settings">, table: TableStream, kindOf: KindOf): FoundMarks {
  const cells = (isMeant: (kind: Kind) => boolean): readonly string[] =>
    [...cellsByAttribute(source, table, isMeant, kindOf).values()].flat();
  return {
    decimalMark: detectDecimalMark(cells((kind) => numericKinds.has(kind))),
    dateOrder: detectDateOrder(cells((kind) => kind === "date")),
  };
}

/** Marks of which nothing says what they part, for each attribute that is a number. */
function openMarks(
  source: Source,
  table: TableStream,
  marks: Omit<ColumnMarks, "areTyped">,
  kindOf: KindOf,
): Readonly<Record<string, string>> {
  const areTyped = formatOf(table.format).hasOpenMarks !== true;
  const cells = cellsByAttribute(source, table, (kind) => numericKinds.has(kind), kindOf);
  return Object.fromEntries(
    [...cells].map(([attribute, shown]) => [attribute, openMarksIn(shown, { ...marks, areTyped })]),
  );
}

/** Marks in words; the decimal point is as usual and needs none. */
export function toldMarks({ decimalMark, dateOrder }: FoundMarks): readonly string[] {
  return [
    ...(decimalMark === "," ? ["decimal comma"] : []),
    ...(dateOrder === undefined ? [] : [dateOrder === "dmy" ? "day before month" : "month before day"]),
  ];
}

/** What a file leaves unsaid: stated by the source, else seen in the first rows, else the workspace's own. */
function defaultsOf(
  source: Source,
  table: TableStream,
  workspace: Workspace,
): {
  readonly defaults: ReadingDefaults;
  readonly currencies: readonly string[];
  readonly openMarksOf: Readonly<Record<string, string>>;
  readonly told: readonly string[];
} {
  const { settings } = source;
  const { kindOf } = workspace;
  const found = marksIn(source, table, kindOf);
  const currencies = settings.currency ?? [workspace.manifest.currency];
  const mark = settings.decimal_mark ?? found.decimalMark;
  const order = settings.date_order ?? found.dateOrder;
  return {
    defaults: {
      decimalMark: mark ?? ".",
      // Numbers that read either way are never guessed at, row by row: the source has to say.
      openMarks: mark === undefined && formatOf(table.format).hasOpenMarks === true ? ",." : "",
      currency: currencies[0] ?? workspace.manifest.currency,
      ...(order === undefined ? {} : { dateOrder: order }),
    },
    currencies,
    openMarksOf: openMarks(source, table, { mark, isStated: settings.decimal_mark !== undefined }, kindOf),
    told: toldMarks({
      decimalMark: settings.decimal_mark === undefined ? mark : undefined,
      dateOrder: settings.date_order === undefined ? order : undefined,
    }),
  };
}

const mentions = (expression: string, column: string): boolean =>
  expression === column ||
  expression.includes(`\`${column}\``) ||
  (/^[\p{L}_][\p{L}\p{N}_]*$/u.test(column) && expression.includes(column));

/**
 * Ties a source to the header of the file at hand.
 * @throws Refusal with every column that the file does not have and every wrong expression
 */
export function readingFor(
  source: Source,
  table: TableStream,
  workspace: Workspace,
  given: Surroundings,
): TiedSource {
  const { settings, yaml } = source;
  const { defaults, currencies, openMarksOf, told } = defaultsOf(source, table, workspace);
  const surroundings = { ...given, reading: defaults };
  const tying: Tying = { source, table, names: columnNames(table), surroundings, findings: [] };
  const columns = [
    ...Object.keys(settings.columns).flatMap((attribute) => columnReading(tying, attribute)),
    ...channelColumns(tying, workspace),
  ];
  const keys = settings.key ?? ["sku"];
  const readPairs = [
    ...pairs(tying, "options", settings.options ?? []),
    ...pairs(tying, "pairs", settings.pairs ?? []),
  ];
  const take = condition(tying, ["take"]);
  const { further_rows: further = [] } = settings;
  const orderBy = Array.isArray(further) ? undefined : rowOrder(tying);
  const marks = rowMarks(tying, workspace);
  const groups = groupLayout(tying);
  if (
    tying.findings.length === 0 &&
    !columns.some(({ attribute, channel }) => channel === undefined && keys.includes(attribute))
  )
    tying.findings.push(
      diagnostic(
        "no-key-column",
        { key: keys.join(" or "), columns: table.header.filter(Boolean) },
        { place: yaml.place(["columns"]) },
      ),
    );
  if (tying.findings.length > 0) throw new Refusal(tying.findings);
  return {
    told,
    reading: {
      ...defaults,
      currencies,
      openMarksOf,
      kindOf: workspace.kindOf,
      file: table.file,
      columns,
      keys,
      take,
      groups,
      furtherRowsAdd: new Set(Array.isArray(further) ? further : further.add),
      gathers: Array.isArray(further) ? undefined : { orderBy },
      marks,
      pairs: readPairs,
      units: settings.units ?? {},
      listSeparator: settings.list_separator ?? DEFAULT_LIST_SEPARATOR,
      clearWord: settings.clear_word,
    },
  };
}
