/** A channel's decisions carried over to another version, before anything is written. */
import { isThere } from "../../formats/is-there.js";
import { smallFile } from "../../formats/small-file.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import { carriedPlacement, carriedRefusal, carriedTerm } from "../../core/learning/carry-over.js";
import type { Renamings } from "../../core/learning/compare-definitions.js";
import {
  carriedFills,
  carriedPolicy,
  carriedTable,
  type CarriedFile,
} from "../../workspace/carried-files.js";
import { REFUSALS_FILE } from "../../workspace/channel-files.js";
import { startingFills } from "../../workspace/starting-fills.js";
import type { AttributeIndex } from "../../core/catalogue/attribute-index.js";
import type { Workspace } from "../../workspace/workspace.js";

/** A channel's decision files as they are carried over to another version, by their names in the channel's folder. */
export type CarriedFiles = ReadonlyMap<string, CarriedFile>;

/** Carries all decisions of a channel of the workspace over; nothing is written. */
export async function carriedFilesOf(
  workspace: Workspace,
  channel: string,
  {
    before,
    after,
    renamings,
    attributes,
  }: {
    readonly before: ChannelDefinition;
    readonly after: ChannelDefinition;
    readonly renamings: Renamings;
    readonly attributes: AttributeIndex;
  },
): Promise<CarriedFiles> {
  const files = new Map<string, CarriedFile>();
  const { version } = after;
  const { manifest } = workspace;
  const known = new Set([...before.fields.map(({ code }) => code as string), ...renamings.fields.values()]);
  const shop = { language: manifest.language, currency: manifest.currency, attributes };
  const added = startingFills(after, shop).filter(({ code }) => !known.has(code));
  // A path that still leads to the same category stays as the person wrote it.
  const codeOf = (written: string): string => {
    const was = before.tree.named(written);
    if (was === undefined) return written;
    return after.tree.named(written)?.code === was.code ? written : was.code;
  };
  const carriers: readonly (readonly [string, (bytes: Buffer) => CarriedFile])[] = [
    ["channel.yaml", (bytes) => carriedPolicy(bytes, version)],
    [
      "placements.csv",
      (bytes) => carriedTable(bytes, (cell) => carriedPlacement(cell, renamings, codeOf), version),
    ],
    ["lexicon.csv", (bytes) => carriedTable(bytes, (cell) => carriedTerm(cell, renamings), version)],
    [REFUSALS_FILE, (bytes) => carriedTable(bytes, (cell) => carriedRefusal(cell, renamings), version)],
    ["fills.yaml", (bytes) => carriedFills(bytes, renamings, new Set(attributes.names), version, added)],
  ];
  for (const [name, carry] of carriers) {
    const path = workspace.path("channels", channel, name);
    const shown = `channels/${channel}/${name}`;
    if (isThere(path, shown)) files.set(name, carry(await smallFile(path, shown)));
  }
  return files;
}
