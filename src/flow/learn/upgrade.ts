/** A new version taken into use, and taken back. */
import { addAll } from "../../core/many.js";
import { createHash } from "node:crypto";
import { join } from "node:path";
import { parse, stringify } from "yaml";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { compareDefinitions, type Comparison } from "../../core/learning/compare-definitions.js";
import { isThere, namesIn } from "../../formats/is-there.js";
import { smallFile } from "../../formats/small-file.js";
import { VERSIONS } from "../../workspace/learned-files.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import { carriedFilesOf, type CarriedFiles } from "./carry.js";
import { currentVersion, versionNamed } from "./versions.js";

/** Where an upgrade keeps what was before: the definition, the decisions, and a note of what it made of them. */
const DECISIONS = "decisions";
const NOTE = "upgraded.yaml";

interface UpgradeNote {
  readonly from: string;
  readonly to: string;
  /** Whether the definition of before was shipped, so that none of the workspace's own comes back. */
  readonly shipped: boolean;
  /** The decision files as they were written, by their sums. */
  readonly wrote: Readonly<Record<string, string>>;
}

/** What an upgrade did. */
export interface Upgraded extends Comparison {
  readonly from: string;
  readonly to: string;
  readonly carried: CarriedFiles;
}

const sumOf = (bytes: Buffer): string => createHash("sha256").update(bytes).digest("hex");

/** All files of a definition's folder but those of its other versions, by their names from there. */
async function filesOf(folder: string, within = ""): Promise<readonly string[]> {
  const found: string[] = [];
  for (const name of await namesIn(join(folder, within), within)) {
    const path = within === "" ? name : `${within}/${name}`;
    if (path === VERSIONS || path === DECISIONS || path === NOTE) continue;
    const inner = /\.[A-Za-z0-9]{1,5}$/.test(name) ? [] : await filesOf(folder, path);
    if (inner.length > 0) addAll(found, inner);
    else found.push(path);
  }
  return found;
}

const bytesOf = (folder: string, name: string): Promise<Buffer> => smallFile(join(folder, name), name);

/**
 * Takes a learned version into use: the definition comes in the place of the old one, which is kept with all decisions as
 * they were, and our decision files are carried over. Nothing is lost: {@link downgrade} brings back what was.
 */
export async function upgrade(open: WritableCatalogue, channel: string, version: string): Promise<Upgraded> {
  const { workspace, landing, store } = open;
  const { root } = workspace;
  const around = await open.surroundings();
  const before = await currentVersion(root, channel, around);
  if (before.version === version)
    throw new Refusal([
      diagnostic("cannot-upgrade", { channel, reason: `it is at version ${version} already` }),
    ]);
  const after = await versionNamed(root, channel, version, around);
  const comparison = compareDefinitions(before.definition, after.definition);
  const attributes = await store.attributes();
  const isInUse = workspace.channelsInUse.includes(channel);
  const carried: CarriedFiles = isInUse
    ? await carriedFilesOf(workspace, channel, {
        before: before.definition,
        after: after.definition,
        renamings: comparison.renamings,
        attributes,
      })
    : new Map();
  const own = join(root, "definitions", channel);
  const isShipped = before.folder.path !== own;
  const kept = join(own, VERSIONS, before.version);
  if (!isShipped) {
    const names = await filesOf(own);
    for (const name of names) {
      const bytes = await bytesOf(own, name);
      await landing.edit(join(kept, name), () => bytes);
      await landing.edit(join(own, name), () => undefined);
    }
  }
  for (const name of await filesOf(after.folder.path)) {
    const bytes = await bytesOf(after.folder.path, name);
    await landing.edit(join(own, name), () => bytes);
  }
  const wrote = new Map<string, string>();
  for (const [name, { bytes }] of carried) {
    const path = workspace.path("channels", channel, name);
    const was = await smallFile(path, name);
    await landing.edit(join(kept, DECISIONS, name), () => was);
    await landing.edit(path, () => bytes);
    wrote.set(name, sumOf(bytes));
  }
  const note: UpgradeNote = {
    from: before.version,
    to: version,
    shipped: isShipped,
    wrote: Object.fromEntries(wrote),
  };
  await landing.edit(join(own, NOTE), () => stringify(note));
  return { ...comparison, from: before.version, to: version, carried };
}

async function noteOf(folder: string, channel: string): Promise<UpgradeNote> {
  if (!isThere(join(folder, NOTE), NOTE))
    throw new Refusal([
      diagnostic("cannot-upgrade", { channel, reason: "no upgrade is known that could be taken back" }),
    ]);
  return parse((await bytesOf(folder, NOTE)).toString()) as UpgradeNote;
}

/** What taking it back did. */
export interface Downgraded {
  readonly from: string;
  readonly to: string;
  readonly files: readonly string[];
}

/**
 * Takes the last upgrade back: the definition and the decisions are what they were before it.
 * @throws Refusal where decisions were changed since, unless they may be lost
 */
export async function downgrade(
  { workspace, landing }: WritableCatalogue,
  channel: string,
  mayLose: boolean,
): Promise<Downgraded> {
  const own = join(workspace.root, "definitions", channel);
  const { from, to, shipped, wrote } = await noteOf(own, channel);
  const kept = join(own, VERSIONS, from);
  const changed: string[] = [];
  for (const [name, sum] of Object.entries(wrote)) {
    const path = workspace.path("channels", channel, name);
    if (!isThere(path, name) || sumOf(await smallFile(path, name)) !== sum) changed.push(name);
  }
  if (changed.length > 0 && !mayLose)
    throw new Refusal([
      diagnostic("cannot-upgrade", {
        channel,
        reason: `${changed.join(", ")} ${changed.length === 1 ? "was" : "were"} changed since the upgrade, and going back would lose that; --yes goes back all the same`,
      }),
    ]);
  for (const name of await filesOf(own)) await landing.edit(join(own, name), () => undefined);
  if (!shipped)
    for (const name of await filesOf(kept)) {
      const bytes = await bytesOf(kept, name);
      await landing.edit(join(own, name), () => bytes);
      await landing.edit(join(kept, name), () => undefined);
    }
  for (const name of Object.keys(wrote)) {
    const bytes = await bytesOf(join(kept, DECISIONS), name);
    await landing.edit(workspace.path("channels", channel, name), () => bytes);
    await landing.edit(join(kept, DECISIONS, name), () => undefined);
  }
  await landing.edit(join(own, NOTE), () => undefined);
  return { from: to, to: from, files: Object.keys(wrote) };
}
