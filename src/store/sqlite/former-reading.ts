import { ownOf } from "../../core/own.js";
import type { RevisionPlan, SourceRules } from "../store.js";
import type { Revision } from "./revisions.js";

/**
 * The attributes that the source read by other rules before. Those that another source of the layer gives too stay: what
 * the layer says of them may be that one's word.
 */
export function formerReading(
  { layer, source, rules, kind }: RevisionPlan,
  revisions: ReadonlyMap<number, Revision>,
): { readonly revision: number; readonly attributes: ReadonlySet<string> } | undefined {
  if (rules === undefined || kind !== "import") return undefined;
  const inLayer = [...revisions.values()].filter(
    (one) => one.layer === layer && one.live && one.kind !== "undo",
  );
  const own = inLayer.filter((one) => one.source === source && one.rules !== undefined);
  const ruleFor = ({ columns, rest }: SourceRules, attribute: string): string =>
    `${ownOf(columns, attribute) ?? ""}\u0000${rest}`;
  const others = new Set(
    inLayer
      .filter((one) => one.source !== source)
      .flatMap(({ columns }) => columns.map(({ attribute }) => attribute)),
  );
  let revision: number | undefined;
  const attributes = new Set<string>();
  for (const one of own)
    for (const { attribute } of one.columns) {
      if (others.has(attribute) || attribute === "sku" || one.rules === undefined) continue;
      if (ruleFor(one.rules, attribute) === ruleFor(rules, attribute)) continue;
      attributes.add(attribute);
      revision = one.id;
    }
  return revision === undefined ? undefined : { revision, attributes };
}
