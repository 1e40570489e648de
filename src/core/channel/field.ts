/** One field of a channel: its kind, limits, unit and need. The kinds are those of `core/values`. */
import type { Place } from "../diagnostics/place.js";
import type { CategoryCode, FieldCode } from "../ids.js";
import type { ReadyProgram } from "../language/program.js";
import type { Decimal } from "../values/decimal.js";
import type { Unit } from "../values/units.js";
import type { Kind } from "../values/value.js";
import type { ValueList } from "./value-list.js";

/** How much a field is wanted, strongest first. */
export const needs = ["required", "recommended", "optional", "not allowed"] as const;

export type Need = (typeof needs)[number];

/** Whether a text is one of {@link needs}. */
export const isNeed = (text: string): text is Need => (needs as readonly string[]).includes(text);

/** A pattern from a definition, run by an engine whose time is linear in the text. */
export interface Pattern {
  readonly source: string;
  /** Whether the whole text is of this form. */
  matches(text: string): boolean;
  /** The first piece of the text that is; undefined where none is. */
  find(text: string): string | undefined;
}

/** Bounds of a field's value; what is undefined is not bounded. */
export interface Limits {
  readonly minLength?: number | undefined;
  readonly maxLength?: number | undefined;
  readonly counted?: "characters" | "bytes" | undefined;
  readonly maxItems?: number | undefined;
  /** The least width and height of a picture, in pixels. A field that has it holds pictures. */
  readonly minPixels?: number | undefined;
  readonly min?: Decimal | undefined;
  readonly max?: Decimal | undefined;
  readonly pattern?: Pattern | undefined;
  readonly values?: ValueList | undefined;
  /** Whether the list only advises: another value is taken, too. */
  readonly isOpenList?: boolean | undefined;
}

/** What a field is everywhere on its channel. */
export const levels = ["group", "member", "single"] as const;

/** Whether a field belongs to a group as a whole, to each of its members, or to both and to single products. */
export type Level = (typeof levels)[number];

/** A field of a channel, as its first row says it. */
export interface Field {
  readonly code: FieldCode;
  readonly slot: number;
  readonly label: string;
  /** Its label in the channel's further languages. */
  readonly otherLabels: readonly string[];
  readonly kind: Kind;
  readonly list: boolean;
  /** Measures are converted to this unit. */
  readonly unit: Unit | undefined;
  /** Numbers, prices and measures are rounded to this many decimals. */
  readonly decimals: number | undefined;
  readonly example: string;
  readonly help: string;
  /** The definition's own suggestion of a fill, for a channel that is new in a workspace. */
  readonly suggestedFill: string;
  readonly level: Level;
  /** The list of a choice, which holds wherever no nearer row has another. */
  readonly choices: Pick<Limits, "values" | "isOpenList">;
  /** What the channel takes a blank for, as text; "" when nothing. */
  readonly defaultValue: string;
  /** The field applies only to listings whose family varies by one of these; empty: to all. */
  readonly axes: readonly string[];
}

/** What one row of the definition says of a field in a scope: `*`, or a category and all below it. */
export interface FieldRule {
  readonly field: Field;
  readonly scope: "*" | CategoryCode;
  readonly need: Need | undefined;
  /** The rule's need counts only where this holds; undefined: always. */
  readonly when: ReadyProgram | undefined;
  readonly limits: Limits;
  readonly place: Place;
}
