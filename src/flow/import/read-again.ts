/** Files that sources read before, to be read once more. */
import { resolve } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { nearest } from "../../core/values/nearest.js";
import type { HistoryEntry, Store } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";
import { fileNow } from "./file-mark.js";

/** A file that a source read before, to be read once more. */
export interface FileAgain {
  readonly path: string;
  readonly source: string;
  readonly revision: number;
}

/** Imports that hold, the latest of each file, in their order. */
export async function importsOf(store: Store): Promise<readonly HistoryEntry[]> {
  const latest = new Map<string, HistoryEntry>();
  for (const entry of await store.history())
    if (
      entry.kind === "import" &&
      entry.source !== "" &&
      entry.source !== "gaps" &&
      entry.undoneBy === undefined
    ) {
      const key = `${entry.source}\u0000${entry.file}`;
      if (!latest.has(key)) latest.set(key, entry);
    }
  return [...latest.values()].sort((a, b) => a.revision - b.revision);
}

/**
 * The files that sources read before, as they lie there still.
 * @throws Refusal with every file that is gone, or is another by now
 */
export async function filesAgain(
  workspace: Workspace,
  store: Store,
  sources: readonly string[],
): Promise<readonly FileAgain[]> {
  const imports = await importsOf(store);
  const known = [...new Set(imports.map(({ source }) => source))];
  const unknown = sources.filter((source) => !known.includes(source));
  if (unknown.length > 0)
    throw new Refusal(
      unknown.map((source) =>
        diagnostic("source-never-read", { source, nearest: nearest(source, known), known }),
      ),
    );
  const wanted = imports.filter(({ source }) => sources.length === 0 || sources.includes(source));
  if (wanted.length === 0)
    throw new Refusal([diagnostic("source-never-read", { source: "", nearest: [], known })]);
  const faults = [];
  const found: FileAgain[] = [];
  for (const { file, source, revision, cameFrom } of wanted) {
    const now = cameFrom === undefined ? "gone" : await fileNow(workspace, cameFrom);
    if (now !== "same" || cameFrom === undefined)
      faults.push(
        diagnostic("file-to-read-again", {
          file: cameFrom?.path ?? file,
          source,
          revision,
          isOther: now === "other",
        }),
      );
    else found.push({ path: resolve(workspace.path(), cameFrom.path), source, revision });
  }
  if (faults.length > 0) throw new Refusal(faults);
  return found;
}
