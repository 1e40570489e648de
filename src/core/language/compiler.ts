/**
 * Turns a checked expression into closures over a {@link NameScope}: no name is looked up at run time, constant parts are
 * worked out once. What cannot be worked out is blank, with its reason among the run's troubles.
 */
import { assertNever } from "../assert-never.js";
import { isUnder } from "../values/category-path.js";
import { isCurrency } from "../values/currencies.js";
import { whole } from "../values/decimal.js";
import { convert } from "../values/measure.js";
import { exchanged } from "./exchanged.js";
import { noRates } from "../values/rates.js";
import { shownText } from "../values/show.js";
import { unitOf } from "../values/units.js";
import { isMeasure, isMoney, type MaybeBlank } from "../values/value.js";
import type { ExpressionFunction, Surroundings } from "./function.js";
import { functionNamed } from "./functions/functions.js";
import type { Names } from "./names.js";
import { calculate, order } from "./operations.js";
import { partsOf } from "./parts.js";
import { fieldAsked } from "./slots-read.js";
import type { Span } from "./span.js";
import type { BinaryOperator, Expression, TemplatePart } from "./syntax.js";
import { TEXT_LIMIT, tooLong } from "./text-limit.js";
import { Cannot, cannot, type Troubles } from "./trouble.js";

/** What an expression reads its names from: a product, a listing, a row. */
export interface NameScope {
  value(slot: number): MaybeBlank;
  /** The members of the product's group; undefined where nothing is known of groups. */
  members?(): readonly NameScope[];
}

/** An expression ready to run: a closure without any look-up left to do. What it cannot work out is blank and a trouble. */
export type Compiled = (scope: NameScope, troubles: Troubles) => MaybeBlank;

/** Is told what each part of an expression came to, in the order in which it was worked out. */
export type Observe = (expression: Expression, value: MaybeBlank) => void;

type Of<N extends Expression["node"]> = Extract<Expression, { node: N }>;

const blank: Compiled = () => undefined;
const minusOne = whole(-1);
const nothing: NameScope = { value: () => undefined };

interface Compiling {
  readonly names: Names;
  readonly surroundings: Surroundings;
  readonly observe: Observe | undefined;
}

/** Compiles an expression that was checked without faults. */
export function compile(
  expression: Expression,
  names: Names,
  surroundings: Surroundings,
  observe?: Observe,
): Compiled {
  return compileOne(expression, { names, surroundings, observe });
}

function compileOne(expression: Expression, compiling: Compiling): Compiled {
  const { observe } = compiling;
  const compiled = nodeOf(expression, compiling);
  if (observe !== undefined)
    return (scope, troubles) => {
      const value = compiled(scope, troubles);
      observe(expression, value);
      return value;
    };
  return expression.node !== "literal" && isConstant(expression) ? folded(compiled) : compiled;
}

/** Whether an expression comes to the same for every product: it reads no name and no other field. */
const isConstant = (expression: Expression): boolean =>
  expression.node !== "name" && fieldAsked(expression) === undefined && partsOf(expression).every(isConstant);

/** Worked out once; where that fails it is left to each run, which says so. */
function folded(compiled: Compiled): Compiled {
  const troubles: Troubles = [];
  const value = compiled(nothing, troubles);
  return troubles.length === 0 ? () => value : compiled;
}

function nodeOf(expression: Expression, compiling: Compiling): Compiled {
  const sub = (inner: Expression): Compiled => compileOne(inner, compiling);
  const { names } = compiling;
  switch (expression.node) {
    case "literal": {
      const { value } = expression;
      return () => value;
    }
    case "blank":
      return blank;
    case "name":
      return reading(names.find(expression.name)?.slot);
    case "template":
      return settled(expression.span, template(expression.parts, sub));
    case "call": {
      const asked = names.field === undefined ? undefined : fieldAsked(expression);
      return asked === undefined
        ? call(expression, sub, compiling.surroundings)
        : reading(names.field?.(asked)?.slot);
    }
    case "not": {
      const operand = sub(expression.operand);
      return (scope, troubles) => operand(scope, troubles) !== true;
    }
    case "negate": {
      const operand = sub(expression.operand);
      return settled(expression.span, (scope, troubles) =>
        calculate("*", operand(scope, troubles), minusOne),
      );
    }
    case "given": {
      const [operand, wanted] = [sub(expression.operand), expression.given];
      return (scope, troubles) => (operand(scope, troubles) !== undefined) === wanted;
    }
    case "convert":
      return conversion(expression, sub, compiling.surroundings);
    case "under": {
      const [operand, path] = [sub(expression.operand), expression.path];
      return (scope, troubles) => {
        const value = operand(scope, troubles);
        return value !== undefined && isUnder(shownText(value), path);
      };
    }
    case "if":
      return choice(expression, sub);
    case "binary":
      return binary(expression, sub(expression.left), sub(expression.right));
  }
}

const reading = (slot: number | undefined): Compiled =>
  slot === undefined ? blank : (scope) => scope.value(slot);

/** Turns a `Cannot` into blank and a trouble with its place. */
function settled(span: Span, work: (scope: NameScope, troubles: Troubles) => MaybeBlank | Cannot): Compiled {
  return (scope, troubles) => {
    const value = work(scope, troubles);
    if (!(value instanceof Cannot)) return value;
    troubles.push({ ...value.facts, span });
    return undefined;
  };
}

// A vanished brace leaves the spaces around it behind: two in a row, or one at an end.
const tidied = (text: string): string => (text.includes("  ") ? text.replace(/ {2,}/g, " ") : text).trim();

