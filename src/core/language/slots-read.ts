import type { Names } from "./names.js";
import type { Expression } from "./syntax.js";

const parts = (expression: Expression): readonly Expression[] => {
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
    default:
      return [expression.operand];
  }
};

/** The slots an expression reads, in the order of its text, each once. */
export const slotsRead = (expression: Expression, names: Names): readonly number[] => {
  const own = expression.node === "name" ? names.find(expression.name)?.slot : undefined;
  const inner = parts(expression).flatMap((part) => slotsRead(part, names));
  return [...new Set(own === undefined ? inner : [own, ...inner])];
};
