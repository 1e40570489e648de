/** Files of an earlier build that this one does not have. */
import { existsSync } from "node:fs";
import { join } from "node:path";
import type { LayoutDefinition } from "../../core/channel/layout-definition.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import type { BuildKind, ChannelLedger } from "../../store/ledger.js";
import { partName } from "./built-files.js";

/** Whether each build has file names of its own: what an earlier one made stays beside them. */
const keepsEarlier = ({ definition }: ChannelSetup, layouts: readonly LayoutDefinition[]): boolean =>
  definition.fileLimits.nameOnce || layouts.some(({ file }) => /\{(?:count|date)\}/.test(file));

/** `goods-3.xml.gz` of `goods.xml.gz`. */
function packedPart(name: string, part: number): string {
  const packed = /\.(?:gz|zip)$/.exec(name)?.[0] ?? "";
  return partName(name.slice(0, name.length - packed.length), part) + packed;
}

/** Later parts of a file that stand in its folder. */
function laterParts(folder: string, name: string, taken: ReadonlySet<string>): readonly string[] {
  const found: string[] = [];
  for (let part = 2; ; part++) {
    const own = packedPart(name, part);
    if (!taken.has(own) && !existsSync(join(folder, own))) return found;
    if (!taken.has(own)) found.push(own);
  }
}

/** What an earlier build of this kind left in a folder and this one does not have: parts of a longer one, books of branches. */
export async function formerFiles(
  folder: string,
  kind: BuildKind,
  { setup, layouts }: { readonly setup: ChannelSetup; readonly layouts: readonly LayoutDefinition[] },
  ledger: ChannelLedger,
  built: readonly string[],
): Promise<readonly string[]> {
  if (keepsEarlier(setup, layouts)) return [];
  const taken = new Set(built);
  const last = (await ledger.builds()).find((build) => build.kind === kind)?.files ?? [];
  return [
    ...last.filter((name) => !taken.has(name)),
    ...built.flatMap((name) => laterParts(folder, name, taken)),
  ];
}
