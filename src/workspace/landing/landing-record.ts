/**
 * The one record of what a command is about to change. Read as a stranger's: nothing of it leads out of the workspace.
 */
import { isAbsolute, join, relative, resolve, sep } from "node:path";

/** What becomes of a folder's files when a landing is decided. */
export interface LandingFolder {
  /** From the workspace's folder where it lies in it, else whole. */
  readonly folder: string;
  /** Files that come, in their order. */
  readonly comes: readonly string[];
  /** Files of before that go. */
  readonly goes: readonly string[];
}

/** The one record of what a command is about to change: whoever opens the workspace next ends it by this. */
export interface LandingRecord {
  /** Names the landing in the store, and its staging folders. */
  readonly mark: string;
  readonly command: string;
  /** ISO 8601 */
  readonly at: string;
  /** Whether it holds whatever the store says; else the store's own commit decides. */
  readonly decided: boolean;
  readonly folders: readonly LandingFolder[];
}

const STAGING = ".landing-";
const NAME_LIMIT = 255;

/** Where the record lies. */
export const recordPath = (root: string): string => join(root, ".lexicant", "landing.json");

/** The staging folder of a landing within a folder. */
export const stagingIn = (folder: string, mark: string): string => join(folder, `${STAGING}${mark}`);

/** Whether a name is that of a staging folder. */
export const isStaging = (name: string): boolean => name.startsWith(STAGING);

/** A folder as the record says it. */
export function folderName(root: string, folder: string): string {
  const inside = relative(root, folder);
  return inside === ".." || inside.startsWith(`..${sep}`) || isAbsolute(inside) ? folder : inside;
}

/** The folder that a record names. */
export const folderOf = (root: string, { folder }: LandingFolder): string => resolve(root, folder);

const isRecord = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** A name inside its folder, and no way out of it. */
const isInside = (name: unknown): name is string =>
  typeof name === "string" &&
  name !== "" &&
  name !== "." &&
  name !== ".." &&
  name.length <= NAME_LIMIT &&
  !/[/\\\0]/.test(name) &&
  !isStaging(name);

const names = (value: unknown): readonly string[] | undefined =>
  Array.isArray(value) && value.every(isInside) ? value : undefined;

function landingFolder(value: unknown): LandingFolder | undefined {
  if (!isRecord(value)) return undefined;
  const { folder } = value;
  const [comes, goes] = [names(value["comes"]), names(value["goes"])];
  if (typeof folder !== "string" || folder.includes("\0") || comes === undefined || goes === undefined)
    return undefined;
  const climbs = !isAbsolute(folder) && folder.split(/[/\\]/).includes("..");
  return climbs ? undefined : { folder, comes, goes };
}

/** A record as it stands on disk; undefined where it is none of ours: nothing is done by it then. */
export function landingRecord(text: string): LandingRecord | undefined {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return undefined;
  }
  if (!isRecord(value)) return undefined;
  const { mark, command, at, decided, folders: listed } = value;
  if (typeof mark !== "string" || !/^[0-9a-f]{16}$/.test(mark)) return undefined;
  if (typeof command !== "string" || typeof at !== "string" || typeof decided !== "boolean") return undefined;
  if (!Array.isArray(listed)) return undefined;
  const folders = listed.map(landingFolder).filter((folder) => folder !== undefined);
  return folders.length === listed.length ? { mark, command, at, decided, folders } : undefined;
}
