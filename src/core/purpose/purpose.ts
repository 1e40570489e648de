/** What a purpose makes of a family's rows: which go, and which fields each shows, beside what the channel has. */
import { groupFieldOf } from "../channel/group-model.js";
import type { ChannelDefinition, PurposeRule } from "../channel/definition.js";
import type { PurposeName } from "../channel/purpose-names.js";
import type { Field } from "../channel/field.js";
import type { FactsByCode } from "../diagnostics/findings/findings.js";
import { fieldNamed } from "../channel/definition.js";
import type { FileFamily, FileRow } from "../listing/shape/file-family.js";
import type { LiveListing } from "../listing/live-listing.js";
import { canonicalText } from "../values/show.js";

/** What a purpose is applied with. */
export interface PurposeFacts {
  readonly purpose: PurposeName;
  readonly rule: PurposeRule;
  readonly definition: ChannelDefinition;
  readonly fields: PurposeFields;
  /** What the channel has of a SKU. */
  live(sku: string): LiveListing | undefined;
  /** For `amend`: these fields alone, whether they differ or not; undefined: those that differ. */
  readonly only: ReadonlySet<Field> | undefined;
  /** For `full`: what would be erased is filled from what the channel has. */
  readonly keepLive: boolean;
  /** For `full`: rows that are the same on the channel stay out. */
  readonly changedOnly: boolean;
  /** Is told of a row that is ready and not for a file of this purpose, with the reason. */
  omit?(row: FileRow, because: Omission): void;
}

/** Why a ready listing is not in a file of one purpose. */
export type Omission =
  /** The channel was never sent it: a full file comes first. */
  | { readonly code: "never-sent"; readonly facts: FactsByCode["never-sent"] }
  /** It lacks what each row of such a file must have. */
  | { readonly code: "lacks-for-purpose"; readonly facts: FactsByCode["lacks-for-purpose"] };

/** Makes of a family's rows those of a file for one purpose; undefined where nothing of it goes there. */
export type ApplyPurpose = (family: FileFamily, facts: PurposeFacts) => FileFamily | undefined;

/** A row that shows some of its fields. */
export const showing = (row: FileRow, shows: (field: Field) => boolean): FileRow => ({
  ...row,
  value: (field) => (shows(field) ? row.value(field) : undefined),
});

/** A family with some of its rows; the group's own goes where a member does, or where it has something to say itself. */
export const withRows = (group: FileRow | undefined, members: readonly FileRow[]): FileFamily | undefined =>
  group === undefined && members.length === 0 ? undefined : { group, members };

/** The fields that a purpose's rows are made of; found once, for all rows. */
export interface PurposeFields {
  /** Those that tell the channel which listing a row is about. */
  readonly keys: ReadonlySet<Field>;
  readonly must: ReadonlySet<Field>;
  readonly may: ReadonlySet<Field>;
}

/** The fields that a purpose's files show. */
export function purposeFields(definition: ChannelDefinition, { must, may }: PurposeRule): PurposeFields {
  const { groups, identifiedBy } = definition;
  const set = (codes: readonly string[]): ReadonlySet<Field> =>
    new Set(codes.flatMap((code) => fieldNamed(definition, code) ?? []));
  return {
    keys: set([identifiedBy, groupFieldOf(groups) ?? identifiedBy]),
    must: set(must),
    may: set([...must, ...may]),
  };
}

/** What a row says of a field, as the ledger keeps it; "" for nothing. */
export function textIn(row: FileRow, field: Field): string {
  const value = row.value(field);
  return value === undefined ? "" : canonicalText(value);
}

/** The fields in which a row differs from what the channel has; all that it shows where the channel has nothing. */
export function changedFields(
  row: FileRow,
  before: LiveListing | undefined,
  { fields }: ChannelDefinition,
): readonly Field[] {
  return fields.filter((field) => textIn(row, field) !== (before?.values[field.code] ?? ""));
}
