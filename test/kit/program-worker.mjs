// Runs command lines of the built program in one thread that has its modules loaded, one after the other.
import { Readable } from "node:stream";
import { parentPort, workerData } from "node:worker_threads";

const { runCommandLine } = await import(workerData.program);
const signal = new Int32Array(workerData.signal);

parentPort.on("message", async ({ cwd, args, env, input, port }) => {
  let [out, err] = ["", ""];
  let exit;
  try {
    exit = await runCommandLine(args, {
      out: (text) => (out += text),
      err: (text) => (err += text),
      columns: Number(env.COLUMNS),
      isTerminal: false,
      colors: false,
      errorColors: false,
      page: undefined,
      isAttended: false,
      ask: () => Promise.resolve(undefined),
      input: Readable.from(input === undefined ? [] : [Buffer.from(input)]),
      now: () => new Date(),
      environment: env,
      cwd,
    });
  } catch (error) {
    err += `not caught: ${error instanceof Error ? error.stack : String(error)}`;
    exit = null;
  }
  port.postMessage({ exit, out, err });
  Atomics.store(signal, 0, 1);
  Atomics.notify(signal, 0);
});
