/** Ends what a killed command began: puts in place what was decided, clears what was not. */
import { existsSync } from "node:fs";
import { mkdir, rename, rm } from "node:fs/promises";
import { dirname, join, relative } from "node:path";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { writeFault } from "../../formats/file-fault.js";
import { smallFile } from "../../formats/small-file.js";
import { landingRecord, recordPath } from "./landing-record.js";
import { putInPlace, takeBack } from "./put-in-place.js";

const RECORD_BYTES = 16 << 20;

/** Whether a command began to land and did not come to its end: it is at work still, or was killed. */
export const isLandingOpen = (root: string): boolean => existsSync(recordPath(root));

/**
 * Ends what a killed command began: a landing that was decided is put in place, any other is cleared; a record that is
 * none of ours moves nothing and is set aside. Only the holder of the workspace's lock may.
 */
export async function settleLanding(
  root: string,
  hasLanded: (mark: string) => Promise<boolean>,
): Promise<Diagnostic | undefined> {
  const path = recordPath(root);
  try {
    if (!existsSync(path)) return undefined;
    const text = await smallFile(path, "landing.json", RECORD_BYTES).then(
      (bytes) => bytes.toString(),
      () => "",
    );
    const record = landingRecord(text);
    if (record === undefined) return await setAside(root, path);
    const { command, at } = record;
    const holds = record.decided || (await hasLanded(record.mark));
    await (holds ? putInPlace : takeBack)(root, record);
    await rm(path, { force: true });
    if (!holds && record.folders.length === 0) return undefined;
    return diagnostic(holds ? "landing-finished" : "landing-taken-back", { command, at }, {}, "advice");
  } catch (error) {
    throw writeFault(relative(root, path), error);
  }
}

async function setAside(root: string, path: string): Promise<Diagnostic> {
  const folder = join(root, ".lexicant", "set-aside");
  await mkdir(folder, { recursive: true });
  let aside = join(folder, "landing.json");
  for (let number = 2; existsSync(aside); number++) aside = join(folder, `landing-${number}.json`);
  await rename(path, aside);
  return diagnostic(
    "landing-set-aside",
    { path: relative(root, path), aside: relative(dirname(folder), aside) },
    {},
    "warning",
  );
}
