/** A channel's definition by name, with or without a workspace. */
import type { ChannelDefinition } from "../core/channel/definition.js";
import type { Category } from "../core/channel/category-tree.js";
import { nearCategories } from "../core/channel/near-categories.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import type { NamedFolder } from "../workspace/named-folder.js";
import { definitionNamed, loadDefinition } from "../workspace/definition-files.js";
import { definitionsFor, type Workspace } from "../workspace/workspace.js";
import { enterWorkspace, surroundingsOf } from "./open-catalogue.js";

/** The workspace around a folder, or undefined where there is none; any other fault ends the command. */
export async function workspaceIfAny(folder: NamedFolder, io: Io): Promise<Workspace | undefined> {
  try {
    return await enterWorkspace(folder, io);
  } catch (error) {
    if (error instanceof Refusal && error.findings.every(({ code }) => code === "no-workspace"))
      return undefined;
    throw error;
  }
}

/** Seconds after which a reader wants to know what took so long. */
const LONG = 1;

/** A channel's definition by its name, with or without a workspace around. */
export async function namedDefinition(
  folder: NamedFolder,
  channel: string,
  io: Io,
): Promise<ChannelDefinition> {
  const workspace = await workspaceIfAny(folder, io);
  const folders = await definitionsFor(workspace);
  const known = folders.map((one) => one.channel);
  const found = definitionNamed(folders, channel, nearest(channel, known));
  const begun = io.now().getTime();
  const definition = await loadDefinition(found, surroundingsOf(io, workspace), workspace?.settings);
  const seconds = (io.now().getTime() - begun) / 1000;
  if (seconds > LONG)
    io.err(
      `Read ${definition.label} ${definition.version} in ${seconds.toFixed(1)} s: ${countText(definition.tree.all.length, "category", "categories")}, ${countText(definition.rules.length, "field row")}.\n`,
    );
  return definition;
}

/** A category that a person named by code or path, or a refusal with the nearest. */
export function namedCategory(definition: ChannelDefinition, wanted: string): Category {
  const { tree } = definition;
  const found = tree.named(wanted);
  if (found !== undefined) return found;
  throw new Refusal([
    diagnostic("unknown-category", {
      category: wanted,
      nearest: nearCategories(tree, wanted, ({ code, path }) => `${code} (${path})`),
    }),
  ]);
}
