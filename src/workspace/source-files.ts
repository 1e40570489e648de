/** Sources as files, read as far as no table is needed. */
import { isThere, namesIn } from "../formats/is-there.js";
import { basename } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { namePattern } from "./name-pattern.js";
import { loadSettings } from "./load-settings.js";
import { noCache, type SettingsCache } from "./settings-cache.js";
import type { SourceModel } from "./models/source-model.js";
import type { Landing } from "./landing/landing.js";
import type { Workspace } from "./workspace.js";
import { parseYaml, readYaml, type YamlFile } from "./yaml-file.js";

/** A source file, read and checked as far as no table is needed. */
export interface Source {
  readonly name: string;
  readonly settings: SourceModel;
  readonly yaml: YamlFile;
}

/** A source's name after a file: `Shop Export 2026.csv` gives `shop-export-2026`. */
export function sourceNameFor(file: string): string {
  return (
    basename(file)
      .replace(/\.(?:gz|zip)$/i, "")
      .replace(/\.[^.]+$/, "")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "") || "source"
  );
}

/** Dates and counters at a file's end change with each delivery, its source does not. */
export const withoutCounter = (name: string): string => name.replace(/(?:-\d+)+$/, "") || name;

const exists = (workspace: Workspace, name: string): boolean =>
  isThere(workspace.path("sources", `${name}.yaml`), `sources/${name}.yaml`);

const settingsOf = (yaml: YamlFile, cache: SettingsCache): Promise<SourceModel> =>
  loadSettings(yaml, "source", cache, async () => (await import("./models/source-model.js")).SourceModel);

/** Loads `sources/NAME.yaml`, or refuses with the names there are. */
export async function loadSource(workspace: Workspace, name: string): Promise<Source> {
  if (!exists(workspace, name))
    throw new Refusal([diagnostic("unknown-source", { source: name, known: await sourceNames(workspace) })]);
  const file = `sources/${name}.yaml`;
  const yaml = await readYaml(workspace.path("sources", `${name}.yaml`), file);
  const settings = await settingsOf(yaml, workspace.settings);
  const known = workspace.layers.map(({ layer }) => layer);
  if (!known.includes(settings.layer))
    throw new Refusal([
      diagnostic(
        "unknown-layer",
        { layer: settings.layer, known, nearest: nearest(settings.layer, known) },
        { place: yaml.place(["layer"]) },
      ),
    ]);
  return { name, settings, yaml };
}

/** Names of the workspace's sources. */
export async function sourceNames(workspace: Workspace): Promise<readonly string[]> {
  const folder = workspace.path("sources");
  return (await namesIn(folder, "sources"))
    .filter((file) => file.endsWith(".yaml"))
    .map((file) => file.slice(0, -".yaml".length))
    .sort();
}

/** The source for a file: the one named like it, else the one whose `files` name it. */
export async function sourceForFile(workspace: Workspace, file: string): Promise<Source | undefined> {
  const name = sourceNameFor(file);
  for (const candidate of [name, withoutCounter(name)])
    if (exists(workspace, candidate)) return loadSource(workspace, candidate);
  for (const candidate of await sourceNames(workspace)) {
    const source = await loadSource(workspace, candidate);
    if (source.settings.files?.some((pattern) => namePattern(pattern).test(basename(file))) === true)
      return source;
  }
  return undefined;
}

/** A source that exists in memory, as the very text that {@link saveSource} would write. */
export async function sourceFromText(name: string, text: string): Promise<Source> {
  const yaml = parseYaml(text, `sources/${name}.yaml`);
  return { name, settings: await settingsOf(yaml, noCache), yaml };
}

/** Writes a source's file, for the person to read and correct; one that came meanwhile is another's. */
export function saveSource(landing: Landing, workspace: Workspace, { name, yaml }: Source): Promise<void> {
  return landing.edit(workspace.path("sources", `${name}.yaml`), (before) => {
    if (before !== undefined && before.toString() !== yaml.text)
      throw new Refusal([diagnostic("source-meanwhile", { file: `sources/${name}.yaml` })]);
    return yaml.text;
  });
}

/** Writes a source's file again that was taken away; one that is there by now stays. */
export function putSourceBack(
  landing: Landing,
  workspace: Workspace,
  name: string,
  text: string,
): Promise<void> {
  return landing.edit(workspace.path("sources", `${name}.yaml`), (before) => before ?? text);
}

/** Takes a source's file away again, where it still says what was written; says whether it did. */
export async function takeSource(
  landing: Landing,
  workspace: Workspace,
  name: string,
  text: string,
): Promise<boolean> {
  let isTaken = false;
  await landing.edit(workspace.path("sources", `${name}.yaml`), (before) => {
    isTaken = before?.toString() === text;
    return isTaken ? undefined : before;
  });
  return isTaken;
}
