/**
 * What became of a product, without its listing: plain columns that go between threads and into files, and are read
 * back as they were written.
 */
import { textOf } from "../catalogue/product.js";
import type { Diagnostic, Note } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import { asSku, type Sku } from "../ids.js";
import type { FactsReader, FactsWriter } from "../catalogue/plain-facts.js";
import { MemoRoom, TextMemo } from "../text-memo.js";
import { productOf, type Outcome } from "./listing.js";

/** What became of a product on a channel, without its listing. */
export interface Judged {
  readonly kind: Outcome["kind"];
  readonly sku: Sku;
  /** Our own category. */
  readonly category: string | undefined;
  readonly findings: readonly Diagnostic[];
}

/** An outcome without its listing. */
export function judgedOf(outcome: Outcome): Judged {
  const { kind, findings } = outcome;
  const product = productOf(outcome);
  const isSilent = kind === "ready" && findings.length === 0;
  return { kind, sku: product.sku, category: isSilent ? undefined : textOf(product, "category"), findings };
}

const NO_ROW = -1;

/** What many products have in common: all of their findings but the products and the rows of their files. */
interface Common extends Pick<Judged, "kind" | "category"> {
  readonly findings: readonly Omit<Diagnostic, "product">[];
  /** Of each finding whether it is of the product itself. */
  readonly own: readonly boolean[];
}

/** The rows of a rule's notes are the rule's own: only values and what they collide with stand in rows of a shop's files. */
const isOfRow = ({ note, place }: Note): boolean =>
  (note === "value" || note === "other") && place.row !== undefined;

type Rowed = Pick<Diagnostic, "place" | "notes">;

/** A finding's places with other rows: its own, then those of its notes. */
const withRows = ({ place, notes }: Rowed, rowOf: (row: number) => number): Rowed => ({
  ...(place === undefined
    ? {}
    : { place: place.row === undefined ? place : { ...place, row: rowOf(place.row) } }),
  ...(notes === undefined
    ? {}
    : {
        notes: notes.some(isOfRow)
          ? notes.map((note) =>
              isOfRow(note)
                ? { ...note, place: { ...note.place, row: rowOf(note.place.row ?? NO_ROW) } }
                : note,
            )
          : notes,
      }),
});

const commonOf = ({ kind, sku, category, findings }: Judged): Common => ({
  kind,
  category,
  findings: findings.map((finding) => ({
    ...finding,
    product: undefined,
    ...withRows(finding, () => NO_ROW),
  })),
  own: findings.map(({ product }) => product === sku),
});

/** Places of rules come again with each finding of theirs. */
const ruleKeys = new WeakMap<Place, string>();

const placeKey = (place: Place): string =>
  JSON.stringify(place.row === undefined ? place : { ...place, row: NO_ROW });

function noteKey(note: Note): string {
  if (isOfRow(note)) return note.note + placeKey(note.place);
  const known = ruleKeys.get(note.place);
  if (known !== undefined) return note.note + known;
  const key = JSON.stringify(note.place);
  ruleKeys.set(note.place, key);
  return note.note + key;
}

const BETWEEN = "\u0000";

/** Tells findings apart as their {@link Common} does, at less cost. */
function keyOf(finding: Diagnostic, sku: Sku): string {
  const { code, severity, channel, category, field, facts, place, notes, product } = finding;
  const head = [code, severity, channel, category, field, product === sku, JSON.stringify(facts)].join(
    BETWEEN,
  );
  const noted = notes === undefined ? "" : notes.map(noteKey).join(BETWEEN);
  return `${head}${BETWEEN}${place === undefined ? "" : placeKey(place)}${BETWEEN}${noted}`;
}

/** Writes down what became of a product, for {@link JudgedReader}. */
export function writeJudged(judged: Judged, facts: FactsWriter): void {
  const { kind, sku, category, findings } = judged;
  const keys = findings.map((finding) => keyOf(finding, sku));
  facts.wordOf([kind, category, ...keys].join(BETWEEN), () => JSON.stringify(commonOf(judged)));
  facts.text(sku);
  for (const { product } of findings) if (product !== sku) facts.text(product ?? "");
  const noteRow = (row: number): number => {
    facts.number(row);
    return row;
  };
  for (const finding of findings) if (hasRows(finding)) withRows(finding, noteRow);
}

