import type { Store, StoreOptions } from "./store.js";

/**
 * Opens the workspace's store, makes it when there is none, and brings an older one forward.
 * @throws Refusal when the store is newer than this program, damaged, or not writable
 */
export const openStore = async (options: StoreOptions): Promise<Store> =>
  (await import("./sqlite/sqlite-store.js")).openSqliteStore(options);
