import { isSlip } from "../values/nearest.js";
import { fold, termKey } from "../values/text.js";
import type { Category, CategoryTree } from "../channel/category-tree.js";
import type { ChannelDefinition } from "../channel/definition.js";
import type { Field, FieldRule, Limits } from "../channel/field.js";
import { addAll } from "../many.js";
import { meaningOf } from "./meaning.js";

/** What changes between two versions of a definition. */
export type DefinitionChange =
  | { readonly change: "field-added"; readonly field: string; readonly label: string; readonly need: string }
  | { readonly change: "field-gone"; readonly field: string; readonly label: string }
  | {
      readonly change: "field-renamed";
      readonly field: string;
      readonly label: string;
      readonly to: string;
      readonly toLabel: string;
      readonly confidence: number;
      readonly because: string;
    }
  | {
      readonly change: "field-moved";
      readonly field: string;
      readonly label: string;
      readonly scope: string;
      readonly what: string;
      readonly from: string;
      readonly to: string;
    }
  | {
      readonly change: "value-added" | "value-gone";
      readonly field: string;
      readonly label: string;
      readonly scope: string;
      readonly value: string;
    }
  | {
      readonly change: "value-renamed";
      readonly field: string;
      readonly label: string;
      readonly scope: string;
      readonly value: string;
      readonly to: string;
      readonly confidence: number;
    }
  | { readonly change: "category-added" | "category-gone"; readonly code: string; readonly path: string }
  | {
      readonly change: "category-moved";
      readonly code: string;
      readonly path: string;
      readonly to: string;
      readonly toPath: string;
      readonly confidence: number;
    };

/** By the version of before: what each field, value and category is now. */
export interface Renamings {
  readonly fields: ReadonlyMap<string, string | undefined>;
  /** By field of before, then by value. */
  readonly values: ReadonlyMap<string, ReadonlyMap<string, string | undefined>>;
  readonly categories: ReadonlyMap<string, string | undefined>;
}

export interface Comparison {
  readonly changes: readonly DefinitionChange[];
  readonly renamings: Renamings;
}

interface Pair<T> {
  readonly one: T;
  readonly other: T;
  readonly score: number;
  readonly because: string;
}

const LIKELY = 0.6;

/** Pairs what is gone with what came, each once, the likeliest first. */
const pairs = <T>(
  gone: readonly T[],
  came: readonly T[],
  score: (one: T, other: T) => { readonly score: number; readonly because: string },
): readonly Pair<T>[] => {
  const all: Pair<T>[] = [];
  for (const one of gone)
    for (const other of came) {
      const found = score(one, other);
      if (found.score >= LIKELY) all.push({ one, other, ...found });
    }
  const used = new Set<T>();
  return all
    .sort((a, b) => b.score - a.score)
    .filter(({ one, other }) => {
      if (used.has(one) || used.has(other)) return false;
      used.add(one);
      used.add(other);
      return true;
    });
};

const wordsOf = (text: string): ReadonlySet<string> =>
  new Set(
    fold(text.replace(/[_.-]/g, " "))
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean),
  );

/** The share of words that two texts have in common. */
const common = (one: string, other: string): number => {
  const [a, b] = [wordsOf(one), wordsOf(other)];
  const both = [...a].filter((word) => b.has(word)).length;
  return both === 0 ? 0 : both / (a.size + b.size - both);
};

const valuesOf = (definition: ChannelDefinition, field: Field): readonly string[] => [
  ...new Set(
    definition.rules
      .filter((rule) => rule.field === field)
      .flatMap(({ limits }) => limits.values?.values.map(({ value }) => value) ?? []),
  ),
];

const neighbours = (fields: readonly Field[], field: Field): readonly string[] => {
  const at = fields.indexOf(field);
  return [fields[at - 1]?.code ?? "", fields[at + 1]?.code ?? ""];
};

