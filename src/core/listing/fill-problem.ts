import type { CategoryField } from "../channel/category-rules.js";
import type { TroubleFacts } from "../diagnostics/trouble-facts.js";
import type { ReadingProblem } from "../values/read.js";

/** A value that the fill gave and the field cannot take as it is, or why the fill could not be worked out. */
export type FillProblem =
  | {
      readonly field: CategoryField;
      readonly written: string;
      readonly problem: ReadingProblem | "unknown-value";
    }
  | { readonly field: CategoryField; readonly trouble: TroubleFacts };
