import type { Severity } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import type { CategoryCode, FieldCode } from "../ids.js";
import type { Names } from "../language/names.js";
import type { ReadyProgram } from "../language/program.js";
import type { CategoryTree } from "./category-tree.js";
import type { Field, FieldRule } from "./field.js";
import type { LayoutDefinition } from "./layout-definition.js";

/** What a file is for. A definition names those that its channel takes. */
export type PurposeName = "full" | "amend" | "offer" | "stock" | "withdraw";

/** What must hold between fields, in one sentence for people and one expression for us. */
export interface CrossRule {
  readonly code: string;
  readonly scope: "*" | CategoryCode;
  readonly holds: ReadyProgram;
  readonly says: string;
  readonly severity: Severity;
  readonly place: Place;
}

/** How a channel shows products that vary together. More models come with more channels. */
export interface SeparateListings {
  readonly model: "separate";
  /** The field that tells the members apart, since each is shown alone. */
  readonly toldApartBy: FieldCode;
}

export type GroupModel = SeparateListings;

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
  readonly crossRules: readonly CrossRule[];
  readonly groups: GroupModel;
  readonly purposes: readonly PurposeName[];
  readonly layouts: readonly LayoutDefinition[];
  readonly identifiedBy: FieldCode;
  /** The field that holds the channel's category itself, filled from the placement. */
  readonly categoryField: FieldCode | undefined;
}

export const fieldNamed = (definition: ChannelDefinition, code: string): Field | undefined => {
  const slot = definition.fieldNames.find(code)?.slot;
  return slot === undefined ? undefined : definition.fields[slot];
};
