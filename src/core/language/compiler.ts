import { isUnder } from "../catalogue/category-path.js";
import { whole } from "../values/decimal.js";
import { convert } from "../values/measure.js";
import { shownText } from "../values/show.js";
import { unitOf } from "../values/units.js";
import { isMeasure, type MaybeBlank } from "../values/value.js";
import type { Surroundings } from "./function.js";
import { functionNamed } from "./functions.js";
import type { Names } from "./names.js";
import { calculate, order } from "./operations.js";
import type { BinaryOperator, Expression, TemplatePart } from "./syntax.js";

/** What an expression reads its names from: a product, a listing, a row. */
export interface Scope {
  value(slot: number): MaybeBlank;
}

/** An expression ready to run: a closure without any look-up left to do. */
export type Compiled = (scope: Scope) => MaybeBlank;

type Of<N extends Expression["node"]> = Extract<Expression, { node: N }>;

const blank: Compiled = () => undefined;
const minusOne = whole(-1);

/** Compiles an expression that was checked without faults. */
export const compile = (expression: Expression, names: Names, surroundings: Surroundings): Compiled => {
  const sub = (inner: Expression): Compiled => compile(inner, names, surroundings);
  switch (expression.node) {
    case "literal": {
      const { value } = expression;
      return () => value;
    }
    case "blank":
      return blank;
    case "name": {
      const slot = names.find(expression.name)?.slot;
      return slot === undefined ? blank : (scope) => scope.value(slot);
    }
    case "template":
      return template(expression.parts, sub);
    case "call":
      return call(expression, sub, surroundings);
    case "not": {
      const operand = sub(expression.operand);
      return (scope) => operand(scope) !== true;
    }
    case "negate": {
      const operand = sub(expression.operand);
      return (scope) => calculate("*", operand(scope), minusOne);
    }
    case "given": {
      const [operand, wanted] = [sub(expression.operand), expression.given];
      return (scope) => (operand(scope) !== undefined) === wanted;
    }
    case "convert":
      return conversion(expression, sub);
    case "under": {
      const [operand, path] = [sub(expression.operand), expression.path];
      return (scope) => {
        const value = operand(scope);
        return value !== undefined && isUnder(shownText(value), path);
      };
    }
    case "if":
      return choice(expression, sub);
    case "binary":
      return binary(expression.operator, sub(expression.left), sub(expression.right));
  }
};

const template = (parts: readonly TemplatePart[], sub: (inner: Expression) => Compiled): Compiled => {
  const pieces = parts.map((part): ((scope: Scope) => string) => {
    if (part.part === "words") return () => part.words;
    const [value, { before, after }] = [sub(part.expression), part];
    return (scope) => {
      const shown = shownText(value(scope));
      return shown === "" ? "" : before + shown + after;
    };
  });
  return (scope) => {
    let text = "";
    for (const piece of pieces) text += piece(scope);
    // A vanished brace leaves the spaces around it behind: two in a row, or one at an end.
    const tidy = text.replace(/ {2,}/g, " ").trim();
    return tidy === "" ? undefined : tidy;
  };
};

const call = (
  { name, args }: Of<"call">,
  sub: (inner: Expression) => Compiled,
  surroundings: Surroundings,
): Compiled => {
  const called = functionNamed(name);
  if (called === undefined) return blank;
  const compiled = args.map(sub);
  const keepsBlanks = called.parameters.length === 0 || called.keepsBlanks === true;
  return (scope) => {
    const values = compiled.map((arg) => arg(scope));
    return keepsBlanks || values[0] !== undefined ? called.apply(values, surroundings) : undefined;
  };
};

const conversion = ({ operand, to }: Of<"convert">, sub: (inner: Expression) => Compiled): Compiled => {
  const [compiled, unit] = [sub(operand), unitOf(to)];
  if (unit === undefined) return blank;
  return (scope) => {
    const value = compiled(scope);
    return isMeasure(value) ? convert(value, unit) : undefined;
  };
};

const choice = ({ condition, then, otherwise }: Of<"if">, sub: (inner: Expression) => Compiled): Compiled => {
  const [asked, yes, no] = [sub(condition), sub(then), otherwise === undefined ? blank : sub(otherwise)];
  return (scope) => (asked(scope) === true ? yes(scope) : no(scope));
};

const binary = (operator: BinaryOperator, left: Compiled, right: Compiled): Compiled => {
  switch (operator) {
    case "or":
      return (scope) => {
        const first = left(scope);
        // Of two conditions the second is asked when the first says no; of two values, when the first is blank.
        return first === undefined || first === false ? (right(scope) ?? first) : first;
      };
    case "and":
      return (scope) => left(scope) === true && right(scope) === true;
    case "=":
      return (scope) => same(left(scope), right(scope));
    case "!=":
      return (scope) => !same(left(scope), right(scope));
    case "<":
      return (scope) => (order(left(scope), right(scope)) ?? 0) < 0;
    case ">":
      return (scope) => (order(left(scope), right(scope)) ?? 0) > 0;
    case "<=":
      return (scope) => (order(left(scope), right(scope)) ?? 1) <= 0;
    case ">=":
      return (scope) => (order(left(scope), right(scope)) ?? -1) >= 0;
    default:
      return (scope) => calculate(operator, left(scope), right(scope));
  }
};

const same = (a: MaybeBlank, b: MaybeBlank): boolean =>
  a === undefined || b === undefined ? a === b : order(a, b) === 0;
