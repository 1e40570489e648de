// Ends each thread of the program but the first when it is asked for its second piece of work.
import { isMainThread, parentPort } from "node:worker_threads";

if (!isMainThread) {
  let asked = 0;
  parentPort.on("message", () => {
    if (++asked === 2) process.exit(7);
  });
}
