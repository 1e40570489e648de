/** The values that attributes and fields hold. Blank is `undefined`. */
import type { Decimal } from "./decimal.js";
import type { Unit } from "./units.js";

/** An amount of money: exact decimal and ISO 4217 code. */
export interface Money {
  readonly kind: "money";
  readonly amount: Decimal;
  readonly currency: string;
}

/** A measured amount: exact decimal and unit. */
export interface Measure {
  readonly kind: "measure";
  readonly amount: Decimal;
  readonly unit: Unit;
}

/** A calendar day as ISO 8601 (`2026-03-01`); texts of this form compare in the order of time. */
export interface CalendarDate {
  readonly kind: "date";
  readonly iso: string;
}

/** Any value that an attribute or a channel field can hold. Blank is `undefined` and never part of a list. */
export type Value = string | boolean | Decimal | Money | Measure | CalendarDate | readonly Value[];

/** A value, or blank. */
export type MaybeBlank = Value | undefined;

/** What an attribute or a field holds. `choice`, `url`, `gtin` and `isbn` are texts with rules of their own. */
export const kinds = [
  "text",
  "html",
  "integer",
  "decimal",
  "money",
  "measure",
  "date",
  "yes-no",
  "choice",
  "url",
  "gtin",
  "isbn",
] as const;

export type Kind = (typeof kinds)[number];

/** Whether a text is the name of a kind. */
export const isKind = (text: string): text is Kind => (kinds as readonly string[]).includes(text);

/** Whether a value is several. */
export const isList = (value: MaybeBlank): value is readonly Value[] => Array.isArray(value);

const hasKind = (value: MaybeBlank, kind: string): boolean =>
  typeof value === "object" && "kind" in value && value.kind === kind;

/** Whether a value is a price. */
export const isMoney = (value: MaybeBlank): value is Money => hasKind(value, "money");
/** Whether a value is a measure. */
export const isMeasure = (value: MaybeBlank): value is Measure => hasKind(value, "measure");
/** Whether a value is a day. */
export const isDate = (value: MaybeBlank): value is CalendarDate => hasKind(value, "date");
