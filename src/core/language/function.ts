/** What a function of the language is: its parameters, what it gives, the examples that test it and make its page. */
import type { ReadingDefaults } from "../values/read.js";
import type { Rates } from "../values/rates.js";
import type { CalendarDate, MaybeBlank } from "../values/value.js";
import type { ResultKind, Shape } from "./kind.js";
import type { LookUpTable } from "./look-up-table.js";
import type { Cannot } from "./trouble.js";
import type { TroubleFacts } from "../diagnostics/trouble-facts.js";

/** What an expression may know of the world: it comes in, nothing is looked up. */
export interface Surroundings {
  readonly today: CalendarDate;
  /** In a source: what the file leaves unsaid, for functions that read texts as values. */
  readonly reading?: ReadingDefaults;
  /** The user's dated exchange rates. */
  readonly rates?: Rates;
  /** The user's own tables by name. */
  readonly tables?: ReadonlyMap<string, LookUpTable>;
  /** In a channel's fills: the channel's value for our term in one of its fields. */
  readonly channelTerm?: (field: string, term: string) => string | undefined;
}

/** A parameter of a function. */
export interface Parameter {
  readonly name: string;
  readonly kind: ResultKind;
  readonly optional?: boolean;
  /** Whether it is calculated with: a number, price or measure, of any of these kinds. */
  readonly calculates?: boolean;
}

/** Families of functions, in the order of their page. */
export const families = [
  "texts",
  "lists",
  "numbers",
  "units",
  "money",
  "dates",
  "identifiers",
  "look-ups",
  "categories",
  "pictures",
  "groups",
  "reading",
] as const;

export type FunctionFamily = (typeof families)[number];

/** An argument as the checker knows it before any product is: its shape, and its value where it is written out. */
export interface KnownArgument extends Shape {
  readonly literal: MaybeBlank;
}

/** A function of the expression language, with the page that documents it and the examples that test it. */
export interface ExpressionFunction {
  readonly name: string;
  readonly family: FunctionFamily;
  readonly summary: string;
  readonly parameters: readonly Parameter[];
  /** What it yields; `first`: the kind of its first argument. */
  readonly result: ResultKind | "first";
  readonly examples: readonly { readonly expression: string; readonly gives: string }[];
  /** Whether it is called with a blank first argument too; others then give blank without being called. */
  readonly keepsBlanks?: boolean;
  /** Whether its last parameter may be given again and again. */
  readonly repeats?: boolean;
  /** Whether its argument is worked out for each member of the product's group: `apply` is given the list of what came of it. */
  readonly overMembers?: boolean;
  /** What its written-out arguments let the checker know: a closer shape, or that it can never work. */
  foresee?(args: readonly KnownArgument[], surroundings: Surroundings): Shape | TroubleFacts | undefined;
  apply(args: readonly MaybeBlank[], surroundings: Surroundings): MaybeBlank | Cannot;
}

/** `fit(text, count)`, with optional parameters in brackets. */
export const usage = ({ name, parameters, repeats }: ExpressionFunction): string =>
  `${name}(${parameters.map((parameter) => (parameter.optional === true ? `[${parameter.name}]` : parameter.name)).join(", ")}${repeats === true ? ", …" : ""})`;
