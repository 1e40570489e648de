/** What tells a file again: where it lies, how large, when it was changed. */
import { createHash } from "node:crypto";
import { open } from "node:fs/promises";
import { isAbsolute, relative, resolve, sep } from "node:path";
import type { FileOrigin } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";

const LOOKED_AT = 64 << 10;

/** What tells a file from another of its name: its size, its beginning and its end. */
async function markOf(path: string): Promise<string> {
  const file = await open(path, "r");
  try {
    const { size } = await file.stat();
    const hash = createHash("sha256").update(String(size));
    for (const from of [0, Math.max(0, size - LOOKED_AT)]) {
      const { buffer, bytesRead } = await file.read(Buffer.alloc(LOOKED_AT), 0, LOOKED_AT, from);
      hash.update(buffer.subarray(0, bytesRead));
    }
    return hash.digest("hex").slice(0, 32);
  } finally {
    await file.close();
  }
}

/** Where a file lies, as the workspace names it; undefined for what came by standard input or within an archive. */
export async function originOf(
  workspace: Workspace,
  path: string | undefined,
): Promise<FileOrigin | undefined> {
  if (path === undefined) return undefined;
  const inside = relative(workspace.path(), path);
  const isOutside = inside.startsWith(`..${sep}`) || isAbsolute(inside);
  const mark = await markOf(path).catch(() => undefined);
  return mark === undefined ? undefined : { path: isOutside ? path : inside.split(sep).join("/"), mark };
}

/** What became of a file that was read before. */
export type FileNow = "same" | "other" | "gone";

/** Whether a file is as it was when it was read. */
export async function fileNow(workspace: Workspace, { path, mark }: FileOrigin): Promise<FileNow> {
  const now = await markOf(resolve(workspace.path(), path)).catch(() => undefined);
  if (now === undefined) return "gone";
  return now === mark ? "same" : "other";
}
