/** Gathers questions into sheets, one column a question, one row a product; one answer may serve several channels. */
import { pathParts } from "../values/category-path.js";
import type { Family } from "../catalogue/family.js";
import { textOf, valueOf } from "../catalogue/product.js";
import type { CategoryField } from "../channel/category-rules.js";
import { actsOf } from "../diagnostics/act-collector.js";
import type { Diagnostic } from "../diagnostics/diagnostic.js";
import type { Sku } from "../ids.js";
import type { ChannelSetup } from "../listing/channel-setup.js";
import { isHeld, productOf, type Outcome } from "../listing/listing.js";
import { shownText } from "../values/show.js";
import { isList } from "../values/value.js";
import { asksOf, helpOf, type Ask } from "./ask.js";
import { targetKey, type WaitingField, type AnswerProposal, type Target } from "./question.js";

/** A cell that a person is asked to fill. */
export interface OpenCell {
  readonly rules: readonly (WaitingField & { readonly rule: CategoryField })[];
  readonly now: string | undefined;
  readonly proposal: AnswerProposal | undefined;
  /** The product whose row asks for the same term already: here there is nothing to do. */
  readonly sameAs: Sku | undefined;
}

/** A column: one thing asked of some of the sheet's products. */
export interface Question {
  readonly target: Target;
  readonly label: string;
  readonly askers: readonly WaitingField[];
  /** The rule of the first product that is asked, for the header's note. */
  readonly rule: CategoryField;
  readonly open: number;
  /** Listings that only this keeps from their channel. */
  readonly alone: number;
}

/** A product that is asked about. */
export interface GapRow {
  readonly sku: Sku;
  readonly name: string;
  readonly help: string;
  readonly category: string;
  readonly image: string;
  /** By the question's key. */
  readonly cells: ReadonlyMap<string, OpenCell>;
}

/** One sheet: a branch of one channel, or of what several channels ask for together. */
export interface GapSheet {
  /** The channel's label; "" where the questions are for the catalogue and several channels. */
  readonly channel: string;
  readonly branch: string;
  readonly questions: readonly Question[];
  readonly rows: readonly GapRow[];
}

/** All that is to be asked. */
export interface Gaps {
  readonly sheets: readonly GapSheet[];
  /** Listings that are held. */
  readonly held: number;
  /** Held listings that the sheets' answers can make ready. */
  readonly answerable: number;
  /** Held listings whose category has no place: they are placed first. */
  readonly unplaced: number;
  /** What no answer in a sheet settles, by code, with the listings. */
  readonly others: ReadonlyMap<Diagnostic["code"], number>;
}

/** Takes listings with their findings, and gives sheets. */
export interface GapCollector {
  take(setup: ChannelSetup, family: Family, outcome: Outcome): void;
  gaps(): Gaps;
}

/** How questions are gathered. */
export interface GapWishes {
  /** Whether several channels ask together for what the catalogue lacks. */
  readonly merged: boolean;
  /** What is only recommended is asked for, too. */
  readonly recommended: boolean;
  /** Everything in one sheet, for a file that has no more. */
  readonly single: boolean;
}

type GrowingCell = {
  rules: OpenCell["rules"];
  now: string | undefined;
  proposal: AnswerProposal | undefined;
  sameAs: Sku | undefined;
};
type GrowingRow = Omit<GapRow, "cells"> & { readonly cells: Map<string, GrowingCell> };
type GrowingQuestion = { -readonly [K in keyof Question]: Question[K] };

interface GrowingSheet {
  readonly channel: string;
  readonly branch: string;
  readonly questions: Map<string, GrowingQuestion>;
  readonly rows: Map<string, GrowingRow>;
}

/** Sheets with fewer rows than this go together: a person turns no page for one line. */
const FEW_ROWS = 8;

/** Begins to gather. */
export function gapCollector({ merged, recommended, single }: GapWishes): GapCollector {
  const sheets = new Map<string, GrowingSheet>();
  const terms = new Map<string, Sku>();
  const others = new Map<Diagnostic["code"], number>();
  const counts = { held: 0, answerable: 0, unplaced: 0 };
  const sheetFor = (setup: ChannelSetup, outcome: Outcome, ask: Ask): GrowingSheet => {
    const isShared = merged && ask.target.kind === "attribute";
    const path =
      isShared || (outcome.kind !== "held" && outcome.kind !== "ready")
        ? (textOf(productOf(outcome), "category") ?? "")
        : outcome.listing.plan.rules.category.path;
    const channel = isShared || single ? "" : setup.definition.label;
    const branch = single ? "" : (pathParts(path)[0] ?? "");
    const key = `${channel}\u0000${branch}`;
    const known = sheets.get(key) ?? { channel, branch, questions: new Map(), rows: new Map() };
    sheets.set(key, known);
    return known;
  };
  const note = (setup: ChannelSetup, outcome: Outcome, wanted: Ask, isAlone: boolean): void => {
    const sheet = sheetFor(setup, outcome, wanted);
    const { sku } = productOf(outcome);
    const row = sheet.rows.get(sku) ?? rowOf(outcome);
    sheet.rows.set(sku, row);
    const ask = askedAlready(wanted, row);
    const key = targetKey(ask.target);
    const question = sheet.questions.get(key) ?? questionOf(ask);
    sheet.questions.set(key, question);
    const asker = { channel: ask.channel, field: ask.rule.field.code };
    if (!question.askers.some(({ channel, field }) => channel === asker.channel && field === asker.field))
      question.askers = [...question.askers, asker];
    const asked = { ...asker, rule: ask.rule };
    const cell = row.cells.get(key);
    if (isAlone) question.alone++;
    if (cell !== undefined) {
      cell.rules = [...cell.rules, asked];
      cell.proposal ??= ask.proposal;
      return;
    }
    const first = ask.target.kind === "term" ? terms.get(`${key}\u0000${ask.now ?? ""}`) : undefined;
    if (ask.target.kind === "term" && first === undefined) terms.set(`${key}\u0000${ask.now ?? ""}`, sku);
    if (first === undefined || first === sku) question.open++;
    row.cells.set(key, {
      rules: [asked],
      now: ask.now,
      proposal: ask.proposal,
      sameAs: first === sku ? undefined : first,
    });
  };
  return {
    take(setup, family, outcome) {
      if (isHeld(outcome)) counts.held++;
      if (outcome.kind === "unplaced") counts.unplaced++;
      if (outcome.kind !== "held" && !(recommended && outcome.kind === "ready")) return;
      const found = asksOf(outcome.listing, outcome.findings, family, setup, recommended);
      for (const code of new Set(found.others.map((finding) => finding.code)))
        others.set(code, (others.get(code) ?? 0) + 1);
      if (outcome.kind === "held" && found.others.length === 0) counts.answerable++;
      const isAlone = outcome.kind === "held" && actsOf(outcome.findings).size === 1;
      for (const ask of chosen(found.asks)) note(setup, outcome, ask, isAlone);
    },
    gaps: () => ({ sheets: finished([...sheets.values()]), ...counts, others }),
  };
}