/** Writes down what became of some products, for {@link JudgedReader.all}. */
export function writeAll(judged: readonly Judged[], facts: FactsWriter): void {
  facts.number(judged.length);
  for (const one of judged) writeJudged(one, facts);
}

const hasRows = ({ place, notes }: Rowed): boolean =>
  place?.row !== undefined || (notes !== undefined && notes.some(isOfRow));

/** A {@link Common} that was read, and what it takes beside. */
interface Known {
  readonly common: Common;
  readonly rows: number;
  readonly others: number;
}

/** What was written of a product. Most products come to what others came to, so that it is made only where it is wanted. */
export interface KeptJudged extends Pick<Judged, "kind"> {
  readonly sku: Sku;
  /** The same object for products that came to the same. */
  readonly common: object;
  /** Whether all its findings are of the product itself. */
  readonly isOwn: boolean;
  whole(): Judged;
}

/** Characters that a reader may remember. */
const ROOM = 16_000_000;

const MOST_WORDS = 20_000;

function rowsIn(findings: Common["findings"]): number {
  let rows = 0;
  for (const finding of findings) withRows(finding, (row) => (rows++, row));
  return rows;
}

const knownOf = (common: Common): Known => ({
  common,
  others: common.own.filter((isOwn) => !isOwn).length,
  rows: rowsIn(common.findings),
});

const nothing = knownOf({ kind: "ready", category: undefined, findings: [], own: [] });

/** Reads what was written of products, one after the other; what it gives holds until it is asked for the next. */
export class JudgedReader implements KeptJudged {
  private readonly memo = new TextMemo<Known>(new MemoRoom(ROOM));
  private readonly words: { readonly text: string; readonly known: Known }[] = [];
  private known = nothing;
  private facts: FactsReader | undefined;
  private texts = 0;
  private numbers = 0;

  get common(): object {
    return this.known.common;
  }

  get kind(): Judged["kind"] {
    return this.known.common.kind;
  }

  get isOwn(): boolean {
    return this.known.others === 0;
  }

  get sku(): Sku {
    return asSku(this.facts?.from(this.texts, 0).text() ?? "");
  }

  all(facts: FactsReader, take: (kept: KeptJudged) => void): void {
    for (let left = facts.number(); left > 0; left--) take(this.next(facts));
  }

  next(facts: FactsReader): KeptJudged {
    const known = this.ofWord(facts);
    [this.known, this.facts] = [known, facts];
    [this.texts, this.numbers] = [facts.textPlace, facts.numberPlace];
    facts.skip(1 + known.others, known.rows);
    return this;
  }

  whole(): Judged {
    const { kind, category, findings, own } = this.known.common;
    const facts = this.facts?.from(this.texts, this.numbers);
    const sku = asSku(facts?.text() ?? "");
    const products = own.map((isOwn) => (isOwn ? sku : asSku(facts?.text() ?? "")));
    return {
      kind,
      sku,
      category,
      findings: findings.map((finding, index) => {
        const product = products[index] ?? "";
        const rows = withRows(finding, () => facts?.number() ?? NO_ROW);
        return { ...finding, ...(product === "" ? {} : { product }), ...rows } as Diagnostic;
      }),
    };
  }

  /** Words come again by their number: the very same text, so that it is not compared sign by sign. */
  private ofWord(facts: FactsReader): Known {
    const number = facts.wordNumber;
    const text = facts.word();
    const before = this.words[number];
    if (before?.text === text) return before.known;
    const known = this.ofText(text);
    if (number < MOST_WORDS) this.words[number] = { text, known };
    return known;
  }

  private ofText(text: string): Known {
    const found = this.memo.get(text);
    if (found !== undefined) return found;
    const known = knownOf(JSON.parse(text) as Common);
    this.memo.set(text, known);
    return known;
  }
}
