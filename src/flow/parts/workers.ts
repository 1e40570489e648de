import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { FamilyRange } from "../../store/store.js";
import { WorkerThread } from "./worker-thread.js";

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

/** Threads at work on stretches of the catalogue. */
export interface Workers<T> {
  /** What each does with the next stretch. */
  readonly work: readonly ((range: FamilyRange) => Promise<T>)[];
  end(): Promise<void>;
}

/** Starts workers; each opens the workspace by itself and says so when it is first asked. */
export function startWorkers<T>(count: number, recipe: Recipe, seen: string): Workers<T> {
  const doing = recipe.work === "readiness" ? "count" : recipe.work;
  const otherwise = diagnostic("catalogue-changed", { doing });
  const threads = Array.from({ length: count }, () => new WorkerThread({ recipe, seen, otherwise }));
  return {
    work: threads.map((thread) => (range: FamilyRange) => thread.ask(range) as Promise<T>),
    async end() {
      await Promise.all(threads.map((thread) => thread.end()));
    },
  };
}
