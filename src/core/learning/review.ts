/** The guesses as a table for a person, open questions first. */
import type { FormCell, FormSheet } from "../gaps/form.js";
import { kinds } from "../values/value.js";
import { needs } from "../channel/field.js";
import { OPEN, originText, SURE, valuesOf, type Fact } from "./claim.js";
import type { LearnedChannel, LearnedField } from "./learned.js";
import type { Settled } from "./settle.js";

/** How sure a guess is, in words. */
export type Surety = "open" | "likely" | "sure" | "corrected";

/** One guess as a person reviews it. */
export interface ReviewRow {
  readonly state: Surety;
  /** Ours; "" for what holds for the channel as a whole. */
  readonly field: string;
  readonly label: string;
  readonly scope: string;
  readonly fact: string;
  readonly guess: string;
  /** In percent. */
  readonly confidence: number;
  readonly source: string;
  readonly because: string;
  /** What else was read, and where. */
  readonly against: string;
  readonly correction: string;
}

const shownFacts: readonly Fact[] = [
  ...([
    "label",
    "kind",
    "list",
    "need",
    "when",
    "values",
    "open",
    "max_length",
    "min_length",
    "counted",
    "max_items",
  ] as const),
  ...([
    "min",
    "max",
    "decimals",
    "unit",
    "date",
    "joined_by",
    "min_pixels",
    "pattern",
    "default",
    "level",
    "fill",
  ] as const),
];

const surety = (confidence: number, isCorrected: boolean): Surety =>
  isCorrected ? "corrected" : confidence >= SURE ? "sure" : confidence >= OPEN ? "likely" : "open";

const order: readonly Surety[] = ["open", "likely", "corrected", "sure"];

/** A list as a person reads it: how many, and the first of them. */
export function guessText(fact: string, value: string): string {
  if (fact !== "values") return value;
  const values = valuesOf(value);
  return `${values.length}: ${values.slice(0, 4).join(", ")}${values.length > 4 ? ", …" : ""}`;
}

const rowOf = (field: LearnedField, scope: string, settled: Settled): ReviewRow => ({
  state: surety(settled.confidence, settled.isCorrected),
  field: field.code,
  label: field.label,
  scope,
  fact: settled.fact,
  guess: guessText(settled.fact, settled.value),
  confidence: Math.round(settled.confidence * 100),
  source: originText(settled.from),
  because: settled.because,
  against: settled.against
    .slice(0, 2)
    .map((claim) => `${guessText(settled.fact, claim.value)} (${originText(claim.from)})`)
    .join("; "),
  correction: settled.isCorrected ? settled.value.replaceAll("\n", " | ") : "",
});

/** All guesses, open questions first. */
export function reviewRows({ fields, guesses }: LearnedChannel): readonly ReviewRow[] {
  const rows: ReviewRow[] = [...guesses].map(([fact, { value, confidence, because, from }]) => ({
    state: surety(confidence, because === "corrected"),
    field: "",
    label: "the channel",
    scope: "*",
    fact,
    guess: value,
    confidence: Math.round(confidence * 100),
    source: originText(from),
    because,
    against: "",
    correction: because === "corrected" ? value : "",
  }));
  for (const field of fields) {
    for (const fact of shownFacts) {
      const settled = field.facts.get(fact);
      if (settled !== undefined) rows.push(rowOf(field, "*", settled));
    }
    for (const [branch, facts] of field.byBranch)
      for (const settled of facts.values()) rows.push(rowOf(field, branch, settled));
  }
  return rows
    .map((row, at) => ({ row, at }))
    .sort((a, b) => order.indexOf(a.row.state) - order.indexOf(b.row.state) || a.at - b.at)
    .map(({ row }) => row);
}

/** Columns of `guesses.csv`. */
export const reviewColumns = [
  "state",
  "field",
  "label",
  "scope",
  "fact",
  "guess",
  "confidence",
  "source",
  "because",
  "against",
  "correction",
] as const;

/** The title of a workbook by which a review is known. */
export const REVIEW_TITLE = "Lexicant review";
/** The sheet of it with the guesses. */
export const REVIEW_SHEET = "Review";

const cell = (text: string, role: FormCell["role"]): FormCell => ({ text, role });

const titles: Readonly<Record<(typeof reviewColumns)[number], readonly [title: string, width: number]>> = {
  state: ["How sure", 10],
  field: ["Field", 18],
  label: ["Called", 24],
  scope: ["Where", 8],
  fact: ["What", 12],
  guess: ["Our guess", 34],
  confidence: ["%", 5],
  source: ["Read in", 34],
  because: ["Seen by", 24],
  against: ["But also", 28],
  correction: ["Correction", 24],
};

const choicesOf: Partial<Record<string, readonly string[]>> = {
  need: needs,
  kind: kinds,
  list: ["yes", "no"],
  open: ["yes", "no"],
  group_model: ["separate", "group-row", "leading-member", "shared-id", "nested"],
};

/** The review as a workbook: what is asked for stands above, the last column is to be filled in. */
export const reviewSheet = (rows: readonly ReviewRow[]): FormSheet => ({
  name: REVIEW_SHEET,
  columns: reviewColumns.map((column) => ({ width: titles[column][1] })),
  rows: [
    reviewColumns.map((column) => cell(titles[column][0], "title")),
    ...rows.map((row) =>
      reviewColumns.map((column): FormCell => {
        const text = String(row[column]);
        if (column === "correction") return cell(text, "open");
        if (column === "guess") return cell(text, row.state === "open" ? "now" : "fixed");
        return cell(text, "fixed");
      }),
    ),
  ],
  heights: new Map([[0, 22]]),
  hiddenRows: [],
  frozen: { rows: 1, columns: 3 },
  choices: Object.entries(choicesOf).flatMap(([fact, values = []]) => {
    const found = rows.flatMap((row, at) => (row.fact === fact ? [at + 1] : []));
    return found.length === 0
      ? []
      : [
          {
            column: reviewColumns.indexOf("correction"),
            rows: found,
            values: [...values, "-"],
            isClosed: true,
          },
        ];
  }),
});
