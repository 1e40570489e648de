import type { Span } from "./span.js";

/** Why an expression that is right in itself could not be worked out for one product. */
export type TroubleFacts =
  | { readonly trouble: "divided-by-zero" }
  | { readonly trouble: "number-too-large" }
  | { readonly trouble: "kinds-apart"; readonly left: string; readonly right: string }
  | { readonly trouble: "no-rate"; readonly from: string; readonly to: string; readonly day: string }
  | { readonly trouble: "no-table"; readonly table: string; readonly nearest: readonly string[] }
  | {
      readonly trouble: "no-table-column";
      readonly table: string;
      readonly column: string;
      readonly nearest: readonly string[];
    }
  | { readonly trouble: "no-table-row"; readonly table: string; readonly key: string }
  | { readonly trouble: "not-readable"; readonly value: string; readonly wanted: string }
  | { readonly trouble: "wrong-argument"; readonly name: string; readonly reason: string }
  /** A field of a group reads an attribute in which its members differ. */
  | { readonly trouble: "members-differ"; readonly attribute: string; readonly values: readonly string[] }
  | { readonly trouble: "fill-circle"; readonly fields: readonly string[] };

/** A trouble with the stretch of the expression where it arose. */
export type Trouble = TroubleFacts & { readonly span: Span };

/** What a function gives back instead of a value: it could not, and why. */
export class Cannot {
  constructor(readonly facts: TroubleFacts) {}
}

export const cannot = (facts: TroubleFacts): Cannot => new Cannot(facts);

/** Gathers the troubles of one run. `or` takes back what it has got round. */
export type Troubles = Trouble[];

/** A trouble without its place in the expression: what findings tell. */
export const factsOf = (trouble: Trouble): TroubleFacts => {
  const facts: TroubleFacts & { span?: Span } = { ...trouble };
  delete facts.span;
  return facts;
};
