import type { TroubleFacts } from "../diagnostics/trouble-facts.js";
import type { Span } from "./span.js";

/** A trouble with the stretch of the expression where it arose. */
export type Trouble = TroubleFacts & { readonly span: Span };

/** What a function gives back instead of a value: it could not, and why. */
export class Cannot {
  constructor(readonly facts: TroubleFacts) {}
}

/** Why a value could not be worked out. */
export const cannot = (facts: TroubleFacts): Cannot => new Cannot(facts);

/** Gathers the troubles of one run. `or` takes back what it has got round. */
export type Troubles = Trouble[];

/** A trouble without its place in the expression: what findings tell. */
export function factsOf(trouble: Trouble): TroubleFacts {
  const facts: TroubleFacts & { span?: Span } = { ...trouble };
  delete facts.span;
  return facts;
}
