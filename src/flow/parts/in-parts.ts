/**
 * Work on the catalogue in stretches: made by this thread or by hands, joined in catalogue order, so that the outcome
 * does not tell how many worked.
 */
import {
  idRegister,
  type IdRegister,
  type IdsBefore,
  type ListedId,
} from "../../core/listing/check/listed-ids.js";
import type { FamilyRange } from "../../store/store.js";
import { startWorkers, type Recipe } from "./workers.js";

/** Works on one stretch of the catalogue; what comes of it is data, whoever works. */
export type PartWork<T> = (
  range: FamilyRange,
  /** Of each channel: ids that came in stretches before. */
  before?: readonly IdsBefore[],
) => Promise<T>;

/** Work on the catalogue stretch by stretch, whose pieces are joined in catalogue order. */
export interface InParts<T> {
  readonly stretches: readonly FamilyRange[];
  /** Threads that work beside this one, which then only joins; with one or none, this one does all. */
  readonly workers: number;
  /** What the catalogue looks like to this thread: workers that see another one are of no use. */
  readonly seen: string;
  readonly recipe: Omit<Recipe, "sharing">;
  /** For workers: the SKUs of products that have a barcode in common. */
  sharing(): Promise<Recipe["sharing"]>;
  /** Prepares the work in this thread. */
  here(): Promise<PartWork<T>>;
  /** The ids of a piece's listings, by channel: where one came in a stretch before, the piece is made anew, knowing that. */
  idsOf(made: T): readonly (readonly ListedId[])[];
  join(made: T, range: FamilyRange): void | Promise<void>;
}

/** So many pieces a worker may be ahead of what was joined: memory stays flat where joining is slow. */
const AHEAD = 3;

const registersFor = ({ recipe }: Pick<InParts<unknown>, "recipe">): readonly IdRegister[] =>
  recipe.channels.map(() => idRegister());

async function alone<T>(wishes: InParts<T>): Promise<void> {
  const { stretches, here, idsOf, join } = wishes;
  const work = await here();
  const registers = registersFor(wishes);
  for (const range of stretches) {
    const made = await work(range, registers);
    for (const [at, ids] of idsOf(made).entries()) registers[at]?.add(ids);
    await join(made, range);
  }
}

/** Joins pieces that were made without knowing of each other, in their order: one with ids that came before is made anew, here. */
export function inOrder<T>(
  wishes: Omit<InParts<T>, "stretches" | "workers">,
): (range: FamilyRange, made: T) => Promise<void> {
  const { here, idsOf, join } = wishes;
  const registers = registersFor(wishes);
  let work: PartWork<T> | undefined;
  return async (range, made) => {
    const before = idsOf(made).map((ids, at) => registers[at]?.met(ids) ?? new Map<string, never>());
    const isMet = before.some(({ size }) => size > 0);
    const settled = isMet ? await (work ??= await here())(range, before) : made;
    for (const [at, ids] of idsOf(settled).entries()) registers[at]?.add(ids);
    await join(settled, range);
  };
}

/** Pieces that came and were not joined yet, and whoever waits for some. */
class Waiting<T> {
  private readonly made = new Map<number, T>();
  private joined = 0;
  private wake: (() => void)[] = [];

  constructor(private readonly ahead: number) {}

  put(at: number, made: T): void {
    this.made.set(at, made);
    this.tell();
  }

  async take(at: number): Promise<T> {
    while (!this.made.has(at)) await this.change();
    const made = this.made.get(at) as T;
    this.made.delete(at);
    this.joined = at + 1;
    this.tell();
    return made;
  }

  /** Waits until a piece may be begun. */
  async room(at: number): Promise<void> {
    while (at >= this.joined + this.ahead) await this.change();
  }

  private change(): Promise<void> {
    return new Promise((resolve) => this.wake.push(resolve));
  }

  private tell(): void {
    for (const wake of this.wake.splice(0)) wake();
  }
}

async function together<T>(wishes: InParts<T>): Promise<void> {
  const { stretches, workers, seen } = wishes;
  const recipe = { ...wishes.recipe, sharing: await wishes.sharing() };
  const take = inOrder(wishes);
  const count = Math.min(workers, stretches.length);
  const started = startWorkers<T>(count, recipe, seen);
  const waiting = new Waiting<T>(count * AHEAD);
  let next = 0;
  const worker = async (work: PartWork<T>): Promise<void> => {
    for (let at = next++; at < stretches.length; at = next++) {
      await waiting.room(at);
      const range = stretches[at];
      if (range !== undefined) waiting.put(at, await work(range));
    }
  };
  const joining = async (): Promise<void> => {
    for (const [at, range] of stretches.entries()) await take(range, await waiting.take(at));
  };
  try {
    await Promise.all([joining(), ...started.work.map(worker)]);
  } finally {
    await started.end();
  }
}

/**
 * Works on all stretches and joins what came of them, in catalogue order.
 * @throws what a worker was refused, or a Refusal where one ended before its work was done
 */
export const inParts = <T>(wishes: InParts<T>): Promise<void> =>
  wishes.workers > 1 && wishes.stretches.length > 1 ? together(wishes) : alone(wishes);
