/** What a category asks: rules of all scopes above it, the nearest last, cell by cell. Resolved once a definition. */
import type { Place } from "../diagnostics/place.js";
import type { ReadyProgram } from "../language/program.js";
import { onceFor } from "../once-for.js";
import { withAncestors, type Category } from "./category-tree.js";
import type { ChannelDefinition, CrossRule } from "./definition.js";
import type { Field, FieldRule, Limits, Need } from "./field.js";

/** A need that holds where a condition does. */
export interface ConditionalNeed {
  readonly when: ReadyProgram;
  readonly need: Need;
  readonly place: Place;
}

/** All that one category asks of one field: the nearest scope has won, cell by cell. */
export interface CategoryField {
  readonly field: Field;
  readonly need: Need;
  readonly conditionalNeeds: readonly ConditionalNeed[];
  readonly limits: Limits;
  /** The row that decides the need. */
  readonly place: Place;
}

/** All that one category asks. */
export interface CategoryRules {
  readonly category: Category;
  readonly fields: readonly CategoryField[];
  readonly crossRules: readonly CrossRule[];
}

const given = (limits: Limits): Limits =>
  Object.fromEntries(Object.entries(limits).filter(([, limit]) => limit !== undefined));

function combine(field: Field, rows: readonly FieldRule[]): CategoryField {
  let need: Need = "optional";
  let place = rows[0]?.place ?? { file: "" };
  let limits: Limits = field.choices;
  let conditional: { readonly scope: string; readonly need: ConditionalNeed }[] = [];
  for (const row of rows) {
    limits = { ...limits, ...given(row.limits) };
    if (row.need === undefined) continue;
    if (row.when !== undefined) {
      conditional.push({ scope: row.scope, need: { when: row.when, need: row.need, place: row.place } });
      continue;
    }
    // An unconditional need in a nearer scope also settles what farther scopes made conditional.
    conditional = conditional.filter(({ scope }) => scope === row.scope);
    need = row.need;
    place = row.place;
  }
  return { field, need, conditionalNeeds: conditional.map((entry) => entry.need), limits, place };
}

/** Resolves what a category asks itself, from `*` down to it: the nearest scope speaks last. */
function resolved(definition: ChannelDefinition, category: Category): CategoryRules {
  const scopes = [
    "*",
    ...withAncestors(category)
      .map(({ code }): string => code)
      .reverse(),
  ];
  const nearestLast = new Map<Field, FieldRule[]>();
  for (const scope of scopes)
    for (const rule of definition.rulesByScope.get(scope) ?? []) {
      const own = nearestLast.get(rule.field);
      if (own === undefined) nearestLast.set(rule.field, [rule]);
      else own.push(rule);
    }
  return {
    category,
    fields: definition.fields.flatMap((field) => {
      const own = nearestLast.get(field);
      return own === undefined ? [] : [combine(field, own)];
    }),
    crossRules: definition.crossRules.filter(({ scope }) => scopes.includes(scope)),
  };
}

/**
 * The rules of a category, resolved once for all products placed in it and for all who ask. A category with no rows of its
 * own asks what the one above it asks, and has the very same list of fields.
 */
export const categoryRules: (definition: ChannelDefinition, category: Category) => CategoryRules = onceFor(
  (definition, category) => {
    const { parent, code } = category;
    const asksItself =
      parent === undefined ||
      definition.rulesByScope.has(code) ||
      definition.crossRules.some(({ scope }) => scope === code);
    return asksItself ? resolved(definition, category) : { ...categoryRules(definition, parent), category };
  },
);
