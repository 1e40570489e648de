/** A cell's text as a value of a kind, or what is wrong with it. */
import { kindFacts } from "./kinds.js";
import type { Reading, ReadingDefaults } from "./readers.js";
import type { Kind } from "./value.js";

export type { Reading, ReadingDefaults, ReadingProblem } from "./readers.js";

// No number, price, measure or date is longer; and what reads them never has long texts to go through.
const MOST_CHARACTERS = 200;

/** Reads cleaned, non-empty cell text as a value of a kind, or says what is wrong with it. */
export function readValue(kind: Kind, text: string, defaults: ReadingDefaults = {}): Reading {
  const { tooLong, read } = kindFacts[kind];
  return tooLong !== undefined && text.length > MOST_CHARACTERS ? { problem: tooLong } : read(text, defaults);
}
