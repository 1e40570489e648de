/**
 * Findings folded into causes as they come, in memory that does not grow with the catalogue: counts, a few examples,
 * the products held.
 */
import { opensMore } from "./act.js";
import { actFor } from "./entry.js";
import { entryOf } from "./entry.js";
import type { Code } from "./findings/findings.js";
import type { Diagnostic, Severity } from "./diagnostic.js";

const EXAMPLES = 3;

/** Findings that one act would settle: the same code, field and offending value. */
export interface Cause {
  readonly first: Diagnostic;
  readonly products: number;
  /** Products that nothing else keeps from the channel. */
  readonly alone: number;
  readonly categories: number;
  /** The first few findings, for examples. */
  readonly examples: readonly Diagnostic[];
}

/** Takes the findings of a product once more, for another one, which has no others. */
export type TakeAgain = () => void;

/** Takes findings and keeps only their causes, so that memory does not grow with the catalogue. */
export interface CauseCollector {
  add(finding: Diagnostic): void;
  /**
   * Takes all findings of one product, and sees which of them keeps it back alone. Gives what takes the same findings of
   * another product, where no more examples of them are wanted.
   */
  addAll(findings: readonly Diagnostic[]): TakeAgain | undefined;
  count(severity: Severity): number;
  /** Whether any finding had this code. */
  has(code: Code): boolean;
  /** Errors first; within a severity by the number of products. */
  causes(): readonly Cause[];
  /** Findings by their code, most first. */
  byCode(): ReadonlyMap<Code, number>;
}

function keyOf(finding: Diagnostic): string {
  const { code, facts, channel, field, severity } = finding;
  return [code, severity, channel ?? "", field ?? "", entryOf(finding).apart(facts)].join("\u0000");
}

const severityOrder: Readonly<Record<Severity, number>> = { error: 0, warning: 1, advice: 2 };

interface GrowingCause {
  readonly first: Diagnostic;
  findings: number;
  products: number;
  alone: number;
  lastProduct: string | undefined;
  readonly categories: Set<string>;
  readonly examples: Diagnostic[];
}

/** How many findings there are of each kind. */
function tally<K>(
  causes: Iterable<GrowingCause>,
  kindOf: (cause: GrowingCause) => K,
): ReadonlyMap<K, number> {
  const counts = new Map<K, number>();
  for (const cause of causes) counts.set(kindOf(cause), (counts.get(kindOf(cause)) ?? 0) + cause.findings);
  return counts;
}

/** Begins to collect; so many examples are kept of each. */
export function causeCollector(most = EXAMPLES): CauseCollector {
  const causes = new Map<string, GrowingCause>();
  const causeOf = (finding: Diagnostic): GrowingCause => {
    const key = keyOf(finding);
    const known = causes.get(key);
    if (known !== undefined) return known;
    const cause: GrowingCause = {
      first: finding,
      findings: 0,
      products: 0,
      alone: 0,
      lastProduct: undefined,
      categories: new Set(),
      examples: [],
    };
    causes.set(key, cause);
    return cause;
  };
  const add = (finding: Diagnostic): GrowingCause => {
    const cause = causeOf(finding);
    cause.findings++;
    // One product's findings come together: two of one cause count as one product.
    if (finding.product === undefined || finding.product !== cause.lastProduct) {
      cause.products++;
      if (cause.examples.length < most) cause.examples.push(finding);
    }
    cause.lastProduct = finding.product;
    if (finding.category !== undefined) cause.categories.add(finding.category);
    return cause;
  };
  return {
    add: (finding) => void add(finding),
    addAll(findings) {
      const own = findings.map(add);
      const errors = new Set(own.filter((_, at) => findings[at]?.severity === "error"));
      // What shows more once it is done keeps nothing back alone, as far as anyone can tell.
      const isOpen = findings.some((finding) => finding.severity === "error" && opensMore(actFor(finding)));
      const [alone] = errors.size === 1 && !isOpen ? errors : [];
      if (alone !== undefined) alone.alone++;
      if (own.some(({ examples }) => examples.length < most)) return undefined;
      const different = [...new Set(own)];
      return () => {
        for (const cause of own) cause.findings++;
        for (const cause of different) {
          cause.products++;
          cause.lastProduct = undefined;
        }
        if (alone !== undefined) alone.alone++;
      };
    },
    count: (severity) => tally(causes.values(), ({ first }) => first.severity).get(severity) ?? 0,
    has: (code) => [...causes.values()].some(({ first }) => first.code === code),
    byCode: () => new Map([...tally(causes.values(), ({ first }) => first.code)].sort((a, b) => b[1] - a[1])),
    causes: () =>
      [...causes.values()]
        .sort(
          (a, b) =>
            severityOrder[a.first.severity] - severityOrder[b.first.severity] || b.products - a.products,
        )
        .map(({ first, products, alone, categories, examples }) => ({
          first,
          products,
          alone,
          examples,
          categories: categories.size,
        })),
  };
}
