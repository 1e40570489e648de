/**
 * Checks a parsed expression: names, kinds, currencies, dimensions, what a function can foresee. Every fault is told
 * with its place; nothing is run.
 */
import type { TroubleFacts } from "../diagnostics/trouble-facts.js";
import { assertNever } from "../assert-never.js";
import { nearest } from "../values/nearest.js";
import { isCurrency } from "../values/currencies.js";
import { isDecimal } from "../values/decimal.js";
import { unitOf } from "../values/units.js";
import { isList, isMeasure, isMoney, type Value } from "../values/value.js";
import type { Fault } from "./fault.js";
import {
  usage,
  type ExpressionFunction,
  type KnownArgument,
  type Parameter,
  type Surroundings,
} from "./function.js";
import { functionNamed, functions } from "./functions/functions.js";
import { areApart, fits, fitsText, kindWords, shapeWords, type ResultKind, type Shape } from "./kind.js";
import type { Names } from "./names.js";
import type { BinaryOperator, Expression, TemplatePart } from "./syntax.js";
import { functionHabit } from "./habits.js";
import { closeUnit, comparingHint, nameAdvice, readingHint, sumHint } from "./hints.js";
import { partsOf } from "./parts.js";
import { fieldAsked } from "./slots-read.js";

/** What an expression yields, and all that is wrong with it. */
export interface CheckedExpression extends Shape {
  readonly faults: readonly Fault[];
}

/** Checks names and kinds of a parsed expression; reports every fault and says what the expression yields. */
export function checkExpression(
  expression: Expression,
  names: Names,
  surroundings: Surroundings,
): CheckedExpression {
  const faults: Fault[] = [];
  const shape = new Checker(names, surroundings, faults).shapeOf(expression);
  return { ...shape, faults };
}

function shapeOfValue(value: Value): Shape {
  if (typeof value === "string") return { kind: "text" };
  if (typeof value === "boolean") return { kind: "yes-no" };
  if (isMoney(value)) return { kind: "money", currency: value.currency };
  if (isMeasure(value)) return { kind: "measure", dimension: value.unit.dimension };
  return { kind: isDecimal(value) ? "number" : isList(value) ? "list" : "any" };
}

const calculable: readonly ResultKind[] = ["number", "money", "measure", "any"];

const anything: Shape = { kind: "any" };
const yesNo: Shape = { kind: "yes-no" };

class Checker {
  constructor(
    private readonly names: Names,
    private readonly surroundings: Surroundings,
    private readonly faults: Fault[],
  ) {}

  shapeOf(expression: Expression): Shape {
    switch (expression.node) {
      case "literal":
        return shapeOfValue(expression.value);
      case "blank":
        return anything;
      case "name":
        return this.name(expression);
      case "template":
        for (const part of expression.parts) this.templatePart(part);
        return { kind: "text" };
      case "call":
        return this.call(expression);
      case "not":
        this.want("yes-no", expression.operand, '"not"');
        return yesNo;
      case "negate":
        return this.negation(expression.operand);
      case "given":
        this.shapeOf(expression.operand);
        return yesNo;
      case "convert":
        return this.conversion(expression);
      case "under":
        this.want("text", expression.operand, '"under"');
        return yesNo;
      case "if": {
        this.want("yes-no", expression.condition, '"if"');
        return this.same(expression.then, expression.otherwise);
      }
      case "binary":
        return this.binary(expression.operator, expression.left, expression.right);
    }
  }

  private name({ name, span }: Extract<Expression, { node: "name" }>): Shape {
    const found = this.names.find(name);
    if (found !== undefined) return found;
    const close = nearest(name, this.names.all);
    this.faults.push({ fault: "unknown-name", name, nearest: close, advice: nameAdvice(name, close), span });
    return anything;
  }

  private templatePart(part: TemplatePart): void {
    if (part.part === "words") return;
    const { kind } = this.shapeOf(part.expression);
    const { span } = part.expression;
    if (kind === "yes-no") this.mismatch('a brace shows a value; for yes or no write if … then "…"', span);
    for (const [word] of part.after.matchAll(/[\p{L}_][\p{L}\p{N}_]*/gu))
      if (this.names.find(word) !== undefined && part.expression.node === "name")
        this.mismatch(
          `"${word}" is ${this.names.what === "field" ? "a" : "an"} ${this.names.what} too: give it a brace of its own`,
          span,
        );
  }

  private negation(operand: Expression): Shape {
    const shape = this.shapeOf(operand);
    if (!calculable.includes(shape.kind))
      this.mismatch(`"-" calculates, and this is ${shapeWords(shape)}`, operand.span);
    return shape;
  }

