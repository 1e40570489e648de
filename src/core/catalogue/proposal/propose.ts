/**
 * Proposes how to read a file that no source describes: candidates for each column, then combinations, then one choice
 * for all of them together, then key, mode and groups.
 */
import { greatest } from "../../many.js";
import { fold } from "../../values/text.js";
import { ownAttribute } from "../own-attribute.js";
import { attributeKind, isAttributeName, isOurs, WAS_PRICE, withoutMark } from "../vocabulary.js";
import { candidates } from "./candidates.js";
import type { Combination } from "./combination.js";
import { combinations } from "./combinations.js";
import { columnExpression, listExpression, textExpression } from "./expressions.js";
import { furtherRows, groupLayout } from "./group-layout.js";
import { sampleColumns, type SampleColumn } from "./sample-column.js";
import { isCurrency } from "../../values/currencies.js";
import { unitsOf } from "./bare-units.js";
import { matching, nearKeys } from "./matching.js";
import { rowStructure } from "./row-structure.js";
import type {
  FileSample,
  OwnKind,
  ProposedAttribute,
  ProposedPair,
  SourceProposal,
} from "./source-proposal.js";

const MEANT = 0.4;

interface ColumnClaim {
  readonly column: SampleColumn;
  readonly attribute: string;
  readonly confidence: number;
}

/** Texts that are the same in every language. */
const codes = new Set([
  "sku",
  "group",
  "mpn",
  "brand",
  "manufacturer",
  "varies_by",
  "country_of_origin",
  "bundle_of",
]);

/** The attribute with the language or currency that the column's name adds. */
function marked(attribute: string, { name }: SampleColumn, language: string): string {
  const { kind } = attributeKind(attribute);
  if (kind === "money" && name.currency !== undefined) return `${attribute}@${name.currency}`;
  const speaks = ((kind === "text" || kind === "html") && !codes.has(attribute)) || attribute === "url";
  return speaks && name.language !== undefined && name.language !== language
    ? `${attribute}@${name.language}`
    : attribute;
}

/** What columns on their own claim to be, surest first. */
const claims = (columns: readonly SampleColumn[], language: string): readonly ColumnClaim[] =>
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
          // "Maker's part no." says more than "Part no.".
          confidence:
            attribute === "mpn" ? confidence * (0.97 + 0.01 * Math.min(3, wordsIn(column))) : confidence,
        })),
    )
    .sort((a, b) => b.confidence - a.confidence || a.column.index - b.column.index);

// "Maker's part no." says more than "Part no.".
const wordsIn = ({ name }: SampleColumn): number => name.words.split(" ").length;

/** Names and values agree: else nobody can be sure, however well the name fits. */
const AGREED = 0.84;

const single = ({ column, attribute, confidence }: ColumnClaim): ProposedAttribute => ({
  attribute,
  expression: columnExpression(column.column),
  columns: [column.column],
  confidence: Math.min(1, confidence),
  samples: column.shape.samples,
  known: true,
});

function listed(attribute: string, members: readonly ColumnClaim[]): ProposedAttribute {
  const columns = members.map(({ column }) => column).sort((a, b) => a.index - b.index);
  const names = columns.map(({ column }) => column);
  return {
    attribute,
    expression: names.length === 1 ? columnExpression(names[0] ?? "") : listExpression(names),
    columns: names,
    confidence: greatest(members.map(({ confidence }) => confidence)),
    samples: columns[0]?.shape.samples ?? [],
    known: true,
  };
}

/** A column that means none of ours is kept under a name of its own: its last words, or with those above where they are taken. */
function own(column: SampleColumn, taken: ReadonlySet<string>): ProposedAttribute {
  const { column: name, label, shape } = column;
  const last = ownAttribute(label.split(" / ").at(-1) ?? label);
  const whole = isAttributeName(name) ? name : ownAttribute(name);
  // A name of ours would be read as what we mean by it.
  const wanted = [last, whole].find((one) => !taken.has(one) && !isOurs(one)) ?? whole;
  let attribute = wanted;
  for (let number = 2; taken.has(attribute) || isOurs(attribute); number++) attribute = `${wanted}_${number}`;
  const kind = ownKind(column);
  return {
    attribute,
    expression: columnExpression(name),
    columns: [name],
    confidence: 0,
    samples: shape.samples,
    known: false,
    ...(kind === undefined ? {} : { ownKind: kind }),
  };
}

