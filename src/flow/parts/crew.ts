import { once } from "node:events";
import { setTimeout as pause } from "node:timers/promises";
import { Worker } from "node:worker_threads";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal, type RefusalExit } from "../../core/diagnostics/refusal.js";
import type { FamilyRange } from "../../store/store.js";

/** What a worker is to do, as data: it opens the workspace itself. */
export interface Recipe {
  readonly work: "check" | "build";
  /** The workspace's folder. */
  readonly root: string;
  /** The day of the run, ISO 8601. */
  readonly today: string;
  readonly channels: readonly string[];
  /** What a person wished, for the work itself to read. */
  readonly wishes: object;
}

/** What a worker says: that it is ready and what it sees, what came of a stretch, or why it cannot go on. */
export type Said =
  | { readonly said: "ready"; readonly seen: string }
  | { readonly said: "made"; readonly made: unknown }
  | { readonly said: "refused"; readonly findings: readonly Diagnostic[]; readonly exit: RefusalExit }
  | { readonly said: "failed"; readonly reason: string };

export interface Crew<T> {
  readonly workers: readonly ((range: FamilyRange) => Promise<T>)[];
  end(): Promise<void>;
}

const program = new URL("../workers/worker.js", import.meta.url);

// Much lives for one stretch alone: with room for it, it is never moved to where the old things are.
const YOUNG_MEGABYTES = 24;

const END_MILLISECONDS = 1000;

const ended = (reason: string): Refusal => new Refusal([diagnostic("worker-ended", { reason })], 3);

interface Waiter {
  readonly resolve: (said: Said) => void;
  readonly reject: (error: Error) => void;
}

/** One worker, that is asked one thing after the other. */
class Hand<T> {
  private readonly worker: Worker;
  private waiter: Waiter | undefined;
  private fault: Error | undefined;
  private readonly ready: Promise<void>;

  constructor(
    private readonly recipe: Recipe,
    seen: string,
  ) {
    this.worker = new Worker(program, {
      workerData: recipe,
      resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MEGABYTES },
      execArgv: [],
    });
    this.worker.on("message", (said: Said) => this.heard(said));
    this.worker.on("error", (error) => this.fail(ended(error.message)));
    this.worker.on("exit", (code) => this.fail(ended(`it ended with ${code}`)));
    this.ready = this.first(seen);
    // Told with the first stretch, to whoever asks for that.
    this.ready.catch(() => undefined);
  }

  async part(range: FamilyRange): Promise<T> {
    await this.ready;
    const said = await this.ask(range);
    if (said.said !== "made") throw new Error(`a worker said ${said.said}`);
    return said.made as T;
  }

  /** Lets the worker close what it opened, and waits no longer for it than that takes. */
  async end(): Promise<void> {
    this.waiter = undefined;
    if (this.fault === undefined) {
      const left = once(this.worker, "exit").catch(() => undefined);
      this.worker.postMessage("end");
      await Promise.race([left, pause(END_MILLISECONDS, undefined, { ref: false })]);
    }
    await this.worker.terminate();
  }

  private async first(seen: string): Promise<void> {
    const said = await this.answer();
    if (said.said === "ready" && said.seen !== seen)
      throw new Refusal([diagnostic("catalogue-changed", { doing: this.recipe.work })], 3);
  }

  private ask(range: FamilyRange): Promise<Said> {
    const answer = this.answer();
    this.worker.postMessage(range);
    return answer;
  }

  private answer(): Promise<Said> {
    return new Promise((resolve, reject) => {
      if (this.fault === undefined) this.waiter = { resolve, reject };
      else reject(this.fault);
    });
  }

  private heard(said: Said): void {
    if (said.said === "refused") this.fail(new Refusal(said.findings, said.exit));
    else if (said.said === "failed") this.fail(ended(said.reason));
    else {
      const { waiter } = this;
      this.waiter = undefined;
      waiter?.resolve(said);
    }
  }

  private fail(fault: Error): void {
    this.fault ??= fault;
    this.waiter?.reject(this.fault);
    this.waiter = undefined;
  }
}

/** Starts workers; each opens the workspace by itself and says so when it is first asked. */
export const startCrew = <T>(count: number, recipe: Recipe, seen: string): Crew<T> => {
  const hands = Array.from({ length: count }, () => new Hand<T>(recipe, seen));
  return {
    workers: hands.map((hand) => (range: FamilyRange) => hand.part(range)),
    async end() {
      await Promise.all(hands.map((hand) => hand.end()));
    },
  };
};
