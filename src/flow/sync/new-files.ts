import { readdir } from "node:fs/promises";
import { join, relative, sep } from "node:path";
import { sourceForFile } from "../../workspace/source-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { Store } from "../../store/store.js";
import { fileNow } from "../import/file-mark.js";
import { importsOf } from "../import/read-again.js";

/** Files of a workspace that a source knows by its patterns, and that were not read as they are now; oldest name first. */
export const newFiles = async (workspace: Workspace, store: Store): Promise<readonly string[]> => {
  const imports = await importsOf(store);
  const entries = await readdir(workspace.path("data"), { withFileTypes: true, recursive: true }).catch(
    () => [],
  );
  const found: string[] = [];
  for (const entry of entries) {
    if (!entry.isFile()) continue;
    const path = join(entry.parentPath, entry.name);
    const inside = relative(workspace.root, path).split(sep).join("/");
    const before = imports.find(({ cameFrom }) => cameFrom?.path === inside)?.cameFrom;
    const isKnown = before !== undefined || (await sourceForFile(workspace, entry.name)) !== undefined;
    if (!isKnown || (before !== undefined && (await fileNow(workspace, before)) === "same")) continue;
    found.push(inside);
  }
  return found.sort();
};