/** How likely it is that one field took another's place: by name, meaning, values, and where it stands. */
const fieldLikeness = (before: ChannelDefinition, after: ChannelDefinition) => (one: Field, other: Field) => {
  const [own, others] = [meaningOf([one.label, one.code], []), meaningOf([other.label, other.code], [])];
  const because: string[] = [];
  let score = 0;
  const add = (much: number, what: string): void => {
    score += much;
    because.push(what);
  };
  const name = Math.max(common(one.label, other.label), common(one.code, other.code));
  if (name > 0) add(0.5 * name, "its name");
  if (isSlip(fold(one.label), fold(other.label))) add(0.3, "its spelling");
  if (own !== undefined && own.attribute === others?.attribute) add(0.45, `both hold ${own.attribute}`);
  if (own !== undefined && others !== undefined && own.attribute !== others.attribute) score -= 0.5;
  const [values, now] = [new Set(valuesOf(before, one)), valuesOf(after, other)];
  if (values.size > 0 && now.length > 0) {
    const both = now.filter((value) => values.has(value)).length / Math.max(values.size, now.length);
    if (both >= 0.5) add(0.4 * both + 0.1, "its values");
    else score -= 0.3;
  }
  if (one.kind !== other.kind) score -= 0.25;
  else score += 0.1;
  if (one.list === other.list && one.unit?.code === other.unit?.code) score += 0.05;
  const [near, nearNow] = [neighbours(before.fields, one), neighbours(after.fields, other)];
  if (near.some((code, at) => code !== "" && code === nearNow[at])) add(0.2, "its place");
  if (one.help !== "" && one.help === other.help) add(0.25, "its explanation");
  return { score: Math.min(0.99, score), because: because.join(", ") };
};

