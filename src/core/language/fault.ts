import type { TroubleFacts } from "../diagnostics/trouble-facts.js";
import type { Span } from "./span.js";

/** What is wrong with an expression, as data; the caller adds the file and turns it into a diagnostic. */
export type Fault = { readonly span: Span } & (
  | { readonly fault: "syntax"; readonly reason: string }
  | {
      readonly fault: "unknown-name";
      readonly name: string;
      readonly nearest: readonly string[];
      readonly advice: string;
    }
  | {
      readonly fault: "unknown-function";
      readonly name: string;
      readonly nearest: readonly string[];
      readonly advice: string;
    }
  | { readonly fault: "wrong-arguments"; readonly name: string; readonly usage: string }
  | { readonly fault: "kind"; readonly reason: string | TroubleFacts }
  | { readonly fault: "too-deep"; readonly limit: number }
);
