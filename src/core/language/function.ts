import type { CalendarDate, MaybeBlank } from "../values/value.js";
import type { ResultKind } from "./kind.js";

/** What an expression may know of the world: it comes in, nothing is looked up. */
export interface Surroundings {
  readonly today: CalendarDate;
}

export interface Parameter {
  readonly name: string;
  readonly kind: ResultKind;
  readonly optional?: boolean;
}

/** A function of the expression language, with the page that documents it and the examples that test it. */
export interface ExpressionFunction {
  readonly name: string;
  readonly family: "texts" | "lists" | "numbers" | "dates";
  readonly summary: string;
  readonly parameters: readonly Parameter[];
  readonly result: ResultKind;
  readonly examples: readonly { readonly expression: string; readonly gives: string }[];
  /** Called only when the first argument is not blank; other arguments may be. */
  apply(args: readonly MaybeBlank[], surroundings: Surroundings): MaybeBlank;
}

/** `fit(text, count)`, with optional parameters in brackets. */
export const usage = ({ name, parameters }: ExpressionFunction): string =>
  `${name}(${parameters.map((parameter) => (parameter.optional === true ? `[${parameter.name}]` : parameter.name)).join(", ")})`;
