import type { Diagnostic } from "./diagnostic.js";
import { entryOf } from "./entry.js";
import { placeText } from "./place.js";

type Told = Pick<Diagnostic, "code" | "facts">;

/** The one sentence of a finding, without its place. */
export const sentence = (finding: Told): string => entryOf(finding).says(finding.facts);

/** One line for a cause: general where it stands for many products, exact where it stands for one. */
export const heading = (finding: Told, products: number): string =>
  products > 1 ? entryOf(finding).ofMany(finding.facts) : sentence(finding);

const noteWords = { rule: "asked by", fill: "filled by", value: "value from", other: "see" } as const;

export const noteText = ({ note, place }: NonNullable<Diagnostic["notes"]>[number]): string =>
  `${noteWords[note]} ${placeText(place)}`;
