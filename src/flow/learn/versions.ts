/** The versions of a definition that lie beside each other. */
import { existsSync } from "node:fs";
import { join } from "node:path";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Surroundings } from "../../core/language/function.js";
import { namesIn } from "../../formats/is-there.js";
import { nearest } from "../../core/values/nearest.js";
import { definitionNamed, loadDefinition, type DefinitionFolder } from "../../workspace/definition-files.js";
import { VERSIONS } from "../../workspace/learned-files.js";
import { definitionsIn } from "../../workspace/workspace.js";

/** A version of a channel's definition: the one in use, or one that lies beside it. */
export interface DefinitionVersion {
  readonly version: string;
  readonly folder: DefinitionFolder;
  readonly isCurrent: boolean;
  readonly definition: ChannelDefinition;
}

/** The versions that lie beside the one in use. */
export async function versionsBeside(root: string, channel: string): Promise<readonly string[]> {
  const folder = join(root, "definitions", channel, VERSIONS);
  const names = await namesIn(folder, VERSIONS);
  return names.filter((name) => existsSync(join(folder, name, "definition.yaml")));
}

/** The version in use. */
export async function currentVersion(
  root: string,
  channel: string,
  surroundings: Surroundings,
): Promise<DefinitionVersion> {
  const folders = await definitionsIn(root);
  const folder = definitionNamed(
    folders,
    channel,
    nearest(
      channel,
      folders.map((one) => one.channel),
    ),
  );
  const definition = await loadDefinition(folder, surroundings);
  return { version: definition.version, folder, isCurrent: true, definition };
}

/**
 * One version by its name.
 * @throws Refusal with those that there are
 */
export async function versionNamed(
  root: string,
  channel: string,
  version: string,
  surroundings: Surroundings,
): Promise<DefinitionVersion> {
  const current = await currentVersion(root, channel, surroundings);
  if (current.version === version) return current;
  const beside = await versionsBeside(root, channel);
  if (!beside.includes(version))
    throw new Refusal([
      diagnostic("no-such-version", { channel, version, known: [current.version, ...beside] }),
    ]);
  const folder = {
    channel,
    path: join(root, "definitions", channel, VERSIONS, version),
    shown: `definitions/${channel}/${VERSIONS}/${version}`,
  };
  return { version, folder, isCurrent: false, definition: await loadDefinition(folder, surroundings) };
}