  private call(expression: Extract<Expression, { node: "call" }>): Shape {
    const { name, args, span } = expression;
    if (name === "field" && this.names.field !== undefined) return this.filledField(expression);
    const called = functionNamed(name);
    const known = args.map((arg): KnownArgument => {
      const shape = this.shapeOf(arg);
      return { ...shape, literal: arg.node === "literal" ? arg.value : undefined };
    });
    if (called?.overMembers === true) args.forEach((arg) => this.ofMembers(name, arg));
    if (called === undefined) {
      const close = nearest(
        name,
        functions.map((entry) => entry.name),
      );
      const advice = functionHabit(name) ?? (close.length === 0 ? 'all of them: "lexicant functions"' : "");
      this.faults.push({ fault: "unknown-function", name, nearest: close, advice, span });
      return anything;
    }
    this.argumentCount(called, args.length, span);
    args.forEach((arg, index) => this.argument(called, known[index] ?? anything, arg, index));
    return this.resultOf(called, known, span);
  }

  /** What is worked out for each member reads the members' attributes, and nothing of the listing that asks. */
  private ofMembers(name: string, expression: Expression): void {
    const slot = expression.node === "name" ? this.names.find(expression.name)?.slot : undefined;
    if ((slot !== undefined && slot < 0) || fieldAsked(expression) !== undefined)
      this.mismatch(`${name} looks at the members' attributes; this is the listing's own`, expression.span);
    else partsOf(expression).forEach((part) => this.ofMembers(name, part));
  }

  private resultOf(
    called: ExpressionFunction,
    known: readonly KnownArgument[],
    span: Expression["span"],
  ): Shape {
    const foreseen = called.foresee?.(known, this.surroundings);
    if (foreseen !== undefined && "trouble" in foreseen) this.mismatch(foreseen, span);
    else if (foreseen !== undefined) return foreseen;
    return called.result === "first" ? (known[0] ?? anything) : { kind: called.result };
  }

  private argumentCount(called: ExpressionFunction, count: number, span: Expression["span"]): void {
    const { parameters, repeats, name } = called;
    const needed = parameters.filter(({ optional }) => optional !== true).length;
    if (count < needed || (repeats !== true && count > parameters.length))
      this.faults.push({ fault: "wrong-arguments", name, usage: usage(called), span });
  }

  private argument(called: ExpressionFunction, actual: Shape, arg: Expression, index: number): void {
    const parameter: Parameter | undefined =
      called.parameters[index] ?? (called.repeats === true ? called.parameters.at(-1) : undefined);
    if (parameter === undefined) return;
    const { kind, name } = parameter;
    // A single value serves as a list of one, and all but a list as text.
    const fine = fits(actual.kind, kind) || kind === "list" || (kind === "text" && fitsText(actual.kind));
    if (parameter.calculates === true && !calculable.includes(actual.kind))
      this.mismatch(
        `${called.name} wants a number, price or measure as its ${name}, this is ${shapeWords(actual)}`,
        arg.span,
      );
    else if (!fine)
      this.mismatch(
        `${called.name} wants ${kindWords(kind)} as its ${name}, this is ${shapeWords(actual)}${readingHint(actual.kind, kind, arg.node === "literal")}`,
        arg.span,
      );
  }

  /** `field("code")`: what another field of the same listing is filled with. */
  private filledField(expression: Extract<Expression, { node: "call" }>): Shape {
    const code = fieldAsked(expression);
    const { span } = expression;
    if (code === undefined) {
      this.faults.push({ fault: "wrong-arguments", name: "field", usage: 'field("code of a field")', span });
      return anything;
    }
    const found = this.names.field?.(code);
    if (found !== undefined) return found;
    const close = nearest(code, this.names.fields ?? []);
    this.mismatch(
      `the channel has no field "${code}"${close.length === 0 ? "" : `; nearest: "${close[0]}"`}`,
      span,
    );
    return anything;
  }

  private conversion({ operand, to, toSpan }: Extract<Expression, { node: "convert" }>): Shape {
    const shape = this.shapeOf(operand);
    if (isCurrency(to)) {
      if (!fits(shape.kind, "money"))
        this.mismatch(
          `only a price converts to ${to}, this is ${shapeWords(shape)}${shape.kind === "number" ? `; money(…, "${to}") makes one` : ""}`,
          operand.span,
        );
      return { kind: "money", currency: to };
    }
    const unit = unitOf(to);
    if (unit === undefined) {
      this.mismatch(`"${to}" is no unit or currency that is known${closeUnit(to)}`, toSpan);
      return anything;
    }
    const wanted: Shape = { kind: "measure", dimension: unit.dimension };
    if (!fits(shape.kind, "measure"))
      this.mismatch(
        `only a measure converts to ${to}, this is ${shapeWords(shape)}${shape.kind === "number" || shape.kind === "text" ? `; measure(…, "${to}") makes one` : ""}`,
        operand.span,
      );
    else if (areApart(shape, wanted))
      this.mismatch(`${to} is the unit of ${shapeWords(wanted)}, this is ${shapeWords(shape)}`, operand.span);
    return wanted;
  }

