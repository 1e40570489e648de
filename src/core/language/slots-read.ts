import { functionNamed } from "./functions/functions.js";
import { partsOf } from "./parts.js";
import type { Names } from "./names.js";
import type { Expression } from "./syntax.js";

/** The slots of all names that an expression reads, in the order of its text, each once; those of attributes are not below 0. */
export function slotsRead(expression: Expression, names: Names): readonly number[] {
  const found = new Set<number>();
  const visit = (one: Expression): void => {
    const own = nameAlone(one, names);
    if (own !== undefined) found.add(own);
    partsOf(one).forEach(visit);
  };
  visit(expression);
  return [...found];
}

/** The slot of an expression that is a name and nothing else. */
export const nameAlone = (expression: Expression, names: Names): number | undefined =>
  expression.node === "name" ? names.find(expression.name)?.slot : undefined;

/** The channel's fields that an expression reads by `field("code")`. */
export function fieldsRead(expression: Expression): readonly string[] {
  const own = fieldAsked(expression);
  return [...(own === undefined ? [] : [own]), ...partsOf(expression).flatMap(fieldsRead)];
}

/** Whether any part of an expression is worked out over the members of the product's group. */
export const isOverMembers = (expression: Expression): boolean =>
  (expression.node === "call" && functionNamed(expression.name)?.overMembers === true) ||
  partsOf(expression).some(isOverMembers);

/** The code in `field("code")`; undefined for any other expression. */
export function fieldAsked(expression: Expression): string | undefined {
  if (expression.node !== "call" || expression.name !== "field") return undefined;
  const [code, ...others] = expression.args;
  return code?.node === "literal" && typeof code.value === "string" && others.length === 0
    ? code.value
    : undefined;
}
