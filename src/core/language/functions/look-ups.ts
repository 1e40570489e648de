import { nearest } from "../../values/nearest.js";
import type { MaybeBlank, Value } from "../../values/value.js";
import type { ExpressionFunction, KnownArgument, Surroundings } from "../function.js";
import { areApart, fits, shapeWords, type Shape } from "../kind.js";
import { keyText, LIMIT_COLUMN, type LookUpRow, type LookUpTable } from "../look-up-table.js";
import { cannot, type Cannot } from "../trouble.js";
import type { TroubleFacts } from "../../diagnostics/trouble-facts.js";
import { asText, optional, parameter } from "./arguments.js";

const noTable = (name: string, { tables }: Surroundings): TroubleFacts => ({
  trouble: "no-table",
  table: name,
  nearest: nearest(name, tables?.keys() ?? []),
});

const noColumn = (table: LookUpTable, column: string): TroubleFacts => ({
  trouble: "no-table-column",
  table: table.name,
  column,
  nearest: nearest(column, table.columns),
});

/** Whether a value can be in no band: it is of another kind, dimension or currency than the limits. */
const isOutside = (value: Shape, limits: Shape): boolean =>
  !fits(value.kind, limits.kind) || areApart(value, limits);

/** A table and column that are written out are looked for before any product is. */
const foresee =
  (needsLimits: boolean) =>
  (
    [table, column, value]: readonly KnownArgument[],
    surroundings: Surroundings,
  ): Shape | TroubleFacts | undefined => {
    if (typeof table?.literal !== "string") return undefined;
    const found = surroundings.tables?.get(table.literal);
    if (found === undefined) return noTable(table.literal, surroundings);
    if (needsLimits && found.limitColumn === undefined) return noColumn(found, LIMIT_COLUMN);
    if (typeof column?.literal !== "string") return undefined;
    const shape = found.column(column.literal);
    if (shape === undefined) return noColumn(found, column.literal);
    const limits = found.column(LIMIT_COLUMN);
    if (needsLimits && value !== undefined && limits !== undefined && isOutside(value, limits))
      return {
        trouble: "wrong-argument",
        name: "from_band",
        reason: `the limits of "${found.name}" are each ${shapeWords(limits)}, the value is ${shapeWords(value)}`,
      };
    return { kind: shape.kind, currency: shape.currency, dimension: shape.dimension };
  };

interface AskedTable {
  readonly table: LookUpTable;
  readonly index: number;
}

function asked(table: MaybeBlank, column: MaybeBlank, surroundings: Surroundings): AskedTable | Cannot {
  const found = surroundings.tables?.get(asText(table));
  if (found === undefined) return cannot(noTable(asText(table), surroundings));
  const index = found.column(asText(column))?.index;
  return index === undefined ? cannot(noColumn(found, asText(column))) : { table: found, index };
}

const cellOf = (
  row: LookUpRow | undefined,
  { table, index }: AskedTable,
  key: () => string,
): MaybeBlank | Cannot =>
  row === undefined ? cannot({ trouble: "no-table-row", table: table.name, key: key() }) : row.cells[index];

const keysOf = (values: readonly MaybeBlank[]): readonly string[] =>
  values.map((value) => (value === undefined ? "" : keyText(value)));

const valueText = (value: Value): string => keyText(value);

/** Functions that look into the user's tables, rates and lexicons. */
export const lookUps: readonly ExpressionFunction[] = [
  {
    name: "from_table",
    family: "look-ups",
    summary:
      "The cell of one of your tables in a column, in the row whose first columns hold the keys. Where none holds them as written, case and accents do not matter; a blank first key gives blank.",
    parameters: [parameter("table", "text"), parameter("column", "text"), parameter("key", "any")],
    repeats: true,
    result: "any",
    examples: [{ expression: 'from_table("colours", "german", "moss green")', gives: "moosgrün" }],
    foresee: foresee(false),
    apply([table, column, ...keys], surroundings) {
      if (keys[0] === undefined) return undefined;
      const found = asked(table, column, surroundings);
      if (!("table" in found)) return found;
      const texts = keysOf(keys);
      return cellOf(found.table.row(texts), found, () => texts.map((key) => `"${key}"`).join(" and "));
    },
  },
  {
    name: "from_band",
    family: "look-ups",
    summary:
      "The cell of one of your tables in a column, in the first row whose limit, in the column up_to, holds the value; a blank limit holds everything. Keys are held against the first columns, where a blank cell goes for any; a key that is blank finds such rows alone, and without keys the columns are not looked at.",
    parameters: [
      parameter("table", "text"),
      parameter("column", "text"),
      parameter("value", "any"),
      optional("key", "any"),
    ],
    repeats: true,
    result: "any",
    examples: [
      { expression: 'from_band("parcels", "cost", measure(1.2, "kg"), "DE")', gives: "9.00 EUR" },
      { expression: 'from_band("parcels", "cost", measure(1.2, "kg"), "GB")', gives: "4.50 GBP" },
    ],
    foresee: foresee(true),
    apply([table, column, value, ...keys], surroundings) {
      if (value === undefined) return undefined;
      const found = asked(table, column, surroundings);
      if (!("table" in found)) return found;
      const texts = keysOf(keys);
      return cellOf(found.table.band(value, texts), found, () => [valueText(value), ...texts].join(", "));
    },
  },
  {
    name: "channel_term",
    family: "look-ups",
    summary:
      "In a channel's fills: what the channel calls our term in one of its fields, by the channel's lexicon and the field's permitted values; blank when it has no word for it.",
    parameters: [parameter("field", "text"), parameter("term", "text")],
    result: "text",
    examples: [{ expression: 'channel_term("tint", "moss green")', gives: "green" }],
    apply: ([field, term], { channelTerm }) =>
      term === undefined ? undefined : channelTerm?.(asText(field), asText(term)),
  },
];
