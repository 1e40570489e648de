/**
 * Work in other threads, driven one question at a time: a worker is told what to do, answers when it is asked, and says why
 * it cannot.
 */
import { once } from "node:events";
import { setTimeout as pause } from "node:timers/promises";
import { Worker } from "node:worker_threads";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal, type RefusalExit } from "../../core/diagnostics/refusal.js";

/** What a worker says: that it is ready and what it sees, what came of what it was asked, or why it cannot go on. */
export type WorkerSaid =
  | { readonly said: "ready"; readonly seen: string }
  | { readonly said: "made"; readonly asked: number; readonly made: unknown }
  | { readonly said: "refused"; readonly findings: readonly Diagnostic[]; readonly exit: RefusalExit }
  | { readonly said: "failed"; readonly reason: string };

/** Said to a worker that is to close what it opened. */
export const END = "end";

/** What came of what a worker was asked, and what of it is handed over rather than copied. */
export interface Handed {
  readonly made: unknown;
  readonly memory: readonly ArrayBuffer[];
}

/** A worker's work, once it can begin. */
export interface Begun {
  /** What this thread sees. */
  readonly seen: string;
  work(what: unknown): Promise<Handed>;
  end(): Promise<void>;
}

/** What a worker is for, as data. */
export interface Task {
  readonly recipe: object;
  /** Memory that is handed over rather than copied. */
  readonly memory?: readonly ArrayBuffer[];
  /** What this thread sees: a worker that sees something else is of no use. */
  readonly seen: string;
  /** Why, where it does. */
  readonly otherwise: Diagnostic;
}

const program = new URL("../workers/worker.js", import.meta.url);

// Much lives for one stretch alone: with room for it, it is never moved to where the old things are.
const YOUNG_MEGABYTES = 24;

const READY = 0;

const END_MILLISECONDS = 1000;

const ended = (reason: string): Refusal => new Refusal([diagnostic("worker-ended", { reason })], 3);

/** What a worker is asked; its answer has the same number. */
export interface WorkerQuestion {
  readonly asked: number;
  readonly what: unknown;
}

interface Waiter {
  readonly resolve: (made: unknown) => void;
  readonly reject: (error: Error) => void;
}

/** One worker. It may be asked again before it has answered. */
export class WorkerThread {
  private readonly worker: Worker;
  /** Those who wait for answers, by the number of what was asked; for its being ready, by none. */
  private readonly waiters = new Map<number, Waiter>();
  private asked = READY;
  private fault: Error | undefined;
  private readonly ready: Promise<unknown>;

  constructor({ recipe, memory = [], seen, otherwise }: Task) {
    this.worker = new Worker(program, {
      workerData: recipe,
      transferList: [...memory],
      resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MEGABYTES },
      execArgv: [],
    });
    this.worker.on("message", (said: WorkerSaid) => {
      if (said.said === "ready" && said.seen !== seen) this.fail(new Refusal([otherwise], 3));
      else this.heard(said);
    });
    this.worker.on("error", (error) => this.fail(ended(error.message)));
    this.worker.on("exit", (code) => this.fail(ended(`it ended with ${code}`)));
    this.ready = this.answer(READY);
    // Told with the first answer, to whoever asks for that.
    this.ready.catch(() => undefined);
  }

  /** @throws what the worker was refused, or a Refusal where it ended before it answered */
  async ask(what: unknown): Promise<unknown> {
    await this.ready;
    const asked = ++this.asked;
    const answer = this.answer(asked);
    this.worker.postMessage({ asked, what } satisfies WorkerQuestion);
    return answer;
  }

  /** Lets the worker close what it opened, and waits no longer for it than that takes. */
  async end(): Promise<void> {
    this.waiters.clear();
    if (this.fault === undefined) {
      const left = once(this.worker, "exit").catch(() => undefined);
      this.worker.postMessage(END);
      await Promise.race([left, pause(END_MILLISECONDS, undefined, { ref: false })]);
    }
    await this.worker.terminate();
  }

  private answer(asked: number): Promise<unknown> {
    return new Promise((resolve, reject) => {
      if (this.fault === undefined) this.waiters.set(asked, { resolve, reject });
      else reject(this.fault);
    });
  }

  private heard(said: WorkerSaid): void {
    if (said.said === "refused") this.fail(new Refusal(said.findings, said.exit));
    else if (said.said === "failed") this.fail(ended(said.reason));
    else {
      const asked = said.said === "made" ? said.asked : READY;
      const waiter = this.waiters.get(asked);
      this.waiters.delete(asked);
      waiter?.resolve(said.said === "made" ? said.made : undefined);
    }
  }

  private fail(fault: Error): void {
    this.fault ??= fault;
    for (const { reject } of this.waiters.values()) reject(this.fault);
    this.waiters.clear();
  }
}
