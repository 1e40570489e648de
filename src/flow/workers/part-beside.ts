/** In a worker: opens the workspace, works on stretches as it is asked. */
import type { FamilyRange, Store } from "../../store/store.js";
import { openWorkspace, type Workspace } from "../../workspace/workspace.js";
import type { BuildWork } from "../builds/build-parts.js";
import type { CheckWork } from "../check/check-parts.js";
import type { ReadinessWork } from "../readiness/readiness-parts.js";
import { loadChannels } from "../run-channels.js";
import { storeOf, surroundingsIn } from "../workspace-store.js";
import type { Begun, Handed } from "../parts/worker-thread.js";
import type { Recipe } from "../parts/workers.js";
import type { PartWork } from "../parts/in-parts.js";

const CACHE_MEGABYTES = 8;

const handing =
  <T>(part: PartWork<T>, memoryOf: (made: T) => readonly ArrayBuffer[]) =>
  async (range: FamilyRange): Promise<Handed> => {
    const made = await part(range);
    return { made, memory: memoryOf(made) };
  };

async function workOf(
  { work, today, channels: names, wishes, sharing }: Recipe,
  workspace: Workspace,
  store: Store,
): Promise<(range: FamilyRange) => Promise<Handed>> {
  const surroundings = await surroundingsIn(workspace, { today: { kind: "date", iso: today } });
  const channels = await loadChannels(workspace, store, names, surroundings, sharing);
  if (work === "build") {
    const { buildParts, memoryOfBuilt } = await import("../builds/build-parts.js");
    return handing(await buildParts({ workspace, store }, channels, wishes as BuildWork), memoryOfBuilt);
  }
  if (work === "readiness") {
    const { readinessParts } = await import("../readiness/readiness-parts.js");
    return handing(await readinessParts({ store }, channels, wishes as ReadinessWork), () => []);
  }
  const { checkParts } = await import("../check/check-parts.js");
  const { memoryOfLogged } = await import("../kept/family-log.js");
  return handing(await checkParts({ store }, channels, wishes as CheckWork), memoryOfLogged);
}

/** Opens the workspace in a worker; each time that it is asked, one stretch of the catalogue is worked on. */
export async function partBeside(recipe: Recipe): Promise<Begun> {
  const workspace = await openWorkspace(recipe.root);
  const store = await storeOf(workspace, { onlyReads: true, cacheMegabytes: CACHE_MEGABYTES });
  const seen = await store.hold();
  const work = await workOf(recipe, workspace, store);
  return { seen, work: (what) => work(what as FamilyRange), end: () => store.close() };
}
