/** The compiler on one screen: lex, parse, check, compile. Gives a program that is ready to run, or all its faults. */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import { assertNever } from "../assert-never.js";
import { checkExpression } from "./checker.js";
import { compile, type Compiled, type Observe, type NameScope } from "./compiler.js";
import type { Fault } from "./fault.js";
import type { Surroundings } from "./function.js";
import { fits, fitsText, kindWords, shapeWords, type ResultKind } from "./kind.js";
import type { Names } from "./names.js";
import type { MaybeBlank } from "../values/value.js";
import { parse } from "./parser.js";
import { fieldsRead, isOverMembers, nameAlone, slotsRead } from "./slots-read.js";
import type { Expression } from "./syntax.js";
import type { Troubles } from "./trouble.js";

/** An expression's text with the place where it starts, so that findings point into the person's own file. */
export interface ExpressionSource {
  readonly text: string;
  readonly place: Place;
}

/** Works an expression out; what could not be worked out is blank, and told in `troubles` where one asks. */
export type Run = (scope: NameScope, troubles?: Troubles) => MaybeBlank;

/** A checked and compiled expression, with the slots it reads: where its value can have come from. */
export interface ReadyProgram {
  readonly kind: "program";
  readonly run: Run;
  readonly yields: ResultKind;
  readonly source: ExpressionSource;
  readonly reads: readonly number[];
  /** The same for names that are no attributes: their slots lie below 0. */
  readonly readsOwn: readonly number[];
  /** The slot of the name that the whole expression is; undefined where it makes something of what it reads. */
  readonly isJust: number | undefined;
  /** The channel's fields that a fill reads, by code. */
  readonly readsFields: readonly string[];
  /** Whether it looks at the other members of a product's group. */
  readonly readsMembers: boolean;
}

/** What became of a source. */
export type Program = ReadyProgram | { readonly kind: "faulty"; readonly findings: readonly Diagnostic[] };

const LENGTH_LIMIT = 10_000;

/** Parses, checks and compiles one expression; or says all that is wrong with it. */
export function program(
  source: ExpressionSource,
  names: Names,
  surroundings: Surroundings,
  wanted: ResultKind = "any",
  observe?: Observe,
): Program {
  const faulty = (faults: readonly Fault[]): Program => ({
    kind: "faulty",
    findings: faults.map((fault) => finding(fault, source, names)),
  });
  if (source.text.length > LENGTH_LIMIT)
    return faulty([
      {
        fault: "syntax",
        reason: `an expression has at most ${LENGTH_LIMIT} characters`,
        span: { start: 0, end: 1 },
      },
    ]);
  const { expression, meant, faults } = parse(source.text);
  if (expression === undefined) {
    const checked = meant === undefined ? [] : checkExpression(meant, names, surroundings).faults;
    const unknown = checked.filter(({ fault }) => fault === "unknown-name" || fault === "unknown-function");
    return faulty([...faults, ...unknown].sort((a, b) => a.span.start - b.span.start));
  }
  const checked = checkExpression(expression, names, surroundings);
  const fitting =
    fits(checked.kind, wanted) || (wanted === "text" && fitsText(checked.kind)) || wanted === "list";
  const all: readonly Fault[] = fitting
    ? checked.faults
    : [
        ...checked.faults,
        {
          fault: "kind",
          reason: `${kindWords(wanted)} is wanted here, this is ${shapeWords(checked)}`,
          span: expression.span,
        },
      ];
  if (all.length > 0) return faulty(all);
  return ready(expression, source, names, checked.kind, compile(expression, names, surroundings, observe));
}

function ready(
  expression: Expression,
  source: ExpressionSource,
  names: Names,
  yields: ResultKind,
  compiled: Compiled,
): ReadyProgram {
  const slots = slotsRead(expression, names);
  return {
    kind: "program",
    run: (scope, troubles = []) => compiled(scope, troubles),
    yields,
    source,
    reads: slots.filter((slot) => slot >= 0),
    readsOwn: slots.filter((slot) => slot < 0),
    isJust: nameAlone(expression, names),
    readsFields: names.field === undefined ? [] : fieldsRead(expression),
    readsMembers: isOverMembers(expression),
  };
}

function placeOf(source: ExpressionSource, start: number): Place {
  // A cell of a table is found by its row and column: the caret in the snippet shows the rest.
  if (source.place.row !== undefined) return source.place;
  const before = source.text.slice(0, start);
  const lines = before.split("\n").length - 1;
  const { line = 1, position = 1 } = source.place;
  return lines === 0
    ? { ...source.place, line, position: position + start }
    : { ...source.place, line: line + lines, position: start - before.lastIndexOf("\n") };
}

/** The faulty line of the source with a caret below it, cut to a width that a terminal shows. */
function snippet(text: string, start: number, end: number): string {
  const lineStart = text.lastIndexOf("\n", Math.max(0, start - 1)) + 1;
  const lineEnd = text.indexOf("\n", start) < 0 ? text.length : text.indexOf("\n", start);
  const from = Math.max(lineStart, start - 50);
  const shown = text.slice(from, Math.min(lineEnd, from + 90));
  return `${shown}\n${" ".repeat(Math.max(0, start - from))}${"^".repeat(Math.max(1, Math.min(end, lineEnd) - start))}`;
}

function finding(fault: Fault, source: ExpressionSource, names: Names): Diagnostic {
  const where = { place: placeOf(source, fault.span.start) };
  const shown = snippet(source.text, fault.span.start, fault.span.end);
  switch (fault.fault) {
    case "syntax":
      return diagnostic("expression-syntax", { reason: fault.reason, snippet: shown }, where);
    case "unknown-name":
      return diagnostic(
        "unknown-name",
        { name: fault.name, nearest: fault.nearest, advice: fault.advice, snippet: shown, what: names.what },
        where,
      );
    case "unknown-function":
      return diagnostic(
        "unknown-function",
        { name: fault.name, nearest: fault.nearest, advice: fault.advice, snippet: shown },
        where,
      );
    case "wrong-arguments":
      return diagnostic("wrong-arguments", { name: fault.name, usage: fault.usage, snippet: shown }, where);
    case "kind":
      return diagnostic("kind-mismatch", { reason: fault.reason, snippet: shown }, where);
    case "too-deep":
      return diagnostic("expression-too-deep", { limit: fault.limit }, where);
    default:
      return assertNever(fault);
  }
}
