/** Permitted values of two versions, paired list by list. */
import type { ChannelDefinition } from "../channel/definition.js";
import type { Field } from "../channel/field.js";
import { isSlip } from "../values/nearest.js";
import { fold, termKey } from "../values/text.js";
import type { DefinitionChange } from "./definition-change.js";
import { common, pairs, textKeys } from "./pair-up.js";

/** Every value that a field takes in some scope. */
export function valuesOf(definition: ChannelDefinition, field: Field): readonly string[] {
  return [
    ...new Set(
      definition.rules
        .filter((rule) => rule.field === field)
        .flatMap(({ limits }) => limits.values?.values.map(({ value }) => value) ?? []),
    ),
  ];
}

/** The values before and behind one in its list. */
type Neighbours = (value: string) => readonly [before: string | undefined, behind: string | undefined];

function neighboursIn(list: readonly string[]): Neighbours {
  const places = new Map(list.map((value, at) => [value, at]));
  return (value) => {
    const at = places.get(value) ?? -1;
    return [list[at - 1], list[at + 1]];
  };
}

const valueLikeness =
  (was: Neighbours, is: Neighbours, isAsLong: boolean) => (one: string, other: string) => {
    const [a, b] = [fold(one), fold(other)];
    let score = 0;
    if (termKey(one) === termKey(other)) score = 0.97;
    else if (a.replace(/[^\p{L}\p{N}]/gu, "") === b.replace(/[^\p{L}\p{N}]/gu, "")) score = 0.95;
    else if (isSlip(a, b)) score = 0.85;
    else if (common(one, other) >= 0.5) score = 0.7;
    else if (common(one, other) > 0) score = 0.45;
    // What stands between the same neighbours took its place.
    const [[before, behind], [beforeNow, behindNow]] = [was(one), is(other)];
    if (isAsLong && before === beforeNow && behind === behindNow) score += score === 0 ? 0.62 : 0.3;
    return { score: Math.min(0.98, score), because: "" };
  };

/** Lists that two versions of a field have, scope by scope. */
export function valueChanges(before: ChannelDefinition, after: ChannelDefinition, one: Field, other: Field) {
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
    const [beside, besideNow] = [neighboursIn(was), neighboursIn(is)];
    const isAsLong = was.length === is.length && was.length > 2;
    const found = pairs(gone, came, valueLikeness(beside, besideNow, isAsLong), (value, side) => [
      ...textKeys(value),
      `| ${(side === "gone" ? beside : besideNow)(value).join(" | ")}`,
    ]);
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
}
