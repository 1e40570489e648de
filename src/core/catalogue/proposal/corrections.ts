/** A person's words on a proposal, line by line: another attribute, none, a unit. */
import { ownOf } from "../../own.js";
import { attributeKind, withoutMark } from "../vocabulary.js";
import type { ProposedAttribute, SourceProposal } from "./source-proposal.js";

/** One word of a person on a proposal; lines are counted from 1, as they are shown. */
export type ProposalCorrection =
  | { readonly correct: "attribute"; readonly line: number; readonly attribute: string }
  | { readonly correct: "skip"; readonly line: number }
  | { readonly correct: "unit"; readonly line: number; readonly unit: string }
  | { readonly correct: "language"; readonly line: number; readonly language: string }
  | { readonly correct: "key"; readonly line: number };

/** A line that is renamed takes the place of another of that name, which is kept under a name of its own. */
const renamed = (
  attributes: readonly ProposedAttribute[],
  line: ProposedAttribute,
  attribute: string,
): readonly ProposedAttribute[] =>
  attributes.map((one) => {
    if (one === line) return { ...one, attribute, confidence: 1, known: true };
    return one.attribute === attribute
      ? { ...one, attribute: freeName(attributes, attribute), known: false, confidence: 0 }
      : one;
  });

function freeName(attributes: readonly ProposedAttribute[], wanted: string): string {
  const [name = "", mark] = wanted.split("@");
  for (let number = 2; ; number++) {
    const free = `${name}_${number}${mark === undefined ? "" : `@${mark}`}`;
    if (attributes.every(({ attribute }) => attribute !== free)) return free;
  }
}

const withoutUnit = (units: SourceProposal["units"], attribute: string): SourceProposal["units"] =>
  Object.fromEntries(Object.entries(units).filter(([name]) => name !== attribute));

/** A proposal with one correction; undefined where there is no such line, or the correction is none for it. */
export function corrected(
  proposal: SourceProposal,
  correction: ProposalCorrection,
): SourceProposal | undefined {
  const { attributes, units, keys } = proposal;
  const line = attributes[correction.line - 1];
  if (line === undefined) return undefined;
  const kept = (attribute: string): readonly string[] =>
    keys.map((key) => (key === line.attribute ? attribute : key));
  switch (correction.correct) {
    case "attribute": {
      const { attribute } = correction;
      const unit = ownOf(units, line.attribute);
      const isMeasure = attributeKind(attribute).kind === "measure";
      const others = withoutUnit(units, line.attribute);
      return {
        ...proposal,
        attributes: renamed(attributes, line, attribute),
        units: isMeasure && unit !== undefined ? { ...others, [attribute]: unit } : others,
        keys: keys.length === 0 && attribute === "sku" ? ["sku"] : kept(attribute),
        mode: keys.length === 0 && attribute === "sku" ? "both" : proposal.mode,
      };
    }
    case "skip":
      return {
        ...proposal,
        attributes: attributes.filter((one) => one !== line),
        units: withoutUnit(units, line.attribute),
        keys: keys.filter((key) => key !== line.attribute),
      };
    case "unit":
      return attributeKind(line.attribute).kind === "measure"
        ? { ...proposal, units: { ...units, [line.attribute]: correction.unit } }
        : undefined;
    case "language": {
      const { kind } = attributeKind(line.attribute);
      if ((kind !== "text" && kind !== "html") || keys.includes(line.attribute)) return undefined;
      const attribute = `${withoutMark(line.attribute)}@${correction.language}`;
      return { ...proposal, attributes: renamed(attributes, line, attribute) };
    }
    case "key":
      return {
        ...proposal,
        keys: [line.attribute],
        mode: line.attribute === "sku" ? proposal.mode : "update",
      };
  }
}
