/** Edits of `lexicant.yaml` that keep what a person wrote: names in its lists, kinds of attributes. */
import { isMap, isScalar, isSeq, type Document, type YAMLSeq } from "yaml";
import type { KindWord } from "./own-kinds.js";
import type { Landing } from "./landing/landing.js";
import { MANIFEST, type Workspace } from "./workspace.js";
import { parseYaml } from "./yaml-file.js";

type ManifestList = "layers" | "channels";

/** Where a name stands in a list: by itself, or as the layer of an entry with more to it. */
const indexIn = ({ items }: YAMLSeq, name: string): number =>
  items.findIndex((item) => {
    const own = isMap(item) ? item.get("layer", true) : item;
    return isScalar(own) && own.value === name;
  });

/** An edit of the manifest as it stands by now; the person's comments, order and line ends stay. */
const edited = (
  landing: Landing,
  workspace: Workspace,
  change: (document: Document.Parsed) => void,
): Promise<void> =>
  landing.edit(workspace.path(MANIFEST), (before) => {
    const text = before?.toString() ?? "";
    const { document } = parseYaml(text, MANIFEST);
    change(document);
    const after = document.toString({ lineWidth: 0 });
    return text.includes("\r\n") ? after.replace(/\r?\n/g, "\r\n") : after;
  });

/** An edit of one of its lists. */
const listEdit =
  <Entry>(change: (document: Document.Parsed, key: ManifestList, entry: Entry) => void) =>
  (landing: Landing, workspace: Workspace, key: ManifestList, entry: Entry): Promise<void> =>
    edited(landing, workspace, (document) => change(document, key, entry));

/** A layer that one channel alone sees. */
export interface ChannelLayer {
  readonly layer: string;
  readonly channel: string;
}

/** Adds a name, or a layer for one channel, to a list of the manifest, below the others, where it is not there yet. */
export const addToManifest = listEdit<string | ChannelLayer>((document, key, entry) => {
  const list = document.get(key);
  const name = typeof entry === "string" ? entry : entry.layer;
  if (!isSeq(list)) document.set(key, [entry]);
  else if (indexIn(list, name) < 0)
    list.add(document.createNode(entry, typeof entry === "string" ? {} : { flow: true }));
});

/** Declares the kinds of attributes of the shop's own, where they are not declared yet. */
export const declareInManifest = (
  landing: Landing,
  workspace: Workspace,
  kinds: Readonly<Record<string, KindWord>>,
): Promise<void> =>
  edited(landing, workspace, (document) => {
    const declared = document.get("attributes");
    if (!isMap(declared)) {
      document.set("attributes", document.createNode(kinds));
      return;
    }
    for (const [attribute, kind] of Object.entries(kinds))
      if (!declared.has(attribute)) declared.set(attribute, kind);
  });

/** Takes a name out of a list of the manifest again. */
export const takeFromManifest = listEdit<string>((document, key, name) => {
  const list = document.get(key);
  const at = isSeq(list) ? indexIn(list, name) : -1;
  if (isSeq(list) && at >= 0) list.delete(at);
});
