/** What a source gave by rules that it no longer has, revision by revision. */
import { ownOf } from "../../core/own.js";
import type { RevisionPlan, SourceRules } from "../store.js";
import type { Revision } from "./revisions.js";

/** What a source gave by rules that are no longer its own. */
export interface FormerReading {
  /** Attributes that any revision gave by other rules. */
  readonly attributes: ReadonlySet<string>;
  /** Whether it was by such rules that a revision gave an attribute. */
  isStale(attribute: string, revision: number): boolean;
}

/**
 * What the source read by other rules before, revision by revision: each value is held against the rules of the revision
 * that gave it. What another source of the layer gave stays.
 */
export function formerReading(
  { layer, source, rules, kind }: RevisionPlan,
  revisions: ReadonlyMap<number, Revision>,
): FormerReading | undefined {
  if (rules === undefined || kind !== "import") return undefined;
  const ruleFor = ({ columns, rest }: SourceRules, attribute: string): string =>
    `${ownOf(columns, attribute) ?? ""}\u0000${rest}`;
  const stale = new Map<number, ReadonlySet<string>>();
  for (const one of revisions.values()) {
    const { rules: former } = one;
    if (one.layer !== layer || !one.live || one.kind === "undo" || one.source !== source) continue;
    if (former === undefined) continue;
    const others = one.columns
      .map(({ attribute }) => attribute)
      .filter((name) => name !== "sku" && ruleFor(former, name) !== ruleFor(rules, name));
    if (others.length > 0) stale.set(one.id, new Set(others));
  }
  if (stale.size === 0) return undefined;
  return {
    attributes: new Set([...stale.values()].flatMap((names) => [...names])),
    isStale: (attribute, revision) => stale.get(revision)?.has(attribute) === true,
  };
}
