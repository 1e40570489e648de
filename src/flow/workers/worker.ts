import { parentPort, workerData } from "node:worker_threads";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ReadingRecipe } from "../import/rows-of-file.js";
import type { Recipe } from "../parts/workers.js";
import { END, type WorkerQuestion, type Begun, type WorkerSaid } from "../parts/worker-thread.js";

const begun = async (recipe: Recipe | ReadingRecipe): Promise<Begun> =>
  recipe.work === "read"
    ? (await import("./read-beside.js")).readingBeside(recipe)
    : (await import("./part-beside.js")).partBeside(recipe);

const port = parentPort;
const say = (said: WorkerSaid, memory: readonly ArrayBuffer[] = []): void =>
  port?.postMessage(said, [...memory]);

function cannot(error: unknown): void {
  if (error instanceof Refusal) say({ said: "refused", findings: error.findings, exit: error.exit });
  else
    say({ said: "failed", reason: error instanceof Error ? (error.stack ?? error.message) : String(error) });
}

try {
  const { seen, work, end } = await begun(workerData as Recipe | ReadingRecipe);
  port?.on("message", (said: WorkerQuestion | typeof END) => {
    if (said === END) void end().finally(() => port.close());
    else {
      const { asked, what } = said;
      work(what).then(({ made, memory }) => say({ said: "made", asked, made }, memory), cannot);
    }
  });
  say({ said: "ready", seen });
} catch (error) {
  cannot(error);
}
