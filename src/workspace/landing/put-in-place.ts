/** The last step of a landing: staged files to their places; it can be done again. */
import { lstat, rename, rm, unlink } from "node:fs/promises";
import { join } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { faultReason } from "../../formats/file-fault.js";
import { folderOf, stagingIn, type LandingRecord } from "./landing-record.js";
import { syncFolder } from "./sync-folder.js";

async function kindOf(path: string): Promise<"file" | "folder" | "other" | undefined> {
  const found = await lstat(path).catch(() => undefined);
  if (found === undefined) return undefined;
  return found.isFile() ? "file" : found.isDirectory() ? "folder" : "other";
}

/**
 * Puts all files of a decided landing in their places, from the staging folder inside each folder and from nowhere else;
 * what was put there before stays. Done twice it does nothing more.
 */
export async function putInPlace(root: string, record: LandingRecord): Promise<void> {
  for (const entry of record.folders) {
    const folder = folderOf(root, entry);
    const staging = stagingIn(folder, record.mark);
    // Without its staging folder a folder has all that is to come, or never was ours.
    if ((await kindOf(staging)) !== "folder") continue;
    try {
      for (const name of entry.comes)
        if ((await kindOf(join(staging, name))) === "file")
          await rename(join(staging, name), join(folder, name));
      for (const name of entry.goes)
        if ((await kindOf(join(folder, name))) === "file") await unlink(join(folder, name));
      await syncFolder(folder);
      await rm(staging, { recursive: true, force: true });
    } catch (error) {
      throw new Refusal([diagnostic("landing-waits", { path: entry.folder, reason: faultReason(error) })], 3);
    }
  }
}

/** Clears what a landing that was not decided had staged. */
export async function takeBack(root: string, { mark, folders }: LandingRecord): Promise<void> {
  for (const entry of folders) {
    const staging = stagingIn(folderOf(root, entry), mark);
    if ((await kindOf(staging)) === "folder") await rm(staging, { recursive: true, force: true });
  }
}
