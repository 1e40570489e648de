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

/** A mark of all that a build's bytes depend on beside the catalogue: the program, the wishes, definitions, decisions and tables. */
export const buildMark = (
  workspace: Workspace,
  channels: readonly WorkspaceChannel[],
  further: object,
): string => {
  const sum = createHash("sha256");
  sum.update(JSON.stringify([version(), channels.map(({ setup }) => setup.channel), further]));
  const folders = [workspace.path("tables"), ...channels.flatMap(({ templateFolders }) => templateFolders)];
  for (const folder of folders)
    for (const file of filesUnder(folder))
      sum.update(`\0${relative(folder, file)}\0`).update(readFileSync(file));
  return sum.update(readFileSync(workspace.path("lexicant.yaml"))).digest("hex");
};
