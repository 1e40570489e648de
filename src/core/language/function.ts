import type { ReadingDefaults } from "../values/read.js";
import type { CalendarDate, MaybeBlank } from "../values/value.js";
import type { ResultKind } from "./kind.js";

/** What an expression may know of the world: it comes in, nothing is looked up. */
export interface Surroundings {
  readonly today: CalendarDate;
  /** In a source: what the file leaves unsaid, for functions that read texts as values. */
  readonly reading?: ReadingDefaults;
}

export interface Parameter {
  readonly name: string;
  readonly kind: ResultKind;
  readonly optional?: boolean;
}

/** A function of the expression language, with the page that documents it and the examples that test it. */
export interface ExpressionFunction {
  readonly name: string;
  readonly family: "texts" | "lists" | "numbers" | "dates" | "reading";
  readonly summary: string;
  readonly parameters: readonly Parameter[];
  readonly result: ResultKind;
  readonly examples: readonly { readonly expression: string; readonly gives: string }[];
  /** Whether it is called with a blank first argument too; others then give blank without being called. */
  readonly keepsBlanks?: boolean;
  apply(args: readonly MaybeBlank[], surroundings: Surroundings): MaybeBlank;
}

/** `fit(text, count)`, with optional parameters in brackets. */
export const usage = ({ name, parameters }: ExpressionFunction): string =>
  `${name}(${parameters.map((parameter) => (parameter.optional === true ? `[${parameter.name}]` : parameter.name)).join(", ")})`;
