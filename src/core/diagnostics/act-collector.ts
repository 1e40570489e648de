/** Ranks acts by what they bring: a listing whose errors need one act alone becomes ready by it. */
import { actKey, opensMore, type Act } from "./act.js";
import { actFor } from "./entry.js";
import { isError, type Diagnostic } from "./diagnostic.js";

/** An act with what it brings. */
export interface RankedAct {
  readonly act: Act;
  /** Listings that become ready by this act alone. */
  readonly alone: number;
  /** Listings that need it, with others or without. */
  readonly listings: number;
  readonly channels: readonly string[];
  readonly example: string;
}

/** Takes each held listing's findings and tells which single act makes most of them ready. */
export interface ActCollector {
  take(sku: string, channel: string, findings: readonly Diagnostic[]): void;
  ranked(): readonly RankedAct[];
  /** The acts in the order in which they came, for {@link join}. */
  plain(): readonly RankedAct[];
  /** Takes what another collector took of listings behind these. */
  join(acts: readonly RankedAct[]): void;
}

interface GrowingAct {
  readonly act: Act;
  readonly example: string;
  readonly channels: Set<string>;
  alone: number;
  listings: number;
}

/** The acts that all errors of one listing need together. */
export function actsOf(findings: readonly Diagnostic[]): ReadonlyMap<string, Act> {
  const needed = new Map<string, Act>();
  for (const finding of findings) {
    if (!isError(finding)) continue;
    const act = actFor(finding);
    needed.set(actKey(act), act);
  }
  return needed;
}

/** Begins to collect. */
export function actCollector(): ActCollector {
  const acts = new Map<string, GrowingAct>();
  const growing = (key: string, act: Act, example: string): GrowingAct => {
    let own = acts.get(key);
    if (own === undefined) {
      own = { act, example, channels: new Set(), alone: 0, listings: 0 };
      acts.set(key, own);
    }
    return own;
  };
  const plain = (): RankedAct[] =>
    [...acts.values()].map(({ channels, ...act }) => ({ ...act, channels: [...channels] }));
  return {
    take(sku, channel, findings) {
      const needed = actsOf(findings);
      for (const [key, act] of needed) {
        const own = growing(key, act, sku);
        own.channels.add(channel);
        own.listings++;
        if (needed.size === 1 && !opensMore(act)) own.alone++;
      }
    },
    ranked: () => plain().sort((a, b) => b.alone - a.alone || b.listings - a.listings),
    plain,
    join(others) {
      for (const { act, example, channels, listings, alone } of others) {
        const own = growing(actKey(act), act, example);
        for (const channel of channels) own.channels.add(channel);
        own.listings += listings;
        own.alone += alone;
      }
    },
  };
}
