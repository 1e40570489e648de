import { mkdir, rename, rm } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { clearLeftovers } from "../../io/leftovers.js";
import { writeFault } from "../../formats/file-fault.js";
import { stagedFile, type StagedFile } from "./staged-file.js";
import { throughLinks } from "./through-links.js";

const unfinished = /^\..*\.(\d+)\.unfinished$/;

/** Writes one file that appears whole, or not at all, wherever a person wants it. */
export async function wholeFile(
  path: string,
  /** As the person named it. */
  shown: string,
  write: (file: StagedFile) => Promise<void>,
): Promise<void> {
  const target = await throughLinks(path);
  const [folder, name] = [dirname(target), basename(target)];
  const beside = join(folder, `.${name}.${process.pid}.unfinished`);
  try {
    await mkdir(folder, { recursive: true });
    clearLeftovers(folder, (entry) => unfinished.exec(entry)?.[1]);
    await rm(beside, { force: true });
    const file = await stagedFile(name, { path: beside, target, shown });
    await write(file);
    await file.finish();
    await rename(beside, target);
  } catch (error) {
    await rm(beside, { force: true }).catch(() => undefined);
    throw writeFault(shown, error);
  }
}
