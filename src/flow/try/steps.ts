/** The parts of an expression at work, with what each came to. */
import type { Observe } from "../../core/language/compiler.js";
import type { MaybeBlank } from "../../core/values/value.js";

/** One part of the expression, with what it came to. */
export interface TriedStep {
  readonly text: string;
  readonly value: MaybeBlank;
  /** Parts of parts lie deeper. */
  readonly depth: number;
  readonly name: string | undefined;
}

interface SeenStep {
  readonly start: number;
  readonly end: number;
  readonly value: MaybeBlank;
  readonly name: string | undefined;
}

/** Parts in the order in which they stand, each once; what is written out needs no line. */
function stepsOf(seen: readonly SeenStep[], text: string): readonly TriedStep[] {
  const within = (inner: SeenStep, outer: SeenStep): boolean =>
    inner !== outer && inner.start >= outer.start && inner.end <= outer.end;
  return seen.map((one) => ({
    text: text.slice(one.start, one.end).replace(/\s+/g, " "),
    value: one.value,
    depth: seen.filter((other) => within(one, other)).length,
    name: one.name,
  }));
}

/** Watches an expression at work; its parts can be asked for when it has run. */
export interface StepWatch {
  readonly observe: Observe;
  begin(): void;
  /** The parts of the expression with this text. */
  steps(text: string): readonly TriedStep[];
}

/** Begins to watch. */
export function stepWatch(): StepWatch {
  let seen: SeenStep[] = [];
  return {
    observe: ({ node, span, ...rest }, value) => {
      const name = node === "name" && "name" in rest ? rest.name : undefined;
      if (node !== "literal" && node !== "blank") seen.push({ ...span, value, name });
    },
    begin: () => {
      seen = [];
    },
    steps: (text) => stepsOf(seen, text),
  };
}
