import type { LayerName, Store } from "./store.js";

export interface StoreOptions {
  readonly path: string;
  /** The path as messages show it. */
  readonly shownPath: string;
  /** Layers from lowest to highest. */
  readonly layers: readonly LayerName[];
}

/**
 * Opens the workspace's store, makes it when there is none, and brings an older one forward.
 * @throws Refusal when the store is newer than this program, damaged, or not writable
 */
export const openStore = async (options: StoreOptions): Promise<Store> =>
  (await import("./sqlite/sqlite-store.js")).openSqliteStore(options);
