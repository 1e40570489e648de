import { decimal } from "../../values/decimal.js";
import { fold } from "../../values/text.js";
import { ownAttribute } from "../own-attribute.js";
import { attributeKind, isAttributeName, WAS_PRICE } from "../vocabulary.js";
import { candidates } from "./candidates.js";
import { combinations, type Combination } from "./combinations.js";
import { columnExpression, listExpression } from "./expressions.js";
import { furtherRows, groupLayout } from "./group-layout.js";
import { sampleColumns, type SampleColumn } from "./sample-column.js";
import type { FileSample, ProposedAttribute, SourceProposal } from "./source-proposal.js";

const MEANT = 0.4;

interface Claim {
  readonly column: SampleColumn;
  readonly attribute: string;
  readonly confidence: number;
}

/** The attribute with the language or currency that the column's name adds. */
const marked = (attribute: string, { name }: SampleColumn, language: string): string => {
  const { kind } = attributeKind(attribute);
  if (kind === "money" && name.currency !== undefined) return `${attribute}@${name.currency}`;
  const speaks = kind === "text" || kind === "html" || attribute === "url";
  return speaks && name.language !== undefined && name.language !== language
    ? `${attribute}@${name.language}`
    : attribute;
};

/** What columns on their own claim to be, surest first. */
const claims = (columns: readonly SampleColumn[], language: string): readonly Claim[] =>
  columns
    .flatMap((column) =>
      candidates(column)
        .filter(({ confidence }) => confidence >= MEANT)
        // The price before a reduction is the price, where no other column is.
        .map((one) =>
          one.attribute === WAS_PRICE ? { attribute: "price", confidence: one.confidence * 0.9 } : one,
        )
        .map(({ attribute, confidence }) => ({
          column,
          attribute: marked(attribute, column, language),
          confidence,
        })),
    )
    .sort((a, b) => b.confidence - a.confidence || a.column.index - b.column.index);

const single = ({ column, attribute, confidence }: Claim): ProposedAttribute => ({
  attribute,
  expression: columnExpression(column.column),
  columns: [column.column],
  confidence,
  samples: column.shape.samples,
  known: true,
});

const listed = (attribute: string, members: readonly Claim[]): ProposedAttribute => {
  const columns = members.map(({ column }) => column).sort((a, b) => a.index - b.index);
  const names = columns.map(({ column }) => column);
  return {
    attribute,
    expression: names.length === 1 ? columnExpression(names[0] ?? "") : listExpression(names),
    columns: names,
    confidence: Math.max(...members.map(({ confidence }) => confidence)),
    samples: columns[0]?.shape.samples ?? [],
    known: true,
  };
};

/** A column that means none of ours is kept under a name of its own. */
const own = ({ column, shape }: SampleColumn, taken: ReadonlySet<string>): ProposedAttribute => {
  const wanted = isAttributeName(column) ? column : ownAttribute(column);
  let attribute = wanted;
  for (let number = 2; taken.has(attribute); number++) attribute = `${wanted}_${number}`;
  return {
    attribute,
    expression: columnExpression(column),
    columns: [column],
    confidence: 0,
    samples: shape.samples,
    known: false,
  };
};

const codeName = /\b(?:id|code|no|nr|ref|item|article|artikel|key|number|sku)\b/;

/** Where no column is named for it: one that has a short value of its own in each row, without spaces. */
const likelySku = (columns: readonly SampleColumn[]): Claim | undefined => {
  const unique = columns.filter(
    ({ shape }) =>
      shape.filled > 0 &&
      shape.density > 0.97 &&
      shape.distinct > 0.97 &&
      shape.codeLike > 0.97 &&
      Math.max(shape.url, shape.date, shape.gtin, shape.isbn, shape.moneySign) < 0.1,
  );
  const named = unique.find(({ column }) => codeName.test(fold(column)));
  const column = named ?? unique.find(({ shape }) => shape.filled > 2);
  return column === undefined
    ? undefined
    : { column, attribute: "sku", confidence: named === undefined ? 0.45 : 0.65 };
};

const settle = (
  columns: readonly SampleColumn[],
  combined: readonly Combination[],
  language: string,
): readonly ProposedAttribute[] => {
  const found = new Map<string, ProposedAttribute>();
  const lists = new Map<string, Claim[]>();
  const used = new Set<SampleColumn>(combined.flatMap((one) => one.used));
  for (const attribute of combined.flatMap((one) => one.attributes))
    if (!found.has(attribute.attribute)) found.set(attribute.attribute, attribute);
  for (const claim of claims(
    columns.filter((column) => !used.has(column)),
    language,
  )) {
    if (used.has(claim.column) || found.has(claim.attribute)) continue;
    used.add(claim.column);
    if (!attributeKind(claim.attribute).list) found.set(claim.attribute, single(claim));
    else lists.set(claim.attribute, [...(lists.get(claim.attribute) ?? []), claim]);
  }
  const key = found.has("sku") ? undefined : likelySku(columns.filter((column) => !used.has(column)));
  if (key !== undefined) {
    used.add(key.column);
    found.set("sku", single(key));
  }
  for (const [attribute, members] of lists) found.set(attribute, listed(attribute, members));
  const taken = new Set(found.keys());
  for (const column of columns) {
    if (used.has(column)) continue;
    const kept = own(column, taken);
    taken.add(kept.attribute);
    found.set(kept.attribute, kept);
  }
  nameFromDescription(found);
  const position = (attribute: ProposedAttribute): number =>
    columns.findIndex(({ column }) => column === attribute.columns[0]);
  return [...found.values()].sort((a, b) => position(a) - position(b));
};

