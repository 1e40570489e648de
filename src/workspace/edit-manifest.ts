import { isSeq } from "yaml";
import { writeFileWhole } from "./write-file.js";
import { MANIFEST, type Workspace } from "./workspace.js";

/** Adds a name to a list of the manifest, below the others; the person's comments and order stay. */
export const addToManifest = async (
  workspace: Workspace,
  key: "layers" | "channels",
  name: string,
): Promise<void> => {
  const { document } = workspace.manifestFile;
  const list = document.get(key);
  if (isSeq(list)) list.add(document.createNode(name));
  else document.set(key, [name]);
  await writeFileWhole(workspace.path(MANIFEST), document.toString({ lineWidth: 0 }));
};
