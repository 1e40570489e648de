import { stat } from "node:fs/promises";
import { basename } from "node:path";
import { fileSource } from "../../formats/byte-source.js";
import type { Store } from "../../store/store.js";
import { filledSheets, isGapFile } from "./filled-sheets.js";

/** Whether answers of a sheet came into the catalogue since it was saved last, and still hold. */
async function isImported(path: string, store: Store): Promise<boolean> {
  const saved = (await stat(path)).mtime.toISOString();
  const name = basename(path);
  return (await store.history()).some(
    ({ source, file, at, undoneBy }) =>
      source === "gaps" &&
      undoneBy === undefined &&
      (file === name || file.startsWith(`${name}, `)) &&
      at >= saved,
  );
}

/** How many answers a person wrote into the sheet that stands at a path, and did not import yet; undefined for a file that is no gap sheet. */
export async function answersBegun(path: string, store: Store): Promise<number | undefined> {
  const source = await fileSource(path, basename(path));
  try {
    if (!(await isGapFile(source))) return undefined;
    const answers = (await filledSheets(source)).reduce((sum, sheet) => sum + sheet.answers.length, 0);
    return answers === 0 || (await isImported(path, store)) ? 0 : answers;
  } finally {
    await source.close();
  }
}
