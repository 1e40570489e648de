import { availableParallelism } from "node:os";
import type { FamilyRange, Store } from "../../store/store.js";
import { STRETCH } from "../run-channels.js";

const LEAST = 250;

/** Stretches for each worker at least, so that none waits long for the last. */
const EACH = 4;

// A worker has to open the workspace first: of fewer stretches than these, one thread is done before.
const WORTH_IT = 8;

/** How work is shared out. */
export interface Spread {
  readonly stretches: readonly FamilyRange[];
  /** Threads at work. */
  readonly workers: number;
}

/** How many threads are worth it. */
export const workersFor = (stretches: readonly FamilyRange[], asked: number | undefined): number =>
  asked ?? (stretches.length < WORTH_IT ? 1 : availableParallelism());

/** How the catalogue is spread: over as many threads as a person says, or else as there are cores. */
export async function spreadOver(
  store: Store,
  asked: number | undefined,
  /** For each of them a stretch brings something to hold. */
  channels: number,
  within?: FamilyRange,
): Promise<Spread> {
  const most = Math.max(LEAST, Math.floor(STRETCH / channels));
  const stretches = await store.stretches((asked ?? 1) * EACH, most, within);
  return { stretches, workers: workersFor(stretches, asked) };
}
