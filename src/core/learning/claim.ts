/**
 * A claim: one fact of one field, where it stands in the papers, and how far it is believed. All evidence is claims;
 * `settle.ts` weighs them.
 */
import { columnLetter } from "../diagnostics/place.js";
import type { SheetPaper } from "./paper.js";

/** What holds of a field everywhere; columns of `fields.csv`. */
export const fieldFacts = [
  ...(["label", "kind", "list", "unit", "decimals", "level", "default", "example", "fill", "help"] as const),
] as const;

/** What each scope may say anew. */
export const ruleFacts = [
  ...(["need", "when", "min", "max", "min_length", "max_length", "counted", "max_items"] as const),
  ...(["min_pixels", "pattern", "values", "open"] as const),
] as const;

/** What can be learned of a field: the above, and how its values stand in the channel's files. */
export const facts = [...fieldFacts, ...ruleFacts, "date", "joined_by"] as const;

export type Fact = (typeof facts)[number];

/** Where something was read: a file, in a workbook its sheet, and a cell or line. */
export interface PaperPlace {
  readonly file: string;
  readonly sheet: string;
  /** `B4` in a sheet, `line 12` in a text; "" for the whole. */
  readonly at: string;
}

/** One piece of evidence for a fact. */
export interface Claim {
  readonly fact: Fact;
  /** As `fields.csv` writes it; a list's values stand one a line. */
  readonly value: string;
  /** 0 to 1. */
  readonly confidence: number;
  readonly from: PaperPlace;
  /** How it was seen, in a few words. */
  readonly because: string;
}

/** A guess from here on is told as sure. */
export const SURE = 0.88;
/** Below this it is a question. */
export const OPEN = 0.6;

/** The place of a cell, as spreadsheets write it. */
export const cellOrigin = (sheet: SheetPaper, row: number, column: number): PaperPlace => ({
  file: sheet.file,
  sheet: sheet.sheet,
  at: `${columnLetter(column)}${row + 1}`,
});

/** A place in words. */
export const originText = ({ file, sheet, at }: PaperPlace): string =>
  [file, sheet, at].filter(Boolean).join(", ");

/** The values of a claim's text. */
export const valuesOf = (text: string): readonly string[] => (text === "" ? [] : text.split("\n"));

/** Values as one text, each once. */
export const valuesText = (values: readonly string[]): string =>
  [...new Set(values.map((value) => value.replace(/\s+/g, " ").trim()).filter(Boolean))].join("\n");
