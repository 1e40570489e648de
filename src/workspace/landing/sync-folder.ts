import { open } from "node:fs/promises";

/** Waits until a folder's own entries are on the disk, where the system can say so. */
export async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, "r").catch(() => undefined);
  await handle?.sync().catch(() => undefined);
  await handle?.close();
}