function template(
  parts: readonly TemplatePart[],
  sub: (inner: Expression) => Compiled,
): (scope: NameScope, troubles: Troubles) => MaybeBlank | Cannot {
  const pieces = parts.map((part): ((scope: NameScope, troubles: Troubles) => string) => {
    if (part.part === "words") return () => part.words;
    const [value, { before, after }] = [sub(part.expression), part];
    return (scope, troubles) => {
      const inside = value(scope, troubles);
      const shown = typeof inside === "string" ? inside : shownText(inside);
      return shown === "" ? "" : before + shown + after;
    };
  });
  return (scope, troubles) => {
    let text = "";
    for (const piece of pieces) text += piece(scope, troubles);
    if (text.length > TEXT_LIMIT) return tooLong("the text with values in it");
    const tidy = tidied(text);
    return tidy === "" ? undefined : tidy;
  };
}

function call(
  { name, args, span }: Of<"call">,
  sub: (inner: Expression) => Compiled,
  surroundings: Surroundings,
): Compiled {
  const called = functionNamed(name);
  if (called === undefined) return blank;
  const applied = application(called, args.map(sub), surroundings);
  return settled(span, (scope, troubles) => {
    const value = applied(scope, troubles);
    return typeof value === "string" && value.length > TEXT_LIMIT ? tooLong(name) : value;
  });
}

function application(
  called: ExpressionFunction,
  args: readonly Compiled[],
  surroundings: Surroundings,
): (scope: NameScope, troubles: Troubles) => MaybeBlank | Cannot {
  const keepsBlanks = called.parameters.length === 0 || called.keepsBlanks === true;
  const [first, second] = args;
  if (called.overMembers === true && first !== undefined)
    return (scope, troubles) => {
      const values = (scope.members?.() ?? [scope]).map((member) => first(member, troubles));
      return called.apply([values.filter((value) => value !== undefined)], surroundings);
    };
  if (!keepsBlanks && first !== undefined && second === undefined)
    return (scope, troubles) => {
      const value = first(scope, troubles);
      return value === undefined ? undefined : called.apply([value], surroundings);
    };
  return (scope, troubles) => {
    const values: MaybeBlank[] = [];
    for (const arg of args) values.push(arg(scope, troubles));
    return keepsBlanks || values[0] !== undefined ? called.apply(values, surroundings) : undefined;
  };
}

function conversion(
  { operand, to, span }: Of<"convert">,
  sub: (inner: Expression) => Compiled,
  { rates = noRates, today }: Surroundings,
): Compiled {
  const compiled = sub(operand);
  if (isCurrency(to))
    return settled(span, (scope, troubles) => {
      const value = compiled(scope, troubles);
      return isMoney(value) ? exchanged(value, to, rates, today) : undefined;
    });
  const unit = unitOf(to);
  if (unit === undefined) return blank;
  return settled(span, (scope, troubles) => {
    const value = compiled(scope, troubles);
    if (!isMeasure(value)) return undefined;
    return (
      convert(value, unit) ??
      cannot({ trouble: "kinds-apart", left: `a measure in ${value.unit.code}`, right: unit.code })
    );
  });
}

function choice({ condition, then, otherwise }: Of<"if">, sub: (inner: Expression) => Compiled): Compiled {
  const [asked, yes, no] = [sub(condition), sub(then), otherwise === undefined ? blank : sub(otherwise)];
  return (scope, troubles) => (asked(scope, troubles) === true ? yes(scope, troubles) : no(scope, troubles));
}

function binary(
  { operator, left: first, right: second, span }: Of<"binary">,
  left: Compiled,
  right: Compiled,
): Compiled {
  switch (operator) {
    case "or":
      return alternative(left, right, second.node === "blank");
    case "and":
      return (scope, troubles) => left(scope, troubles) === true && right(scope, troubles) === true;
    case "=":
    case "!=": {
      const isAlike = operator === "=";
      if (second.node === "blank")
        return (scope, troubles) => (left(scope, troubles) === undefined) === isAlike;
      if (first.node === "blank")
        return (scope, troubles) => (right(scope, troubles) === undefined) === isAlike;
      return (scope, troubles) => {
        const [a, b] = [left(scope, troubles), right(scope, troubles)];
        return a !== undefined && b !== undefined && (order(a, b) === 0) === isAlike;
      };
    }
    case "<":
    case ">":
    case "<=":
    case ">=": {
      const holds = comparisons[operator];
      return (scope, troubles) => {
        const found = order(left(scope, troubles), right(scope, troubles));
        return found !== undefined && holds(found);
      };
    }
    case "+":
    case "-":
    case "*":
    case "/":
      return settled(span, (scope, troubles) =>
        calculate(operator, left(scope, troubles), right(scope, troubles)),
      );
    default:
      return assertNever(operator);
  }
}

const comparisons: Readonly<
  Record<Extract<BinaryOperator, "<" | ">" | "<=" | ">=">, (order: number) => boolean>
> = {
  "<": (found) => found < 0,
  ">": (found) => found > 0,
  "<=": (found) => found <= 0,
  ">=": (found) => found >= 0,
};

/**
 * Of two conditions the second is asked when the first says no; of two values, when the first is blank. What the first
 * could not work out is forgotten when the second gives a value, or says in so many words that blank will do.
 */
function alternative(left: Compiled, right: Compiled, endsBlank: boolean): Compiled {
  return (scope, troubles) => {
    const before = troubles.length;
    const first = left(scope, troubles);
    if (first !== undefined && first !== false) return first;
    const failed = troubles.length;
    const second = right(scope, troubles);
    if (failed > before && (endsBlank || second !== undefined)) troubles.splice(before, failed - before);
    return second ?? first;
  };
}
