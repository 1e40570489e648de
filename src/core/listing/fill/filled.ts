import type { MaybeBlank } from "../../values/value.js";
import type { FillProblem } from "../fill-problem.js";

/** What a fill came to in its field: a value, or why there is none, or both. */
export interface Filled {
  readonly value: MaybeBlank;
  readonly problems: readonly FillProblem[];
}
