import { addAll } from "../many.js";
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

/** Takes findings and keeps only their causes, so that memory does not grow with the catalogue. */
export interface CauseCollector {
  add(finding: Diagnostic): void;
  /** Takes all findings of one product, and sees which of them keeps it back alone. */
  addAll(findings: readonly Diagnostic[]): void;
  count(severity: Severity): number;
  /** Whether any finding had this code. */
  has(code: Code): boolean;
  /** Errors first; within a severity by the number of products. */
  causes(): readonly Cause[];
  /** Findings by their code, most first. */
  byCode(): ReadonlyMap<Code, number>;
  /** All that it has taken, as data. */
  plain(): PlainCauses;
  /** Takes what another one had taken of products that come behind those of this one. */
  join(further: PlainCauses): void;
}

/** A cause with its categories by name. */
interface PlainCause extends Omit<Cause, "categories"> {
  readonly categories: readonly string[];
}

/** What a collector has taken, in the order in which it came. */
export interface PlainCauses {
  readonly causes: readonly PlainCause[];
  readonly counts: Readonly<Record<Severity, number>>;
  readonly codes: readonly (readonly [Code, number])[];
}

const keyOf = (finding: Diagnostic): string => {
  const { code, facts, channel, field, severity } = finding;
  return [code, severity, channel ?? "", field ?? "", entryOf(finding).apart(facts)].join("\u0000");
};

const severityOrder: Readonly<Record<Severity, number>> = { error: 0, warning: 1, advice: 2 };

interface Growing {
  readonly first: Diagnostic;
  products: number;
  alone: number;
  lastProduct: string | undefined;
  readonly categories: Set<string>;
  readonly examples: Diagnostic[];
}

export const causeCollector = (most = EXAMPLES): CauseCollector => {
  const causes = new Map<string, Growing>();
  const counts: Record<Severity, number> = { error: 0, warning: 0, advice: 0 };
  const codes = new Map<Code, number>();
  const causeOf = (finding: Diagnostic): Growing => {
    const key = keyOf(finding);
    const known = causes.get(key);
    if (known !== undefined) return known;
    const cause: Growing = {
      ...{ first: finding, products: 0, alone: 0, lastProduct: undefined },
      ...{ categories: new Set(), examples: [] },
    };
    causes.set(key, cause);
    return cause;
  };
  const add = (finding: Diagnostic): Growing => {
    counts[finding.severity]++;
    codes.set(finding.code, (codes.get(finding.code) ?? 0) + 1);
    const cause = causeOf(finding);
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
      const errors = new Set<Growing>();
      for (const finding of findings) {
        const cause = add(finding);
        if (finding.severity === "error") errors.add(cause);
      }
      if (errors.size === 1) for (const cause of errors) cause.alone++;
    },
    plain: () => ({
      causes: [...causes.values()].map(({ first, products, alone, categories, examples }) => ({
        ...{ first, products, alone, examples },
        categories: [...categories],
      })),
      counts: { ...counts },
      codes: [...codes],
    }),
    join(further) {
      for (const severity of ["error", "warning", "advice"] as const)
        counts[severity] += further.counts[severity];
      for (const [code, count] of further.codes) codes.set(code, (codes.get(code) ?? 0) + count);
      for (const { first, products, alone, categories, examples } of further.causes) {
        const cause = causeOf(first);
        cause.products += products;
        cause.alone += alone;
        for (const category of categories) cause.categories.add(category);
        addAll(cause.examples, examples.slice(0, most - cause.examples.length));
      }
    },
    count: (severity) => counts[severity],
    has: (code) => codes.has(code),
    byCode: () => new Map([...codes].sort((a, b) => b[1] - a[1])),
    causes: () =>
      [...causes.values()]
        .sort(
          (a, b) =>
            severityOrder[a.first.severity] - severityOrder[b.first.severity] || b.products - a.products,
        )
        .map(({ first, products, alone, categories, examples }) => ({
          ...{ first, products, alone, examples },
          categories: categories.size,
        })),
  };
};