/** The kind that a column's values show, where they are no texts. */
function ownKind({ shape, name, cells }: SampleColumn): OwnKind | undefined {
  if (shape.filled < 3) return undefined;
  if (shape.date >= 0.8) return "date";
  if (shape.yesNo >= 0.9 && cells.some((cell) => /\p{L}/u.test(cell))) return "yes-no";
  const isAmount = Math.max(shape.money, shape.moneySign) >= 0.7;
  if (isAmount && (shape.moneySign >= 0.5 || name.currency !== undefined)) return "money";
  const hasZeros = cells.some((cell) => /^0\d/.test(cell.trim()));
  return shape.number >= 0.95 && shape.whole < 0.9 && !hasZeros ? "number" : undefined;
}

const codeName = /\b(?:id|code|no|nr|ref|item|article|artikel|key|number|sku)\b/;

/** Where no column is named for it: one that has a short value of its own in each row, without spaces. */
function likelySku(columns: readonly SampleColumn[]): ColumnClaim | undefined {
  const unique = columns.filter(
    ({ shape }) =>
      shape.filled > 0 &&
      shape.density > 0.97 &&
      shape.distinct > 0.97 &&
      shape.codeLike > 0.97 &&
      // Sizes differ from row to row too; they are short numbers.
      (shape.number < 0.9 || shape.averageLength >= 3) &&
      Math.max(shape.url, shape.date, shape.gtin, shape.isbn, shape.moneySign) < 0.1,
  );
  const named = unique.find(({ column }) => codeName.test(fold(column)));
  const column = named ?? unique.find(({ shape }) => shape.filled > 2);
  return column === undefined
    ? undefined
    : { column, attribute: "sku", confidence: named === undefined ? 0.45 : 0.65 };
}

function settle(
  columns: readonly SampleColumn[],
  combined: readonly Combination[],
  language: string,
): readonly ProposedAttribute[] {
  const found = new Map<string, ProposedAttribute>();
  const lists = new Map<string, ColumnClaim[]>();
  const used = new Set<SampleColumn>(combined.flatMap((one) => one.used));
  for (const attribute of combined.flatMap((one) => one.attributes))
    if (!found.has(attribute.attribute)) found.set(attribute.attribute, attribute);
  const all = claims(
    columns.filter((column) => !used.has(column)),
    language,
  );
  for (const claim of all) {
    if (used.has(claim.column) || found.has(claim.attribute)) continue;
    used.add(claim.column);
    if (!attributeKind(claim.attribute).list) {
      const isRivalled = all.some(
        (other) =>
          other.attribute === claim.attribute && other.column !== claim.column && other.confidence > AGREED,
      );
      found.set(
        claim.attribute,
        single(isRivalled ? { ...claim, confidence: Math.min(claim.confidence, AGREED) } : claim),
      );
    } else lists.set(claim.attribute, [...(lists.get(claim.attribute) ?? []), claim]);
  }
  const isKnownBy = (attribute: string, least: number): boolean => {
    const column = found.get(attribute)?.columns[0];
    const knows = columns.find((one) => one.column === column)?.known;
    return (knows?.[attribute as keyof typeof knows] ?? 0) >= least;
  };
  const isFound = found.has("sku") || isKnownBy("gtin", 0.3) || isKnownBy("mpn", 0.6);
  const key = isFound ? undefined : likelySku(columns.filter((column) => !used.has(column)));
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
}

/** A list without titles calls them descriptions: short ones are names. */
function nameFromDescription(found: Map<string, ProposedAttribute>): void {
  const described = found.get("description");
  if (described === undefined || found.has("name")) return;
  if (described.samples.some((sample) => sample.length > 80 || sample.includes("<"))) return;
  for (const attribute of [...found.keys()].filter((name) => withoutMark(name) === "description")) {
    const one = found.get(attribute);
    const name = attribute.replace("description", "name");
    if (one === undefined || found.has(name)) continue;
    found.delete(attribute);
    found.set(name, { ...one, attribute: name });
  }
}

