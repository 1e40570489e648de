import { parentPort, workerData } from "node:worker_threads";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { FamilyRange, Store } from "../../store/store.js";
import { openWorkspace, type Workspace } from "../../workspace/workspace.js";
import type { BuildWork } from "../build/build-parts.js";
import type { CheckWork } from "../check/check-parts.js";
import type { Recipe, Said } from "../parts/crew.js";
import type { PartWork } from "../parts/in-parts.js";
import { loadChannels } from "../run-channels.js";
import { storeOf, surroundingsIn } from "../workspace-store.js";

const CACHE_MEGABYTES = 8;

/** What came of a stretch, and what of it is handed over rather than copied. */
interface Handed {
  readonly made: unknown;
  readonly memory: readonly ArrayBuffer[];
}

const handing =
  <T>(part: PartWork<T>, memoryOf: (made: T) => readonly ArrayBuffer[]) =>
  async (range: FamilyRange): Promise<Handed> => {
    const made = await part(range);
    return { made, memory: memoryOf(made) };
  };

const workOf = async (
  { work, today, channels: names, wishes }: Recipe,
  workspace: Workspace,
  store: Store,
): Promise<(range: FamilyRange) => Promise<Handed>> => {
  const surroundings = await surroundingsIn(workspace, { today: { kind: "date", iso: today } });
  const channels = await loadChannels(workspace, store, names, surroundings);
  if (work === "build") {
    const { buildParts, memoryOfBuilt } = await import("../build/build-parts.js");
    return handing(await buildParts({ workspace, store }, channels, wishes as BuildWork), memoryOfBuilt);
  }
  const { checkParts } = await import("../check/check-parts.js");
  const { memoryOfLogged } = await import("../kept/family-log.js");
  return handing(await checkParts({ store }, channels, wishes as CheckWork), memoryOfLogged);
};

const port = parentPort;
const say = (said: Said, memory: readonly ArrayBuffer[] = []): void => port?.postMessage(said, [...memory]);

const cannot = (error: unknown): void => {
  if (error instanceof Refusal) say({ said: "refused", findings: error.findings, exit: error.exit });
  else
    say({ said: "failed", reason: error instanceof Error ? (error.stack ?? error.message) : String(error) });
};

try {
  const recipe = workerData as Recipe;
  const workspace = await openWorkspace(recipe.root);
  const store = await storeOf(workspace, { onlyReads: true, cacheMegabytes: CACHE_MEGABYTES });
  const seen = await store.hold();
  const work = await workOf(recipe, workspace, store);
  port?.on("message", (asked: FamilyRange | "end") => {
    if (asked === "end") {
      void store.close().finally(() => port.close());
      return;
    }
    work(asked).then(({ made, memory }) => say({ said: "made", made }, memory), cannot);
  });
  say({ said: "ready", seen });
} catch (error) {
  cannot(error);
}