const limitTexts = ({
  values,
  pattern,
  isOpenList,
  ...limits
}: Limits): Readonly<Record<string, string>> => ({
  ...Object.fromEntries(
    Object.entries(limits).flatMap(([key, value]) =>
      value === undefined
        ? []
        : [[key.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`), String(value)]],
    ),
  ),
  ...(pattern === undefined ? {} : { pattern: pattern.source }),
  ...(isOpenList === undefined ? {} : { open: isOpenList ? "yes" : "no" }),
  ...(values === undefined ? {} : { list: "a list of values" }),
});

const ruleKey = ({ scope, when }: FieldRule): string => `${scope}\u0000${when?.source.text ?? ""}`;

/** What moved in a field that both versions have: its label and kind everywhere, need and limits in each scope. */
const movedIn = (
  before: ChannelDefinition,
  after: ChannelDefinition,
  one: Field,
  other: Field,
): readonly DefinitionChange[] => {
  const changes: DefinitionChange[] = [];
  const moved = (scope: string, what: string, from = "", to = ""): void => {
    if (from !== to)
      changes.push({ change: "field-moved", field: other.code, label: other.label, scope, what, from, to });
  };
  if (one.code === other.code) moved("*", "label", one.label, other.label);
  moved("*", "kind", one.kind, other.kind);
  moved("*", "several values", one.list ? "yes" : "no", other.list ? "yes" : "no");
  moved("*", "unit", one.unit?.code, other.unit?.code);
  moved("*", "decimals", one.decimals?.toString(), other.decimals?.toString());
  const rulesOf = (definition: ChannelDefinition, field: Field): ReadonlyMap<string, FieldRule> =>
    new Map(definition.rules.filter((rule) => rule.field === field).map((rule) => [ruleKey(rule), rule]));
  const [was, is] = [rulesOf(before, one), rulesOf(after, other)];
  for (const key of new Set([...was.keys(), ...is.keys()])) {
    const [old, now] = [was.get(key), is.get(key)];
    const scope = (now ?? old)?.scope ?? "*";
    const when = (now ?? old)?.when?.source.text;
    const suffix = when === undefined ? "" : ` when ${when}`;
    moved(scope, `need${suffix}`, old?.need, now?.need);
    const [limits, limitsNow] = [limitTexts(old?.limits ?? {}), limitTexts(now?.limits ?? {})];
    for (const what of new Set([...Object.keys(limits), ...Object.keys(limitsNow)]))
      moved(
        scope,
        what.replaceAll("_", " "),
        new Map(Object.entries(limits)).get(what),
        new Map(Object.entries(limitsNow)).get(what),
      );
  }
  return changes;
};

const valueLikeness =
  (before: readonly string[], after: readonly string[]) => (one: string, other: string) => {
    const [a, b] = [fold(one), fold(other)];
    let score = 0;
    if (termKey(one) === termKey(other)) score = 0.97;
    else if (a.replace(/[^\p{L}\p{N}]/gu, "") === b.replace(/[^\p{L}\p{N}]/gu, "")) score = 0.95;
    else if (isSlip(a, b)) score = 0.85;
    else if (common(one, other) >= 0.5) score = 0.7;
    else if (common(one, other) > 0) score = 0.45;
    // What stands between the same neighbours took its place.
    const [at, now] = [before.indexOf(one), after.indexOf(other)];
    const isBetween = before[at - 1] === after[now - 1] && before[at + 1] === after[now + 1];
    if (isBetween && before.length === after.length && before.length > 2) score += score === 0 ? 0.62 : 0.3;
    return { score: Math.min(0.98, score), because: "" };
  };

/** Lists that two versions of a field have, scope by scope. */
const valueChanges = (before: ChannelDefinition, after: ChannelDefinition, one: Field, other: Field) => {
  const changes: DefinitionChange[] = [];
  const renamed = new Map<string, string | undefined>();
  const listIn = (
    definition: ChannelDefinition,
    field: Field,
    scope: string,
  ): readonly string[] | undefined =>
    definition.rules
      .find((rule) => rule.field === field && rule.scope === scope && rule.limits.values !== undefined)
      ?.limits.values?.values.map(({ value }) => value);
  const scopes = new Set(
    [...before.rules, ...after.rules]
      .filter(({ field }) => field === one || field === other)
      .map(({ scope }) => scope as string),
  );
  const still = new Set(valuesOf(after, other));
  for (const scope of scopes) {
    const [was, is] = [listIn(before, one, scope), listIn(after, other, scope)];
    if (was === undefined || is === undefined) continue;
    const [known, now] = [new Set(was), new Set(is)];
    const gone = was.filter((value) => !now.has(value));
    const came = is.filter((value) => !known.has(value));
    const found = pairs(gone, came, valueLikeness(was, is));
    const where = { field: other.code as string, label: other.label, scope };
    for (const { one: value, other: to, score } of found) {
      changes.push({ change: "value-renamed", ...where, value, to, confidence: score });
      renamed.set(value, to);
    }
    const [from, to] = [new Set(found.map((pair) => pair.one)), new Set(found.map((pair) => pair.other))];
    for (const value of gone.filter((one) => !from.has(one))) {
      changes.push({ change: "value-gone", ...where, value });
      if (!still.has(value)) renamed.set(value, undefined);
    }
    for (const value of came.filter((one) => !to.has(one)))
      changes.push({ change: "value-added", ...where, value });
  }
  return { changes, renamed };
};

const categoryLikeness = (before: CategoryTree, after: CategoryTree) => {
  const childrenOf = (tree: CategoryTree): ReadonlyMap<string, readonly string[]> => {
    const found = new Map<string, string[]>();
    for (const { parent, name } of tree.all)
      if (parent !== undefined) found.set(parent.code, [...(found.get(parent.code) ?? []), fold(name)]);
    return found;
  };
  const [was, is] = [childrenOf(before), childrenOf(after)];
  const siblings = (tree: CategoryTree, { parent }: Category): readonly Category[] =>
    tree.all.filter((one) => one.parent?.code === parent?.code);
  return (one: Category, other: Category) => {
    const isSameName = fold(one.name) === fold(other.name);
    const isSameParent =
      one.parent?.code === other.parent?.code ||
      fold(one.parent?.path ?? "") === fold(other.parent?.path ?? "");
    let score = isSameName && isSameParent ? 0.97 : isSameName ? 0.75 : 0;
    if (!isSameName && isSameParent)
      score = isSlip(fold(one.name), fold(other.name))
        ? 0.85
        : common(one.name, other.name) >= 0.5
          ? 0.72
          : 0;
    const [own, others] = [was.get(one.code) ?? [], new Set(is.get(other.code) ?? [])];
    if (own.length > 1 && own.filter((name) => others.has(name)).length >= own.length * 0.6) score += 0.3;
    // One of a parent's children went and one came in its place.
    if (score === 0 && isSameParent) {
      const [beside, besideNow] = [siblings(before, one), siblings(after, other)];
      const [at, now] = [beside.indexOf(one), besideNow.indexOf(other)];
      const isBetween =
        beside.length > 2 &&
        beside.length === besideNow.length &&
        beside[at - 1]?.name === besideNow[now - 1]?.name &&
        beside[at + 1]?.name === besideNow[now + 1]?.name;
      if (isBetween) score = 0.62;
    }
    return { score: Math.min(0.99, score), because: "" };
  };
};

const treeChanges = (before: CategoryTree, after: CategoryTree) => {
  const changes: DefinitionChange[] = [];
  const renamed = new Map<string, string | undefined>();
  const gone: Category[] = [];
  for (const category of before.all) {
    const same = after.find(category.code);
    if (same === undefined) gone.push(category);
    else if (
      same.path !== category.path &&
      !(same.name === category.name && same.parent?.code === category.parent?.code)
    )
      changes.push({
        change: "category-moved",
        code: category.code,
        path: category.path,
        to: same.code,
        toPath: same.path,
        confidence: 1,
      });
  }
  const came = after.all.filter(({ code }) => before.find(code) === undefined);
  const left = gone.filter((category) => {
    const successor = after.retired(category.code)?.successor;
    if (successor === undefined) return true;
    changes.push({
      change: "category-moved",
      code: category.code,
      path: category.path,
      to: successor.code,
      toPath: successor.path,
      confidence: 1,
    });
    renamed.set(category.code, successor.code);
    return false;
  });
  const found = pairs(left, came, categoryLikeness(before, after));
  for (const { one, other, score } of found) {
    changes.push({
      change: "category-moved",
      code: one.code,
      path: one.path,
      to: other.code,
      toPath: other.path,
      confidence: score,
    });
    renamed.set(one.code, other.code);
  }
  const [from, to] = [new Set(found.map((pair) => pair.one)), new Set(found.map((pair) => pair.other))];
  for (const category of left.filter((one) => !from.has(one))) {
    changes.push({ change: "category-gone", code: category.code, path: category.path });
    renamed.set(category.code, undefined);
  }
  for (const { code, path } of came.filter((one) => !to.has(one)))
    changes.push({ change: "category-added", code, path });
  return { changes, renamed };
};

const needOf = (definition: ChannelDefinition, field: Field): string =>
  definition.rules.find((rule) => rule.field === field && rule.need !== undefined)?.need ?? "optional";

/** Holds two versions of a channel's definition against each other. */
export const compareDefinitions = (before: ChannelDefinition, after: ChannelDefinition): Comparison => {
  const changes: DefinitionChange[] = [];
  const fields = new Map<string, string | undefined>();
  const values = new Map<string, ReadonlyMap<string, string | undefined>>();
  const byCode = new Map(after.fields.map((field) => [field.code as string, field]));
  const gone = before.fields.filter(({ code }) => !byCode.has(code));
  const came = after.fields.filter(({ code }) => before.fields.every((field) => field.code !== code));
  const found = pairs(gone, came, fieldLikeness(before, after));
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
};