/** A list without titles calls them descriptions: short ones are names. */
const nameFromDescription = (found: Map<string, ProposedAttribute>): void => {
  const described = found.get("description");
  if (described === undefined || found.has("name")) return;
  if (described.samples.some((sample) => sample.length > 80 || sample.includes("<"))) return;
  found.delete("description");
  found.set("name", { ...described, attribute: "name" });
};

/** Units of bare numbers: the one that a column's name states, else one that fits the amounts. */
const unitsOf = (
  attributes: readonly ProposedAttribute[],
  columns: readonly SampleColumn[],
): Readonly<Record<string, string>> =>
  Object.fromEntries(
    attributes.flatMap(({ attribute, columns: read, expression }) => {
      const column = columns.find((one) => one.column === read[0]);
      if (column === undefined || attributeKind(attribute).kind !== "measure") return [];
      if (expression.startsWith("compound(") || expression.startsWith('"')) return [];
      return [[attribute, column.name.unit ?? usualUnit(attribute, column)]];
    }),
  );

const usualUnit = (attribute: string, { shape }: SampleColumn): string => {
  const amounts = shape.samples.flatMap((text) => decimal(text.replace(",", "."))?.toNumber() ?? []);
  const middle = amounts.sort((a, b) => a - b)[amounts.length >> 1] ?? 0;
  const areWhole = amounts.length > 0 && amounts.every(Number.isInteger);
  if (attribute.includes("weight")) return areWhole && middle >= 100 ? "g" : "kg";
  if (attribute === "unit_quantity") return "pc";
  return areWhole && middle >= 300 ? "mm" : "cm";
};

const separators = ["|", ";", "\n", ","] as const;

/** The mark that stands between several values of one cell, where lists are read from one column. */
const separatorOf = (
  attributes: readonly ProposedAttribute[],
  { header, rows }: FileSample,
): string | undefined => {
  const cells = attributes
    .filter(({ attribute, known }) => known && attributeKind(attribute).list)
    .flatMap(({ columns }) => columns.map((column) => header.indexOf(column)))
    .flatMap((index) => rows.map((row) => row[index] ?? ""))
    .filter(Boolean);
  const counts = separators.map(
    (mark) =>
      cells.filter(
        (cell) =>
          cell.split(mark).length > 1 && (mark !== "," || /,\s*https?:/.test(cell) || !/[.!]$/.test(cell)),
      ).length,
  );
  const most = Math.max(...counts);
  const found = separators[counts.indexOf(most)];
  return most === 0 || found === "\n" ? undefined : found;
};

const currencyOfNames = (columns: readonly SampleColumn[]): string | undefined => {
  const codes = new Set(columns.flatMap(({ name }) => name.currency ?? []));
  return codes.size === 1 ? [...codes][0] : undefined;
};

/** One currency for the whole file is its default, and no mark on each attribute. */
const withoutSoleCurrency = (
  attributes: readonly ProposedAttribute[],
  currency: string | undefined,
): readonly ProposedAttribute[] =>
  attributes.map((proposed) => {
    const [base = "", mark] = proposed.attribute.split("@");
    const isFree = !attributes.some(({ attribute }) => attribute === base);
    return mark !== undefined && mark === currency && isFree ? { ...proposed, attribute: base } : proposed;
  });

/**
 * Proposes how to read a file that no source describes: by the names of its columns, their usual synonyms, and the shape
 * of their values. Every column that has a name is kept.
 */
export const proposeSource = (sample: FileSample, language: string): SourceProposal => {
  const columns = sampleColumns(sample);
  const combined = combinations(columns);
  const currency = currencyOfNames(columns);
  const attributes = withoutSoleCurrency(settle(columns, combined, language), currency);
  const has = (attribute: string): boolean => attributes.some((one) => one.attribute === attribute);
  const pairs = combined.flatMap((one) => one.pairs);
  const keys = (["sku", "gtin", "isbn", "mpn", "name"] as const).filter(has).slice(0, 1);
  return {
    attributes,
    units: unitsOf(attributes, columns),
    currency,
    listSeparator: separatorOf(attributes, sample),
    keys,
    mode: keys[0] === "sku" ? "both" : "update",
    groups: groupLayout(sample, attributes),
    furtherRows: furtherRows(sample, attributes),
    options: has("group") ? pairs : [],
    pairs: has("group") ? [] : pairs,
  };
};
