import { nearest } from "../diagnostics/nearest.js";
import { isCurrency } from "../values/currencies.js";
import { isDecimal } from "../values/decimal.js";
import { unitCodes, unitOf } from "../values/units.js";
import { isList, type Value } from "../values/value.js";
import type { Fault } from "./fault.js";
import { usage } from "./function.js";
import { functionNamed, functions } from "./functions.js";
import { fits, fitsText, kindWords, type ResultKind } from "./kind.js";
import type { Names } from "./names.js";
import type { BinaryOperator, Expression, TemplatePart } from "./syntax.js";

export interface Checked {
  readonly kind: ResultKind;
  readonly faults: readonly Fault[];
}

/** Checks names and kinds of a parsed expression; reports every fault and says what the expression yields. */
export const checkExpression = (expression: Expression, names: Names): Checked => {
  const faults: Fault[] = [];
  const kind = new Checker(names, faults).kindOf(expression);
  return { kind, faults };
};

const literalKind = (value: Value): ResultKind => {
  if (typeof value === "string") return "text";
  if (typeof value === "boolean") return "yes-no";
  return isDecimal(value) ? "number" : isList(value) ? "list" : "any";
};

class Checker {
  constructor(
    private readonly names: Names,
    private readonly faults: Fault[],
  ) {}

  kindOf(expression: Expression): ResultKind {
    switch (expression.node) {
      case "literal":
        return literalKind(expression.value);
      case "blank":
        return "any";
      case "name":
        return this.name(expression);
      case "template":
        for (const part of expression.parts) this.templatePart(part);
        return "text";
      case "call":
        return this.call(expression);
      case "not":
        this.want("yes-no", expression.operand, '"not"');
        return "yes-no";
      case "negate":
        return this.kindOf(expression.operand);
      case "given":
        this.kindOf(expression.operand);
        return "yes-no";
      case "convert":
        return this.conversion(expression);
      case "under":
        this.want("text", expression.operand, '"under"');
        return "yes-no";
      case "if": {
        this.want("yes-no", expression.condition, '"if"');
        return this.same(expression.then, expression.otherwise);
      }
      case "binary":
        return this.binary(expression.operator, expression.left, expression.right);
    }
  }

  private name({ name, span }: Extract<Expression, { node: "name" }>): ResultKind {
    const found = this.names.find(name);
    if (found !== undefined) return found.kind;
    this.faults.push({ fault: "unknown-name", name, nearest: nearest(name, this.names.all), span });
    return "any";
  }

  private templatePart(part: TemplatePart): void {
    if (part.part === "words") return;
    const kind = this.kindOf(part.expression);
    const { span } = part.expression;
    if (kind === "yes-no") this.mismatch('a brace shows a value; for yes or no write if … then "…"', span);
    for (const [word] of part.after.matchAll(/[\p{L}_][\p{L}\p{N}_]*/gu))
      if (this.names.find(word) !== undefined && part.expression.node === "name")
        this.mismatch(
          `"${word}" is ${this.names.what === "field" ? "a" : "an"} ${this.names.what} too: give it a brace of its own`,
          span,
        );
  }

  private call({ name, args, span }: Extract<Expression, { node: "call" }>): ResultKind {
    const called = functionNamed(name);
    const kinds = args.map((arg) => this.kindOf(arg));
    if (called === undefined) {
      const close = nearest(
        name,
        functions.map((entry) => entry.name),
      );
      this.faults.push({ fault: "unknown-function", name, nearest: close, span });
      return "any";
    }
    const needed = called.parameters.filter(({ optional }) => optional !== true).length;
    if (args.length < needed || args.length > called.parameters.length)
      this.faults.push({ fault: "wrong-arguments", name, usage: usage(called), span });
    called.parameters.forEach(({ kind, name: parameter }, index) => {
      const [actual, arg] = [kinds[index], args[index]];
      if (actual === undefined || arg === undefined) return;
      // A single value serves as a list of one, and all but a list as text.
      const fine = fits(actual, kind) || kind === "list" || (kind === "text" && fitsText(actual));
      if (!fine)
        this.mismatch(
          `${name} wants ${kindWords(kind)} as its ${parameter}, this is ${kindWords(actual)}`,
          arg.span,
        );
    });
    return called.result;
  }

