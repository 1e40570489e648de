import { assertNever } from "../assert-never.js";
import type { Expression } from "./syntax.js";

/** The expressions that an expression consists of, in the order of its text. */
export function partsOf(expression: Expression): readonly Expression[] {
  switch (expression.node) {
    case "literal":
    case "blank":
    case "name":
      return [];
    case "template":
      return expression.parts.flatMap((part) => (part.part === "brace" ? [part.expression] : []));
    case "call":
      return expression.args;
    case "binary":
      return [expression.left, expression.right];
    case "if":
      return [
        expression.condition,
        expression.then,
        ...(expression.otherwise === undefined ? [] : [expression.otherwise]),
      ];
    case "negate":
    case "not":
    case "given":
    case "convert":
    case "under":
      return [expression.operand];
    default:
      return assertNever(expression);
  }
}
