import { createHash } from "node:crypto";
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join, relative } from "node:path";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { version } from "../../workspace/version.js";
import type { Workspace } from "../../workspace/workspace.js";
import { isThere } from "../../formats/is-there.js";

const filesUnder = (folder: string): readonly string[] =>
  isThere(folder, folder)
    ? readdirSync(folder, { withFileTypes: true, recursive: true })
        .map((entry) => join(entry.parentPath, entry.name))
        // A decision file may be a link.
        .filter((path) => statSync(path, { throwIfNoEntry: false })?.isFile() === true)
        .sort()
    : [];

/** Products that fills name, some of them in files that lie anywhere in the workspace. */
const productsNamed = ({ setup }: WorkspaceChannel): readonly (readonly string[])[] =>
  setup.fills.flatMap((block) => (block.scope === "products" ? [[...block.skus]] : []));

/** A mark of all that work on channels depends on beside the catalogue: the program, the wishes, definitions, decisions and tables. */
export function workMark(
  workspace: Workspace,
  channels: readonly WorkspaceChannel[],
  further: object,
): string {
  const sum = createHash("sha256");
  const names = channels.map(({ setup }) => setup.channel);
  sum.update(JSON.stringify([version(), names, channels.map(productsNamed), further]));
  const folders = [workspace.path("tables"), ...channels.flatMap(({ templateFolders }) => templateFolders)];
  for (const folder of folders)
    for (const file of filesUnder(folder))
      sum.update(`\0${relative(folder, file)}\0`).update(readFileSync(file));
  return sum.update(readFileSync(workspace.path("lexicant.yaml"))).digest("hex");
}