/** Of several attributes that would do, the one that another channel asks for already. */
function askedAlready(ask: Ask, { cells }: GrowingRow): Ask {
  const known = ask.choices.find((attribute) => cells.has(targetKey({ kind: "attribute", attribute })));
  return known === undefined ? ask : { ...ask, target: { kind: "attribute", attribute: known } };
}

/** Where several fields would take one of several attributes, the one that serves most of them is asked for. */
function chosen(asks: readonly Ask[]): readonly Ask[] {
  const wanted = new Map<string, number>();
  for (const { choices } of asks)
    for (const choice of choices) wanted.set(choice, (wanted.get(choice) ?? 0) + 1);
  return asks.map((ask): Ask => {
    const [first] = ask.choices;
    if (first === undefined || ask.choices.length === 1) return ask;
    const best = ask.choices.reduce((a, b) => ((wanted.get(b) ?? 0) > (wanted.get(a) ?? 0) ? b : a));
    return best === first ? ask : { ...ask, target: { kind: "attribute", attribute: best } };
  });
}

function imageOf(outcome: Outcome): string {
  const images = valueOf(productOf(outcome), "images");
  const [first] = isList(images) ? images : [images];
  return first === undefined ? "" : shownText(first);
}

function rowOf(outcome: Outcome): GrowingRow {
  const product = productOf(outcome);
  return {
    sku: product.sku,
    name: textOf(product, "name") ?? "",
    help: helpOf({ product }),
    category: textOf(product, "category") ?? "",
    image: imageOf(outcome),
    cells: new Map(),
  };
}

const initials = new Set(["gtin", "mpn", "isbn", "url", "sku"]);

/** An attribute as people write it: `package_weight` is "Package weight". */
function labelOf(attribute: string): string {
  if (initials.has(attribute)) return attribute.toUpperCase();
  const words = attribute.replaceAll("_", " ").replace("@", ", ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}

const questionOf = ({ target, rule }: Ask): GrowingQuestion => ({
  target,
  label: target.kind === "attribute" ? labelOf(target.attribute) : rule.field.label,
  askers: [],
  rule,
  open: 0,
  alone: 0,
});

/** Small branches of one channel become one sheet; in each, the question that pays most comes first. */
function finished(sheets: readonly GrowingSheet[]): readonly GapSheet[] {
  const small = (sheet: GrowingSheet): boolean => sheet.rows.size < FEW_ROWS;
  const byChannel = new Map<string, GrowingSheet[]>();
  for (const sheet of sheets) byChannel.set(sheet.channel, [...(byChannel.get(sheet.channel) ?? []), sheet]);
  // What is for the catalogue serves all channels: it comes first.
  const ordered = [...byChannel].sort(([a], [b]) => Number(a !== "") - Number(b !== ""));
  return ordered.flatMap(([, own]) => {
    const few = own.filter(small);
    const large = own.filter((sheet) => !small(sheet));
    const together = few.length < 2 ? few : [few.reduce(joined)];
    return [...large, ...together].map(done);
  });
}

function joined(a: GrowingSheet, b: GrowingSheet): GrowingSheet {
  const questions = new Map(a.questions);
  for (const [key, question] of b.questions) {
    const known = questions.get(key);
    questions.set(
      key,
      known === undefined
        ? question
        : {
            ...known,
            askers: [
              ...known.askers,
              ...question.askers.filter(
                (one) =>
                  !known.askers.some((other) => other.channel === one.channel && other.field === one.field),
              ),
            ],
            open: known.open + question.open,
            alone: known.alone + question.alone,
          },
    );
  }
  return { channel: a.channel, branch: "others", questions, rows: new Map([...a.rows, ...b.rows]) };
}

const done = ({ channel, branch, questions, rows }: GrowingSheet): GapSheet => ({
  channel,
  branch,
  questions: [...questions.values()].sort((a, b) => b.alone - a.alone || b.open - a.open),
  rows: [...rows.values()],
});
