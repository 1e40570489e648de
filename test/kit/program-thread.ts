// A thread that runs the built program's command lines, driven from a test that waits or goes on.
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { MessageChannel, receiveMessageOnPort, Worker } from "node:worker_threads";
import { environment, projectRoot, type Ran, type RunOptions } from "./process.js";

/** A command that goes on until it is ended. */
export interface Going {
  /** What it says, as it says it. */
  heard(listener: (out: string) => void): void;
  /** How it ends, whenever that is. */
  readonly ended: Promise<number>;
  /** Ends it as Ctrl+C would. */
  end(): Promise<number>;
}

export interface ProgramThread {
  /** Runs one line and waits for it. @throws Error where it gives no answer in time, or needs more memory than it may have */
  run(cwd: string, args: readonly string[], options?: RunOptions): Ran;
  start(cwd: string, args: readonly string[], env: Readonly<Record<string, string>>): Going;
}

interface Bounds {
  readonly seconds: number;
  /** The most that values of the program may take; undefined: no bound. */
  readonly heapMegabytes?: number;
}

/** Starts a thread with the built program's modules. It keeps no test from ending. */
export const programThread = ({ seconds, heapMegabytes }: Bounds): ProgramThread => {
  const shared = new SharedArrayBuffer(4);
  const signal = new Int32Array(shared);
  const worker = new Worker(new URL("program-worker.mjs", import.meta.url), {
    workerData: {
      program: pathToFileURL(join(projectRoot, "dist", "cli", "command-line.js")).href,
      signal: shared,
    },
    execArgv: [],
    ...(heapMegabytes === undefined ? {} : { resourceLimits: { maxOldGenerationSizeMb: heapMegabytes } }),
  });
  worker.unref();
  // One for each command that goes on: there may be any number.
  worker.setMaxListeners(0);
  let [count, isGone] = [0, false];
  worker.on("error", () => (isGone = true));
  return {
    run(cwd, args, { env = {}, input, terminal } = {}) {
      const { port1, port2 } = new MessageChannel();
      const end = performance.now() + seconds * 1000;
      let seen = Atomics.load(signal, 0);
      worker.postMessage({ cwd, args, env: environment(env), input, terminal, port: port2 }, [port2]);
      const received = () => receiveMessageOnPort(port1) as { readonly message: Ran } | undefined;
      let answer = received();
      // What wakes us may be the answer to the line before, which we had already: only a message is an answer.
      while (answer === undefined && performance.now() < end && !isGone) {
        Atomics.wait(signal, 0, seen, Math.max(1, end - performance.now()));
        seen = Atomics.load(signal, 0);
        answer = received();
      }
      port1.close();
      if (answer === undefined)
        throw new Error(
          `lexicant ${args.join(" ")} gave no answer within ${seconds} seconds${isGone ? ": its thread is gone" : ""}`,
        );
      return answer.message;
    },
    start(cwd, args, env) {
      const number = ++count;
      const listeners: ((out: string) => void)[] = [];
      const exit = new Promise<number>((resolve) => {
        const take = (message: { number: number; out?: string; exit?: number }): void => {
          if (message.number !== number) return;
          for (const listener of listeners) if (message.out !== undefined) listener(message.out);
          if (message.exit === undefined) return;
          worker.off("message", take);
          worker.unref();
          resolve(message.exit);
        };
        worker.on("message", take);
        worker.unref();
      });
      worker.postMessage({ number, cwd, args, env: environment(env) });
      return {
        ended: exit,
        heard: (listener) => void listeners.push(listener),
        end: () => {
          worker.postMessage({ end: number });
          return exit;
        },
      };
    },
  };
};
