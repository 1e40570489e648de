import type { Surroundings } from "../core/language/function.js";
import { openStore } from "../store/open-store.js";
import type { Store, StoreOptions } from "../store/store.js";
import type { Workspace } from "../workspace/workspace.js";

/** Opens the store of a workspace, for a command or for one of its threads. */
export function storeOf(
  { storePath: path, layers, kindOf }: Workspace,
  use: Pick<StoreOptions, "onlyReads" | "cacheMegabytes">,
): Promise<Store> {
  return openStore({ path, shownPath: ".lexicant/store.db", layers, kindOf, ...use });
}

/** What expressions of a workspace may know of the world: the day, and the user's own tables and rates. */
export const surroundingsIn = async ({ root }: Workspace, world: Surroundings): Promise<Surroundings> => ({
  ...world,
  ...(await (await import("../workspace/look-up-files.js")).lookUps(root)),
});