  private binary(operator: BinaryOperator, left: Expression, right: Expression): Shape {
    switch (operator) {
      case "or":
        return this.same(left, right);
      case "and":
        this.want("yes-no", left, '"and"');
        this.want("yes-no", right, '"and"');
        return yesNo;
      case "=":
      case "!=":
      case "<":
      case "<=":
      case ">":
      case ">=":
        this.comparable(operator, left, right);
        return yesNo;
      case "+":
      case "-":
      case "*":
      case "/":
        return this.arithmetic(operator, left, right);
      default:
        return assertNever(operator);
    }
  }

  /** Both branches of an `or` or an `if` yield one kind, or the result can be anything. */
  private same(left: Expression, right: Expression | undefined): Shape {
    const a = this.shapeOf(left);
    const b = right === undefined ? a : this.shapeOf(right);
    if (a.kind === b.kind)
      return {
        kind: a.kind,
        ...(a.currency === b.currency && a.currency !== undefined ? { currency: a.currency } : {}),
        ...(a.dimension === b.dimension && a.dimension !== undefined ? { dimension: a.dimension } : {}),
      };
    if (b.kind === "any") return a;
    if (a.kind === "any") return b;
    if (a.kind === "yes-no" || b.kind === "yes-no")
      this.mismatch(
        `one side is ${shapeWords(a)}, the other ${shapeWords(b)}; say the whole comparison on each side, or ask with "is given"`,
        left.span,
      );
    return anything;
  }

  private comparable(operator: BinaryOperator, left: Expression, right: Expression): void {
    const [a, b] = [this.shapeOf(left), this.shapeOf(right)];
    const dateAsText = (a.kind === "date" && b.kind === "text") || (a.kind === "text" && b.kind === "date");
    const span = { start: left.span.start, end: right.span.end };
    if (a.kind === "list" || b.kind === "list")
      this.mismatch("a list is not compared: take one value, or count them", left.span);
    else if ((!fits(a.kind, b.kind) && !dateAsText) || areApart(a, b))
      this.mismatch(`${shapeWords(a)} is compared with ${shapeWords(b)}${comparingHint(a, b)}`, span);
    else if (operator !== "=" && operator !== "!=" && a.kind === "yes-no")
      this.mismatch("yes and no have no order", left.span);
  }

  private arithmetic(operator: BinaryOperator, left: Expression, right: Expression): Shape {
    const [a, b] = [this.shapeOf(left), this.shapeOf(right)];
    for (const [shape, side] of [
      [a, left],
      [b, right],
    ] as const)
      if (!calculable.includes(shape.kind)) {
        this.mismatch(
          `"${operator}" calculates, and this is ${shapeWords(shape)}; texts are joined in a template`,
          side.span,
        );
        return anything;
      }
    const sum = operator === "+" || operator === "-";
    const span = { start: left.span.start, end: right.span.end };
    if (operator === "/" && right.node === "literal" && isDecimal(right.value) && right.value.isZero())
      this.mismatch("nothing can be divided by 0", span);
    if (a.kind === "any" || b.kind === "any")
      return a.kind === b.kind || a.kind === "any" ? this.open(a, b, sum) : a;
    if (sum && (a.kind !== b.kind || areApart(a, b)))
      this.mismatch(`"${operator}" of ${shapeWords(a)} and ${shapeWords(b)}${sumHint(a, b)}`, span);
    const quotient = operator === "/" && a.kind === b.kind && !areApart(a, b);
    if (!sum && !quotient && b.kind !== "number" && (a.kind !== "number" || operator === "/"))
      this.mismatch(`"${operator}" of ${shapeWords(a)} and ${shapeWords(b)}`, span);
    if (quotient) return { kind: "number" };
    return a.kind === "number" ? b : a;
  }

  /** One side is known only when a product is: a sum has the kind of the other side, a product can be either. */
  private open(a: Shape, b: Shape, sum: boolean): Shape {
    if (sum) return a.kind === "any" ? b : a;
    return anything;
  }

  private want(kind: ResultKind, operand: Expression, asker: string): void {
    const actual = this.shapeOf(operand);
    const fine = fits(actual.kind, kind) || (kind === "text" && fitsText(actual.kind));
    const remedy = kind === "yes-no" ? '; ask with "is given" or a comparison' : "";
    if (!fine)
      this.mismatch(
        `${asker} wants ${kindWords(kind)}, this is ${shapeWords(actual)}${remedy}`,
        operand.span,
      );
  }

  private mismatch(reason: string | TroubleFacts, span: Expression["span"]): void {
    this.faults.push({ fault: "kind", reason, span });
  }
}
