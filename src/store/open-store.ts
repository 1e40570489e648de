import type { Store, StoreOptions, WriterLock } from "./store.js";

/**
 * Opens the workspace's store, makes it when there is none, and brings an older one forward.
 * @throws Refusal when the store is newer than this program, damaged, or not writable
 */
export const openStore = async (options: StoreOptions): Promise<Store> =>
  (await import("./sqlite/sqlite-store.js")).openSqliteStore(options);

/**
 * Takes the lock of a workspace for what writes; undefined where another process has it.
 * @throws Refusal, with the path as it is shown, where nothing can be written there
 */
export const takeWriterLock = async (path: string, shown = path): Promise<WriterLock | undefined> =>
  (await import("./sqlite/writer-lock.js")).takeWriterLock(path, shown);

/** Whether the act that a mark stands for was committed to a store. */
export const hasLanded = async (path: string, mark: string): Promise<boolean> =>
  (await import("./sqlite/landed.js")).hasLandedIn(path, mark);
