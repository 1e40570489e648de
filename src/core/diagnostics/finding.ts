/**
 * What must be said of every code: its facts, sentence, heading, act and question. One entry a code, in the families of
 * `findings/`.
 */
import { correctRow, type SettlingAct } from "./act.js";
import type { FileNames } from "./file-names.js";

/** What a gap sheet asks of a person for a finding. */
export type Asked =
  /** Nothing: no answer in a sheet would settle it. */
  | { readonly asks: "nothing" }
  /** What the field's fill reads and the product does not have, or else the field itself. */
  | { readonly asks: "missing" }
  /** The channel's value for our term. */
  | { readonly asks: "term"; readonly value: string }
  /** A right value where this one comes from: the attribute that gives it as it is, or else the field. */
  | { readonly asks: "source"; readonly value: string }
  /** Another value of the field, for this channel alone; a `shorter` one is proposed. */
  | { readonly asks: "field" | "shorter"; readonly value: string }
  /** Another value of the field than the one that stands there. */
  | { readonly asks: "standing" }
  /** What a rule between fields wants: those that are blank, or else the first that it looks at. */
  | { readonly asks: "rule"; readonly rule: string };

/** All that is to be said of one code. `Facts` are raw values: what is said of them is said here. */
export interface Finding<Facts> {
  /** One sentence: the fact, the value, limit and actual, then the remedy. */
  readonly says: (facts: Facts, files: FileNames) => string;
  /** The same where it stands for many products, whose own values are not told. */
  readonly ofMany: (facts: Facts, files: FileNames) => string;
  /** What sets causes of one code apart, beside the channel and the field: findings that are alike in it are settled together. */
  readonly apart: (facts: Facts) => string;
  readonly act: SettlingAct<Facts>;
  readonly asks: (facts: Facts) => Asked;
}

/** Written for `ofMany`: what is said of one product holds for them all. */
export const asOne = "as one";

type Told<Facts> = Omit<Finding<Facts>, "ofMany" | "act" | "asks"> & {
  readonly ofMany: Finding<Facts>["ofMany"] | typeof asOne;
};

/** Nothing but the field sets two causes apart. */
export const byField = (): string => "";

/** No answer in a gap sheet would settle it. */
export const nothing = (): Asked => ({ asks: "nothing" });

/** A finding of a product on a channel. */
export const listingFinding = <Facts>({
  ofMany,
  ...entry
}: Told<Facts> & Pick<Finding<Facts>, "act" | "asks">): Finding<Facts> => ({
  ...entry,
  ofMany: ofMany === asOne ? entry.says : ofMany,
});

/** A finding of a row or a product in the catalogue: it is corrected where it comes from, and no channel asks for it. */
export const rowFinding = <Facts>(entry: Told<Facts>): Finding<Facts> =>
  listingFinding({ ...entry, act: correctRow, asks: nothing });

/** A finding that speaks of one thing that a person wrote, or of the machine: it stands for itself. */
export const plainFinding = <Facts>(says: Finding<Facts>["says"]): Finding<Facts> =>
  rowFinding({ says, ofMany: asOne, apart: byField });

/** A fact of a field, by its label. */
export interface FieldFact {
  readonly label: string;
}

/** A fact of a web address in a field. */
export interface LinkFact extends FieldFact {
  readonly url: string;
}

/** A price outside the channel's own bounds; `moved` where it was set to the bound. */
export interface BoundFact {
  readonly attribute: string;
  readonly price: string;
  readonly bound: string;
  readonly moved: boolean;
}
