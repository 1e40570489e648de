/** Files of a workspace that no sync has read as they are now. */
import { readFileSync } from "node:fs";
import { readdir, rename, writeFile } from "node:fs/promises";
import { join, relative, sep } from "node:path";
import { sourceForFile } from "../../workspace/source-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { Store } from "../../store/store.js";
import { fileNow, originOf } from "../import/file-mark.js";
import { importsOf } from "../import/read-again.js";

/** A file of the workspace that no sync has read as it is now. */
export interface NewFile {
  readonly path: string;
  readonly mark: string;
}

const seenPath = (workspace: Pick<Workspace, "root">): string =>
  join(workspace.root, ".lexicant", "sync-files.json");

/** What was read of files, by their paths: one that changed nothing leaves no trace in the history. */
function seenIn(workspace: Pick<Workspace, "root">): ReadonlyMap<string, string> {
  try {
    return new Map(JSON.parse(readFileSync(seenPath(workspace), "utf8")) as [string, string][]);
  } catch {
    return new Map();
  }
}

/** Notes that files were read. */
export async function noteRead(workspace: Pick<Workspace, "root">, files: readonly NewFile[]): Promise<void> {
  const seen = new Map(seenIn(workspace));
  for (const { path, mark } of files) seen.set(path, mark);
  const to = seenPath(workspace);
  await writeFile(`${to}.coming`, JSON.stringify([...seen]));
  await rename(`${to}.coming`, to);
}

/** Files of a workspace that a source knows, by its patterns or by what it read before, and that were not read as they are now. */
export async function newFiles(workspace: Workspace, store: Store): Promise<readonly NewFile[]> {
  const imports = await importsOf(store);
  const seen = seenIn(workspace);
  const entries = await readdir(workspace.path("data"), { withFileTypes: true, recursive: true }).catch(
    () => [],
  );
  const found: NewFile[] = [];
  for (const entry of entries) {
    if (!entry.isFile()) continue;
    const full = join(entry.parentPath, entry.name);
    const path = relative(workspace.root, full).split(sep).join("/");
    const before = imports.find(({ cameFrom }) => cameFrom?.path === path)?.cameFrom;
    const isKnown = before !== undefined || (await sourceForFile(workspace, entry.name)) !== undefined;
    if (!isKnown || (before !== undefined && (await fileNow(workspace, before)) === "same")) continue;
    const mark = (await originOf(workspace, full))?.mark;
    if (mark !== undefined && seen.get(path) !== mark) found.push({ path, mark });
  }
  return found.sort((a, b) => (a.path < b.path ? -1 : 1));
}
