/** Two versions of a definition held against each other: what is gone is paired with what came. */
import type { ChannelDefinition } from "../channel/definition.js";
import type { Field } from "../channel/field.js";
import { addAll } from "../many.js";
import { fieldLikeness, movedIn } from "./compare-fields.js";
import { treeChanges } from "./compare-trees.js";
import { valueChanges } from "./compare-values.js";
import type { DefinitionChange } from "./definition-change.js";
import { pairs, textKeys } from "./pair-up.js";

/** By the version of before: what each field, value and category is now. */
export interface Renamings {
  readonly fields: ReadonlyMap<string, string | undefined>;
  /** By field of before, then by value. */
  readonly values: ReadonlyMap<string, ReadonlyMap<string, string | undefined>>;
  readonly categories: ReadonlyMap<string, string | undefined>;
}

/** What differs between two versions. */
export interface Comparison {
  readonly changes: readonly DefinitionChange[];
  readonly renamings: Renamings;
}

const needOf = (definition: ChannelDefinition, field: Field): string =>
  definition.rules.find((rule) => rule.field === field && rule.need !== undefined)?.need ?? "optional";

/** Holds two versions of a channel's definition against each other. */
export function compareDefinitions(before: ChannelDefinition, after: ChannelDefinition): Comparison {
  const changes: DefinitionChange[] = [];
  const fields = new Map<string, string | undefined>();
  const values = new Map<string, ReadonlyMap<string, string | undefined>>();
  const byCode = new Map(after.fields.map((field) => [field.code as string, field]));
  const gone = before.fields.filter(({ code }) => !byCode.has(code));
  const came = after.fields.filter(({ code }) => before.fields.every((field) => field.code !== code));
  const found = pairs(gone, came, fieldLikeness(before, after), ({ label, code, kind }) => [
    ...textKeys(label),
    ...textKeys(code),
    kind,
  ]);
  const partner = new Map<Field, Field>(found.map(({ one, other }) => [one, other]));
  for (const { one, other, score, because } of found) {
    changes.push({
      change: "field-renamed",
      field: one.code,
      label: one.label,
      to: other.code,
      toLabel: other.label,
      confidence: score,
      because,
    });
    fields.set(one.code, other.code);
  }
  for (const field of gone) {
    if (partner.has(field)) continue;
    changes.push({ change: "field-gone", field: field.code, label: field.label });
    fields.set(field.code, undefined);
  }
  const taken = new Set(partner.values());
  for (const field of came)
    if (!taken.has(field))
      changes.push({
        change: "field-added",
        field: field.code,
        label: field.label,
        need: needOf(after, field),
      });
  for (const field of before.fields) {
    const now = byCode.get(field.code) ?? partner.get(field);
    if (now === undefined) continue;
    addAll(changes, movedIn(before, after, field, now));
    const own = valueChanges(before, after, field, now);
    addAll(changes, own.changes);
    if (own.renamed.size > 0) values.set(field.code, own.renamed);
  }
  const tree = treeChanges(before.tree, after.tree);
  addAll(changes, tree.changes);
  return { changes, renamings: { fields, values, categories: tree.renamed } };
}
