import { availableParallelism } from "node:os";
import type { FamilyRange, Store } from "../../store/store.js";
import { STRETCH } from "../run-channels.js";

/** Stretches for each worker at least, so that none waits long for the last. */
const EACH = 4;

// A worker has to open the workspace first: of fewer stretches than these, one thread is done before.
const WORTH_IT = 8;

export interface Spread {
  readonly stretches: readonly FamilyRange[];
  /** Threads at work. */
  readonly workers: number;
}

/** How the catalogue is spread: over as many threads as a person says, or else as there are cores. */
export const spreadOver = async (
  store: Store,
  asked: number | undefined,
  within?: FamilyRange,
): Promise<Spread> => {
  const stretches = await store.stretches((asked ?? 1) * EACH, STRETCH, within);
  return { stretches, workers: asked ?? (stretches.length < WORTH_IT ? 1 : availableParallelism()) };
};
