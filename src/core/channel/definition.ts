/** What a channel demands, as data: all that the pipeline, the layouts and the exchange know of a channel is here. */
import type { GroupModel } from "./group-model.js";
import type { Severity } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import type { CategoryCode, FieldCode } from "../ids.js";
import type { Names } from "../language/names.js";
import type { ReadyProgram } from "../language/program.js";
import type { CategoryTree } from "./category-tree.js";
import type { ExchangeDefinition } from "./exchange-definition.js";
import type { Field, FieldRule } from "./field.js";
import type { LayoutDefinition } from "./layout-definition.js";
import type { RecordFormat } from "./record-format.js";
import type { PurposeName } from "./purpose-names.js";
import type { ValueList } from "./value-list.js";

/** What a field holds for every channel alike, named like the catalogue's attribute. */
export const roles = ["name", "description", "keywords", "price"] as const;

export type Role = (typeof roles)[number];

/** What must hold between fields, in one sentence for people and one expression for us. */
export interface CrossRule {
  readonly code: string;
  readonly scope: "*" | CategoryCode;
  readonly holds: ReadyProgram;
  readonly says: string;
  readonly severity: Severity;
  readonly place: Place;
}

/** What a file of one purpose must and may carry, and what a blank in it does to the live listing. */
export interface PurposeRule {
  readonly purpose: PurposeName;
  readonly blank: "leave" | "erase";
  readonly must: readonly FieldCode[];
  /** Empty: any field. */
  readonly may: readonly FieldCode[];
  /** Whether such a file may speak of what the channel was never sent: an offer on an entry that others have made. */
  readonly opens: boolean;
  /** The word that the channel's action field carries for this purpose, where it has one. */
  readonly action: string;
}

/** What members of a group may differ in, in a category and all below it. */
export interface AxisRule {
  readonly scope: "*" | CategoryCode;
  readonly axes: readonly string[];
  readonly mostAxes: number | undefined;
  readonly mostMembers: number | undefined;
  readonly place: Place;
}

/** What can be wrong with a text by itself. */
export const bannedKinds = ["word", "list", "pattern", "link", "phone", "capitals", "repeats"] as const;

export type BannedKind = (typeof bannedKinds)[number];

/** What texts must not contain. */
export interface BannedContent {
  readonly field: FieldCode | "*";
  readonly kind: BannedKind;
  /** The word or pattern; for capitals and repeats the most that is allowed. */
  readonly value: string;
  /** Whether a text breaks the rule; gives the piece that does. */
  find(text: string): string | undefined;
  readonly says: string;
  readonly severity: Severity;
  readonly place: Place;
}

/** Bounds of the files that the channel takes. */
export interface FileLimits {
  readonly rows: number | undefined;
  readonly megabytes: number | undefined;
  /** Whether a file name may be used once only. */
  readonly nameOnce: boolean;
}

/** How the channel's answer is read: where each row's reference, state, code and message stand. */
export interface ResultLayout {
  readonly format: RecordFormat;
  readonly ref: string;
  readonly state: string;
  readonly code: string;
  readonly message: string;
  /** The number of the row in the file, the id that the channel gives, the field that it speaks of. */
  readonly row?: string;
  readonly id?: string;
  readonly field?: string;
  readonly accepted: readonly string[];
  /** What a row is of which the whole report says nothing. */
  readonly silenceMeans?: "accepted" | "unanswered";
}

/** All that a channel demands, checked and compiled: nothing in it can be wrong in itself. */
export interface ChannelDefinition {
  readonly channel: string;
  readonly label: string;
  readonly version: string;
  readonly languages: readonly string[];
  readonly currencies: readonly string[];
  readonly countries: readonly string[];
  readonly tree: CategoryTree;
  /** In the order of the definition; a field's slot is its position. */
  readonly fields: readonly Field[];
  readonly fieldNames: Names;
  readonly rules: readonly FieldRule[];
  /** The same by scope, so that a category's rules are found without reading all of a large channel's. */
  readonly rulesByScope: ReadonlyMap<string, readonly FieldRule[]>;
  readonly crossRules: readonly CrossRule[];
  readonly groups: GroupModel;
  readonly purposes: readonly PurposeName[];
  readonly purposeRules: readonly PurposeRule[];
  readonly axisRules: readonly AxisRule[];
  readonly banned: readonly BannedContent[];
  readonly fileLimits: FileLimits;
  readonly results: ResultLayout | undefined;
  /** How files get there and answers back; undefined: by hand alone. */
  readonly exchange: ExchangeDefinition | undefined;
  readonly layouts: readonly LayoutDefinition[];
  readonly identifiedBy: FieldCode;
  /** The fields in which shoppers see the title, the text, the price, and find the listing. */
  readonly roles: { readonly [role in Role]?: Field };
  /** The field that holds the channel's category itself, filled from the placement. */
  readonly categoryField: FieldCode | undefined;
  /** Whether that field shows the category's path in words, or its code. */
  readonly categoryBy: "path" | "code";
}

/** A field by its code; undefined where there is none. */
export function fieldNamed(definition: ChannelDefinition, code: string): Field | undefined {
  const slot = definition.fieldNames.find(code)?.slot;
  return slot === undefined ? undefined : definition.fields[slot];
}

/** The layout whose files the channel takes by itself. */
export const sentLayoutOf = ({ layouts, exchange }: ChannelDefinition): LayoutDefinition | undefined =>
  layouts.find(({ name }) => name === exchange?.send.layout) ?? layouts[0];

/** The lists of permitted values that a field has in any category. */
export const listsOf = ({ rules }: ChannelDefinition, field: Field): readonly ValueList[] => [
  ...new Set(rules.filter((rule) => rule.field === field).flatMap(({ limits }) => limits.values ?? [])),
];

/** The field that the placement fills with the category's path. */
export const categoryFieldOf = (definition: ChannelDefinition): Field | undefined =>
  definition.categoryField === undefined ? undefined : fieldNamed(definition, definition.categoryField);
