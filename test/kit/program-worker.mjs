// Runs command lines of the built program in one thread that has its modules loaded: one after the other where the caller
// waits for the answer, beside each other what goes on until it is ended (a sandbox).
import { parentPort, workerData } from "node:worker_threads";
import { worldOf } from "./io.mjs";

const { runCommandLine } = await import(workerData.program);
const signal = new Int32Array(workerData.signal);

/** How each that goes on is ended, by its number. */
const endings = new Map();

const answer = async ({ cwd, args, env, input, terminal, port }) => {
  let [out, err] = ["", ""];
  const pages = [];
  let exit;
  try {
    const take = { out: (text) => (out += text), err: (text) => (err += text) };
    exit = await runCommandLine(args, {
      ...worldOf({ ...take, cwd, environment: env, input }),
      ...(terminal === undefined ? {} : { isTerminal: true, page: (text) => pages.push(text), ...terminal }),
    });
  } catch (error) {
    err += `not caught: ${error instanceof Error ? error.stack : String(error)}`;
    exit = null;
  }
  port.postMessage({ exit, out, err, ...(terminal === undefined ? {} : { pages }) });
  Atomics.add(signal, 0, 1);
  Atomics.notify(signal, 0);
};

const goOn = async ({ number, cwd, args, env }) => {
  const ended = new Promise((resolve) => endings.set(number, resolve));
  const say = (out) => parentPort.postMessage({ number, out });
  const io = worldOf({ cwd, environment: env, out: say, err: (text) => process.stderr.write(text), ended });
  parentPort.postMessage({ number, exit: await runCommandLine(args, io) });
};

parentPort.on("message", (message) => {
  if (message.end !== undefined) endings.get(message.end)?.();
  else if (message.number === undefined) void answer(message);
  else void goOn(message);
});
