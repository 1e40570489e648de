/** What a person said of the guesses, kept whenever papers are read again. */
import type { Fact } from "./claim.js";
import type { SettledFacts, Settled } from "./settle.js";

/** What a person said of the guesses: stays, however often the channel's papers are read again. */
export interface GuessCorrection {
  /** "" for the channel as a whole. */
  readonly field: string;
  readonly scope: string;
  readonly fact: string;
  /** "-" takes the guess away. */
  readonly value: string;
}

/** A person's words, ready to be asked. */
export interface Corrections {
  applied(field: string, scope: string, facts: SettledFacts): Map<Fact, Settled>;
  ofChannel(): ReadonlyMap<string, string>;
  readonly all: readonly GuessCorrection[];
}

/** Makes them ready; of two on one thing the later counts. */
export function corrections(all: readonly GuessCorrection[]): Corrections {
  const byField = new Map<string, GuessCorrection[]>();
  for (const one of all) {
    const key = `${one.field}\u0000${one.scope}`;
    byField.set(key, [...(byField.get(key) ?? []), one]);
  }
  return {
    all,
    applied(field, scope, facts) {
      const found = new Map<Fact, Settled>(facts);
      for (const { fact, value } of byField.get(`${field}\u0000${scope}`) ?? []) {
        const before = found.get(fact as Fact);
        if (value === "-") found.delete(fact as Fact);
        else
          found.set(fact as Fact, {
            ...(before ?? { from: { file: "", sheet: "", at: "" } }),
            fact: fact as Fact,
            value,
            confidence: 1,
            because: "corrected",
            against: [],
            isCorrected: true,
          });
      }
      return found;
    },
    ofChannel: () => new Map(all.filter(({ field }) => field === "").map(({ fact, value }) => [fact, value])),
  };
}
