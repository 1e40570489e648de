import type { FamilyRange } from "../../store/store.js";
import { startCrew, type Recipe } from "./crew.js";

/** Works on one stretch of the catalogue; what comes of it is data, whoever works. */
export type PartWork<T> = (range: FamilyRange) => Promise<T>;

/** Work on the catalogue stretch by stretch, whose pieces are joined in catalogue order. */
export interface InParts<T> {
  readonly stretches: readonly FamilyRange[];
  /** Threads that work beside this one, which then only joins; with one or none, this one does all. */
  readonly workers: number;
  /** What the catalogue looks like to this thread: workers that see another one are of no use. */
  readonly seen: string;
  readonly recipe: Recipe;
  /** Prepares the work in this thread. */
  here(): Promise<PartWork<T>>;
  join(made: T): void | Promise<void>;
}

/** So many pieces a worker may be ahead of what was joined: memory stays flat where joining is slow. */
const AHEAD = 3;

const alone = async <T>({ stretches, here, join }: InParts<T>): Promise<void> => {
  const work = await here();
  for (const range of stretches) await join(await work(range));
};

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

const together = async <T>({ stretches, workers, seen, recipe, join }: InParts<T>): Promise<void> => {
  const count = Math.min(workers, stretches.length);
  const crew = startCrew<T>(count, recipe, seen);
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
    for (let at = 0; at < stretches.length; at++) await join(await waiting.take(at));
  };
  try {
    await Promise.all([joining(), ...crew.workers.map(worker)]);
  } finally {
    await crew.end();
  }
};

/**
 * Works on all stretches and joins what came of them, in catalogue order.
 * @throws what a worker was refused, or a Refusal where one ended before its work was done
 */
export const inParts = <T>(wishes: InParts<T>): Promise<void> =>
  wishes.workers > 1 && wishes.stretches.length > 1 ? together(wishes) : alone(wishes);
