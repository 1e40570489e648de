import type { Span } from "./span.js";
import type { Value } from "../values/value.js";

/** Signs between two expressions, loosest first. */
export type BinaryOperator = "or" | "and" | "=" | "!=" | "<" | "<=" | ">" | ">=" | "+" | "-" | "*" | "/";

/** A piece of a text template: fixed words, or a brace that vanishes with its outer words when its expression is blank. */
export type TemplatePart =
  | { readonly part: "words"; readonly words: string }
  | {
      readonly part: "brace";
      readonly before: string;
      readonly expression: Expression;
      readonly after: string;
    };

/** The syntax tree of an expression: small tagged values, each with its stretch of the source. */
export type Expression = { readonly span: Span } & (
  | { readonly node: "literal"; readonly value: Value }
  | { readonly node: "blank" }
  | { readonly node: "name"; readonly name: string }
  | { readonly node: "template"; readonly parts: readonly TemplatePart[] }
  | { readonly node: "call"; readonly name: string; readonly args: readonly Expression[] }
  | { readonly node: "not" | "negate"; readonly operand: Expression }
  | { readonly node: "given"; readonly operand: Expression; readonly given: boolean }
  | { readonly node: "convert"; readonly operand: Expression; readonly to: string; readonly toSpan: Span }
  | { readonly node: "under"; readonly operand: Expression; readonly path: string }
  | {
      readonly node: "binary";
      readonly operator: BinaryOperator;
      readonly left: Expression;
      readonly right: Expression;
    }
  | {
      readonly node: "if";
      readonly condition: Expression;
      readonly then: Expression;
      readonly otherwise: Expression | undefined;
    }
);
