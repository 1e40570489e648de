import { plainFinding, type FieldFact } from "../finding.js";
import { listed, orNearest, quote } from "../phrases.js";

/** What a person wrote: the workspace's files, options, names. */
export const settings = {
  "no-workspace": plainFinding<{ readonly folder: string }>(
    ({ folder }, files) =>
      `there is no ${files.manifest} in ${quote(folder)} or above it; run "lexicant init" there, or name a workspace with -C`,
  ),
  "no-such-workspace": plainFinding<{
    readonly by: string;
    readonly folder: string;
    readonly nearest: readonly string[];
  }>(
    ({ by, folder, nearest }, files) =>
      `${by} names no workspace: there is no ${files.manifest} in ${quote(folder)}${orNearest(nearest)}`,
  ),
  "workspace-gone": plainFinding<{ readonly folder: string }>(
    ({ folder }, files) =>
      `the workspace is gone: there is no ${files.manifest} in ${quote(folder)} any more; nothing is watched`,
  ),
  "workspace-exists": plainFinding<{ readonly folder: string }>(
    ({ folder }) => `${quote(folder)} is a workspace already; nothing was changed`,
  ),
  "folder-not-empty": plainFinding<{ readonly folder: string }>(
    ({ folder }) => `${quote(folder)} is not empty; name a new folder`,
  ),
  "yaml-syntax": plainFinding<{ readonly reason: string }>(({ reason }) => `the file is not YAML: ${reason}`),
  "wrong-setting": plainFinding<{ readonly key: string; readonly reason: string }>(
    ({ key, reason }) => `${key}: ${reason}`,
  ),
  "unknown-setting": plainFinding<{ readonly key: string; readonly nearest: readonly string[] }>(
    ({ key, nearest }) => `${quote(key)} is no setting here${orNearest(nearest)}`,
  ),
  "cannot-learn": plainFinding<{ readonly channel: string; readonly reason: string }>(
    ({ channel, reason }) => `${channel} was not learned: ${reason}; nothing was written`,
  ),
  "definition-exists": plainFinding<{ readonly channel: string; readonly folder: string }>(
    ({ channel, folder }) =>
      `${quote(folder)} is there already; learn it again in its place with --yes (what you changed in it stays), or beside it as a new version with --as VERSION: lexicant channels learn ${channel} FILE... --as VERSION`,
  ),
  "no-such-version": plainFinding<{
    readonly channel: string;
    readonly version: string;
    readonly known: readonly string[];
  }>(
    ({ channel, version, known }) =>
      `${channel} has no version ${quote(version)} here${known.length === 0 ? "" : `; there ${known.length === 1 ? "is" : "are"} ${listed(known)}`}. Learn one with: lexicant channels learn ${channel} FILE... --as ${version}`,
  ),
  "cannot-upgrade": plainFinding<{ readonly channel: string; readonly reason: string }>(
    ({ channel, reason }) => `${channel} stays as it is: ${reason}`,
  ),
  "missing-file": plainFinding<{ readonly path: string; readonly what: string }>(
    ({ path, what }) => `${what} ${quote(path)} does not exist`,
  ),
  "unknown-channel": plainFinding<{
    readonly channel: string;
    readonly nearest: readonly string[];
    readonly known: readonly string[];
  }>(
    ({ channel, nearest, known }) =>
      `there is no channel ${quote(channel)}${nearest.length > 0 ? orNearest(nearest) : `; there are: ${listed(known)}`}`,
  ),
  "channel-not-in-use": plainFinding<{
    readonly channel: string;
    readonly inUse: readonly string[];
    readonly nearest?: readonly string[];
  }>(({ channel, inUse, nearest = [] }) =>
    nearest.length > 0
      ? `${quote(channel)} is not in use in this workspace${orNearest(nearest)}`
      : `${quote(channel)} is not in use in this workspace${inUse.length === 0 ? "" : ` (in use: ${listed(inUse)})`}; take it into use with "lexicant channels add ${channel}"`,
  ),
  "unknown-source": plainFinding<{ readonly source: string; readonly known: readonly string[] }>(
    ({ source, known }, files) =>
      `there is no source ${quote(source)}${known.length === 0 ? "" : `; there are: ${listed(known)}`} (write ${files.source(source)})`,
  ),
  "unknown-layer": plainFinding<{
    readonly layer: string;
    readonly nearest: readonly string[];
    readonly known: readonly string[];
  }>(
    ({ layer, nearest, known }, files) =>
      `${quote(layer)} is no layer of ${files.manifest}${nearest.length > 0 ? orNearest(nearest) : known.length === 0 ? "" : `; its layers are ${listed(known)}`}; add it to the list of layers there`,
  ),
  "unknown-sku": plainFinding<{
    readonly sku: string;
    readonly nearest: readonly string[];
    /** Whether there was one: what named it was undone or removed since. */
    readonly before?: boolean;
  }>(({ sku, nearest, before = false }) =>
    before
      ? `there is no product ${quote(sku)} any more: what named it was undone or removed ("lexicant history")`
      : `there is no product ${quote(sku)}${orNearest(nearest)}; "lexicant list" shows them all`,
  ),
  "unknown-purpose": plainFinding<{
    readonly purpose: string;
    readonly channel: string;
    readonly known: readonly string[];
  }>(
    ({ purpose, channel, known }) =>
      `${channel} takes no ${quote(purpose)} files; its purposes are ${listed(known)}`,
  ),
  "many-withdrawn": plainFinding<{
    readonly channel: string;
    readonly count: number;
    readonly of: number;
    readonly limit: number;
  }>(
    ({ channel, count, of, limit }) =>
      `${count} of the ${of} listings that ${channel} has would be withdrawn, more than ${limit}%; look at them with --dry-run, and if it is meant, build with --yes`,
  ),
  "unknown-good": plainFinding<{ readonly name: string; readonly good: string }>(
    ({ name, good }) =>
      `${quote(good)} is said to be one of, or to belong to, ${quote(name)}, which no table of goods has`,
  ),
  "unknown-option": plainFinding<{ readonly reason: string }>(({ reason }) => reason),
  "unknown-category": plainFinding<{ readonly category: string; readonly nearest: readonly string[] }>(
    ({ category, nearest }) => `${quote(category)} is no category of the channel${orNearest(nearest)}`,
  ),
  "unknown-own-category": plainFinding<{ readonly name: string; readonly nearest: readonly string[] }>(
    ({ name, nearest }) =>
      `no product is in a category ${quote(name)}${orNearest(nearest)}; "lexicant list" shows them`,
  ),
  /** A term of ours is to become a value that the field does not have. */
  "unknown-channel-value": plainFinding<
    FieldFact & {
      readonly value: string;
      readonly nearest: readonly string[];
      readonly channel: string;
      readonly field: string;
    }
  >(
    ({ label, value, nearest, channel, field }) =>
      `${quote(value)} is not a value of ${label}${orNearest(nearest)}; "lexicant values ${channel} ${field}" shows them all`,
  ),
  "unknown-group": plainFinding<{ readonly name: string; readonly nearest: readonly string[] }>(
    ({ name, nearest }) => `there is no group ${quote(name)}${orNearest(nearest)}`,
  ),
  "nothing-chosen": plainFinding<{ readonly by: readonly string[] }>(
    ({ by }) => `no product is meant by ${by.join(" ")}; "lexicant list" shows them all`,
  ),
  "unknown-field": plainFinding<{ readonly field: string; readonly nearest: readonly string[] }>(
    ({ field, nearest }) => `${quote(field)} is no field of the channel${orNearest(nearest)}`,
  ),
  "contradicting-rows": plainFinding<{ readonly what: string; readonly first: string }>(
    ({ what, first }) => `two rows decide ${what}; the first is ${first}: keep one`,
  ),
  "closed-category": plainFinding<{ readonly category: string }>(
    ({ category }) => `${quote(category)} takes no listings; choose a category below it`,
  ),
} as const;
