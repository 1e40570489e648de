/** How likely one field took another's place, and what moved in one that stayed. */
import type { ChannelDefinition } from "../channel/definition.js";
import type { Field, FieldRule, Limits } from "../channel/field.js";
import { isSlip } from "../values/nearest.js";
import { fold } from "../values/text.js";
import { valuesOf } from "./compare-values.js";
import type { DefinitionChange } from "./definition-change.js";
import { meaningOf } from "./meaning.js";
import { common } from "./pair-up.js";

/** Codes of the fields on both sides of one. */
export function neighbours(fields: readonly Field[], field: Field): readonly string[] {
  const at = fields.indexOf(field);
  return [fields[at - 1]?.code ?? "", fields[at + 1]?.code ?? ""];
}

/** How likely it is that one field took another's place: by name, meaning, values, and where it stands. */
export const fieldLikeness =
  (before: ChannelDefinition, after: ChannelDefinition) => (one: Field, other: Field) => {
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
export function movedIn(
  before: ChannelDefinition,
  after: ChannelDefinition,
  one: Field,
  other: Field,
): readonly DefinitionChange[] {
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
}
