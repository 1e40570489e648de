/** The record of a landing on its disk: put in place by a rename, so that there is always a whole one or none. */
import { mkdir, open, rename, rm } from "node:fs/promises";
import { dirname } from "node:path";
import { recordPath, type LandingRecord } from "./landing-record.js";
import { syncFolder } from "./sync-folder.js";

/** Writes the record; where `isSure`, it is on the disk when this returns. */
export async function writeRecord(root: string, record: LandingRecord, isSure: boolean): Promise<void> {
  const path = recordPath(root);
  const beside = `${path}.new`;
  await mkdir(dirname(path), { recursive: true });
  const handle = await open(beside, "w");
  try {
    await handle.writeFile(JSON.stringify(record));
    if (isSure) await handle.sync();
  } finally {
    await handle.close();
  }
  await rename(beside, path);
  if (isSure) await syncFolder(dirname(path));
}

/** Takes the record away: what it said is done, or taken back. */
export const forgetRecord = (root: string): Promise<void> => rm(recordPath(root), { force: true });
