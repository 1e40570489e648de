import { mkdir, open, rename, rm } from "node:fs/promises";
import { dirname } from "node:path";
import { writeFault } from "../formats/file-fault.js";

/** Writes a small file beside its target and renames it into place: a reader sees the old text or the new. */
export const writeFileWhole = async (path: string, text: string): Promise<void> => {
  const beside = `${path}.${process.pid}.new`;
  try {
    await mkdir(dirname(path), { recursive: true });
    const handle = await open(beside, "w");
    try {
      await handle.writeFile(text);
      await handle.sync();
    } finally {
      await handle.close();
    }
    await rename(beside, path);
  } catch (error) {
    await rm(beside, { force: true }).catch(() => undefined);
    throw writeFault(path, error);
  }
};
