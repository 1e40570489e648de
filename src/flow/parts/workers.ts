import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { FamilyRange } from "../../store/store.js";
import { Hand } from "./hand.js";

/** What a worker is to do, as data: it opens the workspace itself. */
export interface Recipe {
  readonly work: "check" | "build" | "readiness";
  /** The workspace's folder. */
  readonly root: string;
  /** The day of the run, ISO 8601. */
  readonly today: string;
  readonly channels: readonly string[];
  /** The SKUs of products that have a barcode in common: to find them is a pass over all keys. */
  readonly sharing: readonly (readonly string[])[];
  /** What a person wished, for the work itself to read. */
  readonly wishes: object;
}

/** Workers at work on stretches. */
export interface Crew<T> {
  readonly workers: readonly ((range: FamilyRange) => Promise<T>)[];
  end(): Promise<void>;
}

/** Starts workers; each opens the workspace by itself and says so when it is first asked. */
export const startCrew = <T>(count: number, recipe: Recipe, seen: string): Crew<T> => {
  const doing = recipe.work === "readiness" ? "count" : recipe.work;
  const otherwise = diagnostic("catalogue-changed", { doing });
  const hands = Array.from({ length: count }, () => new Hand({ recipe, seen, otherwise }));
  return {
    workers: hands.map((hand) => (range: FamilyRange) => hand.ask(range) as Promise<T>),
    async end() {
      await Promise.all(hands.map((hand) => hand.end()));
    },
  };
};