  private conversion({ operand, to, toSpan }: Extract<Expression, { node: "convert" }>): ResultKind {
    const kind = this.kindOf(operand);
    const unit = unitOf(to);
    if (unit === undefined) {
      const reason = isCurrency(to)
        ? `prices are not converted yet: give the price in ${to} as an attribute, price@${to}`
        : `"${to}" is no unit that is known${closeUnit(to)}`;
      this.mismatch(reason, toSpan);
      return "any";
    }
    if (!fits(kind, "measure"))
      this.mismatch(`only a measure converts to ${to}, this is ${kindWords(kind)}`, operand.span);
    return "measure";
  }

  private binary(operator: BinaryOperator, left: Expression, right: Expression): ResultKind {
    switch (operator) {
      case "or":
        return this.same(left, right);
      case "and":
        this.want("yes-no", left, '"and"');
        this.want("yes-no", right, '"and"');
        return "yes-no";
      case "=":
      case "!=":
      case "<":
      case "<=":
      case ">":
      case ">=":
        this.comparable(operator, left, right);
        return "yes-no";
      default:
        return this.arithmetic(operator, left, right);
    }
  }

  /** Both branches of an `or` or an `if` yield one kind, or the result can be anything. */
  private same(left: Expression, right: Expression | undefined): ResultKind {
    const a = this.kindOf(left);
    const b = right === undefined ? a : this.kindOf(right);
    if (a === b || b === "any") return a;
    if (a === "any") return b;
    if (a === "yes-no" || b === "yes-no")
      this.mismatch(`one side is ${kindWords(a)}, the other ${kindWords(b)}; ask with "is given"`, left.span);
    return "any";
  }

  private comparable(operator: BinaryOperator, left: Expression, right: Expression): void {
    const [a, b] = [this.kindOf(left), this.kindOf(right)];
    const dateAsText = (a === "date" && b === "text") || (a === "text" && b === "date");
    if (a === "list" || b === "list")
      this.mismatch("a list is not compared: take one value, or count them", left.span);
    else if (!fits(a, b) && !dateAsText)
      this.mismatch(`${kindWords(a)} is compared with ${kindWords(b)}${hint(a, b)}`, {
        start: left.span.start,
        end: right.span.end,
      });
    else if (operator !== "=" && operator !== "!=" && a === "yes-no")
      this.mismatch("yes and no have no order", left.span);
  }

  private arithmetic(operator: BinaryOperator, left: Expression, right: Expression): ResultKind {
    const [a, b] = [this.kindOf(left), this.kindOf(right)];
    for (const [kind, side] of [
      [a, left],
      [b, right],
    ] as const)
      if (!["number", "money", "measure", "any"].includes(kind))
        this.mismatch(
          `"${operator}" calculates, and this is ${kindWords(kind)}; texts are joined in a template`,
          side.span,
        );
    const sum = operator === "+" || operator === "-";
    const span = { start: left.span.start, end: right.span.end };
    if (sum && !fits(a, b)) this.mismatch(`"${operator}" of ${kindWords(a)} and ${kindWords(b)}`, span);
    if (
      !sum &&
      a !== "number" &&
      b !== "number" &&
      a !== "any" &&
      b !== "any" &&
      !(operator === "/" && a === b)
    )
      this.mismatch(`"${operator}" of ${kindWords(a)} and ${kindWords(b)}`, span);
    if (operator === "/" && a === b) return "number";
    return a === "number" ? b : a;
  }

  private want(kind: ResultKind, operand: Expression, asker: string): void {
    const actual = this.kindOf(operand);
    const fine = fits(actual, kind) || (kind === "text" && fitsText(actual));
    const remedy = kind === "yes-no" ? '; ask with "is given" or a comparison' : "";
    if (!fine)
      this.mismatch(`${asker} wants ${kindWords(kind)}, this is ${kindWords(actual)}${remedy}`, operand.span);
  }

  private mismatch(reason: string, span: Expression["span"]): void {
    this.faults.push({ fault: "kind", reason, span });
  }
}

const closeUnit = (written: string): string => {
  const [close] = nearest(written, unitCodes(), 1);
  return close === undefined ? "" : `; nearest: ${close}`;
};

const hint = (a: ResultKind, b: ResultKind): string =>
  [a, b].includes("number") && ([a, b].includes("money") || [a, b].includes("measure"))
    ? "; compare with amount(…)"
    : "";
