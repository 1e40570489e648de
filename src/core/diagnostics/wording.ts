import type { Diagnostic } from "./diagnostic.js";
import { entryOf } from "./entry.js";
import type { FileNames } from "./file-names.js";
import { placeText } from "./place.js";

/** A finding as far as its sentence goes. */
export type Wordable = Pick<Diagnostic, "code" | "facts">;

/** The one sentence of a finding, without its place. */
export const sentence = (finding: Wordable, files: FileNames): string =>
  entryOf(finding).says(finding.facts, files);

/** One line for a cause: general where it stands for many products, exact where it stands for one. */
export const heading = (finding: Wordable, products: number, files: FileNames): string =>
  products > 1 ? entryOf(finding).ofMany(finding.facts, files) : sentence(finding, files);

const noteWords = { rule: "asked by", fill: "filled by", value: "value from", other: "see" } as const;

/** A note with its place, in words. */
export const noteText = ({ note, place }: NonNullable<Diagnostic["notes"]>[number]): string =>
  `${noteWords[note]} ${placeText(place)}`;