const separators = ["|", ";", "\n", ","] as const;

/** The mark that most cells have between several values, and how many have it. */
function markIn(cells: readonly string[]): { readonly mark: string; readonly count: number } | undefined {
  const counts = separators.map(
    (mark) =>
      cells.filter(
        (cell) =>
          cell.split(mark).length > 1 && (mark !== "," || /,\s*https?:/.test(cell) || !/[.!]$/.test(cell)),
      ).length,
  );
  const count = greatest(counts);
  const mark = separators[counts.indexOf(count)];
  return count === 0 || mark === undefined ? undefined : { mark, count };
}

const cellsOf = ({ columns }: ProposedAttribute, { header, rows }: FileSample): readonly string[] =>
  columns.flatMap((column) => rows.map((row) => row[header.indexOf(column)] ?? "")).filter(Boolean);

const isKnownList = ({ attribute, known }: ProposedAttribute): boolean =>
  known && attributeKind(attribute).list;

/** The mark that stands between several values of one cell, where lists are read from one column. */
function separatorOf(attributes: readonly ProposedAttribute[], sample: FileSample): string | undefined {
  const found = markIn(attributes.filter(isKnownList).flatMap((one) => cellsOf(one, sample)));
  return found?.mark === "\n" ? undefined : found?.mark;
}

const USUAL_MARK = "|";

/** A list whose cells have a mark of their own is split by it; commas stand in texts too, and are none. */
const withOwnMarks = (
  attributes: readonly ProposedAttribute[],
  sample: FileSample,
  mark = USUAL_MARK,
): readonly ProposedAttribute[] =>
  attributes.map((one) => {
    const [column = ""] = one.columns;
    if (!isKnownList(one) || one.expression !== columnExpression(column)) return one;
    const cells = cellsOf(one, sample);
    const own = markIn(cells);
    const isOther = own !== undefined && own.mark !== mark && own.mark !== "\n" && own.mark !== ",";
    if (!isOther || own.count < cells.length / 2) return one;
    return { ...one, expression: `split(${columnExpression(column)}, ${textExpression(own.mark)})` };
  });

/** The currency that needs no mark: the one that names say, and of several the shop's own. */
function currencyOfNames(columns: readonly SampleColumn[], ours: string | undefined): string | undefined {
  const codes = [...new Set(columns.flatMap(({ name }) => name.currency ?? []))];
  if (ours !== undefined && codes.includes(ours)) return ours;
  return codes.length === 1 ? codes[0] : undefined;
}

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

/** A catalogue begins with SKUs: where a file has none, the maker's or trade's own number is one. */
function withSkus(
  attributes: readonly ProposedAttribute[],
  { known }: FileSample,
): readonly ProposedAttribute[] {
  if (known !== undefined || attributes.some(({ attribute }) => attribute === "sku")) return attributes;
  const from = ["mpn", "gtin", "isbn"].flatMap(
    (key) => attributes.find(({ attribute }) => attribute === key) ?? [],
  );
  const [number] = from;
  return number === undefined
    ? attributes
    : [{ ...number, attribute: "sku", confidence: 0.6 }, ...attributes];
}

/** Columns of amounts beside one of their currencies: those that stand there. */
function currenciesIn(combined: readonly Combination[], { header, rows }: FileSample): readonly string[] {
  const columns = combined.flatMap(({ currency }) => currency ?? []);
  return [
    ...new Set(
      columns.flatMap(({ column }) =>
        rows.map((cells) => (cells[header.indexOf(column)] ?? "").trim().toUpperCase()),
      ),
    ),
  ].filter(isCurrency);
}

/**
 * Proposes how to read a file that no source describes: by the names of its columns, their usual synonyms, the shape of
 * their values, and what of them the catalogue knows. Every column that has a name is kept.
 */
