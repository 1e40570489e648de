/** A workspace: its folder found, its manifest read, its paths. */
import { isThere } from "../formats/is-there.js";
import { existsSync, readdirSync } from "node:fs";
import { basename, dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { kindsWith } from "../core/catalogue/vocabulary.js";
import type { KindOf } from "../core/values/attribute-kind.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import type { NamedFolder } from "./named-folder.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { DefinitionFolder } from "./definition-files.js";
import { loadSettings } from "./load-settings.js";
import { ownKinds } from "./own-kinds.js";
import type { ManifestModel } from "./models/manifest-model.js";
import { settingsCache, type SettingsCache } from "./settings-cache.js";
import { readYaml, type YamlFile } from "./yaml-file.js";

/** The file that makes a folder a workspace. */
export const MANIFEST = "lexicant.yaml";

/** One shop's folder, with its manifest read and checked. */
export interface Workspace {
  readonly root: string;
  readonly manifest: ManifestModel;
  readonly manifestFile: YamlFile;
  readonly channelsInUse: readonly string[];
  /** From lowest to highest; a layer with a channel shows there alone. */
  readonly layers: readonly { readonly layer: string; readonly channel?: string }[];
  /** The kinds of its attributes: ours, and those that the manifest declares. */
  readonly kindOf: KindOf;
  readonly storePath: string;
  /** The file whose lock whoever writes holds. */
  readonly lockPath: string;
  readonly settings: SettingsCache;
  /** A path inside the workspace. */
  path(...parts: readonly string[]): string;
}

/** The definitions that come with the package. */
export const shippedDefinitions = fileURLToPath(new URL("../../definitions", import.meta.url));

function findRoot(from: string): string | undefined {
  const folder = resolve(from);
  if (isThere(join(folder, MANIFEST), MANIFEST)) return folder;
  const above = dirname(folder);
  return above === folder ? undefined : findRoot(above);
}

/** Folders that a person can have meant: workspaces beside the one that was named. */
function workspacesNear(folder: string): readonly string[] {
  const above = dirname(folder);
  try {
    const found = readdirSync(above, { withFileTypes: true })
      .filter((entry) => entry.isDirectory() && existsSync(join(above, entry.name, MANIFEST)))
      .map(({ name }) => name);
    return nearest(basename(folder), found);
  } catch {
    // What cannot be looked into has no names to offer.
    return [];
  }
}

/**
 * The root of the workspace that is named, or that a folder lies in.
 * @throws Refusal when there is none
 */
export function workspaceRoot({ folder, named }: NamedFolder, cwd: string): string {
  const from = resolve(cwd, folder);
  if (named !== undefined) {
    if (isThere(join(from, MANIFEST), join(folder, MANIFEST))) return from;
    throw new Refusal([
      diagnostic("no-such-workspace", { by: named, folder, nearest: workspacesNear(from) }),
    ]);
  }
  const root = findRoot(from);
  if (root === undefined) throw new Refusal([diagnostic("no-workspace", { folder: from })]);
  return root;
}

/** The same for whoever can do without one. */
export const workspaceAround = (folder: NamedFolder, cwd: string): string | undefined =>
  folder.named === undefined ? findRoot(resolve(cwd, folder.folder)) : workspaceRoot(folder, cwd);

/** Where a workspace's store and lock lie. */
export const placesIn = (root: string): Pick<Workspace, "storePath" | "lockPath"> => ({
  storePath: join(root, ".lexicant", "store.db"),
  lockPath: join(root, ".lexicant", "writer.lock"),
});

/**
 * Opens the workspace of a root ({@link workspaceRoot}).
 * @throws Refusal when its manifest is wrong
 */
export async function openWorkspace(root: string): Promise<Workspace> {
  const manifestFile = await readYaml(join(root, MANIFEST), MANIFEST);
  const settings = settingsCache(join(root, ".lexicant", "settings"));
  const manifest = await loadSettings(
    manifestFile,
    "manifest",
    settings,
    async () => (await import("./models/manifest-model.js")).ManifestModel,
  );
  return {
    root,
    manifest,
    manifestFile,
    channelsInUse: manifest.channels ?? [],
    layers: manifest.layers.map((entry) => (typeof entry === "string" ? { layer: entry } : entry)),
    kindOf: kindsWith(ownKinds(manifest.attributes)),
    settings,
    ...placesIn(root),
    path: (...parts) => join(root, ...parts),
  };
}

/** All definitions that a workspace can use: its own first. */
export const definitionsFor = (workspace: Workspace | undefined): Promise<readonly DefinitionFolder[]> =>
  definitionsIn(workspace?.root);

/** The definitions of a folder that is, or becomes, a workspace, and the shipped ones. */
export async function definitionsIn(root: string | undefined): Promise<readonly DefinitionFolder[]> {
  const own = root === undefined ? [] : [{ path: join(root, "definitions"), shown: "definitions" }];
  // What reads definitions knows the language too: a command that shows a product waits for neither.
  const { findDefinitions } = await import("./definition-files.js");
  return findDefinitions([...own, { path: shippedDefinitions, shown: "shipped definitions" }]);
}