export function proposeSource(sample: FileSample, language: string, shopCurrency?: string): SourceProposal {
  const columns = sampleColumns(sample);
  const combined = combinations(columns);
  const inColumn = currenciesIn(combined, sample);
  const currency = currencyOfNames(columns, shopCurrency) ?? sample.currency ?? inColumn[0];
  const settled = withSkus(settle(columns, combined, language), sample);
  const settledPrices = withoutSoleCurrency(honest(settled, sample), currency);
  const has = (attribute: string): boolean => settledPrices.some((one) => one.attribute === attribute);
  const positionOf = ({ name }: ProposedPair): number => sample.header.indexOf(name);
  const pairs = [
    // What members differ in has the order of the columns.
    ...combined.flatMap((one) => one.pairs).sort((a, b) => positionOf(a) - positionOf(b)),
    ...(sample.pairs ?? []),
  ];
  const { keys, mode, matched } = matching(settledPrices, sample);
  const attributes = mode === "update" ? asRecommended(settledPrices) : settledPrices;
  const rows = rowStructure(columns, attributes, keys, (column) =>
    attributes.every(({ columns: read, known }) => !known || !read.includes(column.column)),
  );
  // A list of stocks or prices names goods so that people find them in it: the catalogue's own names stand.
  const isList =
    keys.length > 0 &&
    mode === "update" &&
    ["quantity", "cost", "price", "list_price"].some(has) &&
    !["description", "images"].some(has);
  const marksRows = new Set([rows.languageFrom, rows.currencyFrom, rows.orderBy, ...rows.apart]);
  const isOfKnown = ({ attribute }: ProposedAttribute): boolean =>
    mode === "update" && (attribute === "group" || attribute === "varies_by");
  const saysMore = attributes.some((one) => !isOfKnown(one) && !keys.includes(one.attribute));
  const isLeft = (one: ProposedAttribute): boolean => isLeftOut(one) || (saysMore && isOfKnown(one));
  const isLeftOut = ({ attribute, columns: read }: ProposedAttribute): boolean =>
    (isList && withoutMark(attribute) === "name" && read.length === 1) ||
    (read.length === 1 && marksRows.has(read[0]));
  const kept = attributes.filter((one) => !isLeft(one));
  const isGrouped = kept.some(({ attribute }) => attribute === "group");
  const listSeparator = separatorOf(kept, sample);
  return {
    attributes: withOwnMarks(kept, sample, listSeparator),
    leftOut: attributes
      .filter(isLeft)
      .flatMap((one) => one.columns)
      .filter((column) => !marksRows.has(column)),
    rows,
    units: unitsOf(kept, columns),
    currency,
    currencies: inColumn.filter((code) => code !== currency),
    listSeparator,
    keys,
    nearKeys: keys.length === 0 ? nearKeys(columns) : [],
    mode,
    matched,
    groups: groupLayout(sample, kept),
    furtherRows: rows.gathered.length > 0 ? [] : furtherRows(sample, kept),
    options: isGrouped ? pairs : [],
    pairs: isGrouped ? [] : pairs,
  };
}

/** In a list for goods that are known, beside what they cost, a retail price is what the maker recommends. */
function asRecommended(attributes: readonly ProposedAttribute[]): readonly ProposedAttribute[] {
  const has = (base: string): boolean => attributes.some(({ attribute }) => withoutMark(attribute) === base);
  if (!has("cost") || has("list_price")) return attributes;
  return attributes.map((one) =>
    withoutMark(one.attribute) === "price"
      ? { ...one, attribute: one.attribute.replace("price", "list_price") }
      : one,
  );
}

/** An SKU that a catalogue of products has never seen, in a list that names nothing new, is no sure thing. */
const honest = (
  attributes: readonly ProposedAttribute[],
  { header, known }: FileSample,
): readonly ProposedAttribute[] =>
  attributes.map((one) => {
    const knows = known?.[header.indexOf(one.columns[0] ?? "")];
    const isUnknown = knows !== undefined && one.attribute === "sku" && (knows.sku ?? 0) < 0.3;
    return isUnknown && one.confidence > AGREED ? { ...one, confidence: AGREED } : one;
  });
