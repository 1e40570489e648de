/**
 * A landing: files are staged beside their targets, the record says which come and go, and the store's commit decides.
 * Whoever comes next ends what a kill left.
 */
import { randomBytes } from "node:crypto";
import { existsSync } from "node:fs";
import { mkdir, open, readdir, rename, rm } from "node:fs/promises";
import { basename, dirname, join, relative, resolve } from "node:path";
import { writeFault } from "../../formats/file-fault.js";
import { smallFile } from "../../formats/small-file.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import {
  folderName,
  isStaging,
  recordPath,
  stagingIn,
  type LandingFolder,
  type LandingRecord,
} from "./landing-record.js";
import { putInPlace, takeBack } from "./put-in-place.js";
import { countedFile, stagedFile, type StagedFile } from "./staged-file.js";
import { syncFolder } from "./sync-folder.js";
import { throughLinks } from "./through-links.js";

/** Files of one folder on their way; they come with the landing that they belong to. */
export interface StagedFiles {
  create(name: string): Promise<StagedFile>;
  /** A file of before that goes when the others come. */
  remove(name: string): void;
  /** These files do not come, whatever else lands. */
  discard(): Promise<void>;
}

/** All that one command changes in files: it lands together, and with the store, or not at all. */
export interface Landing {
  /** Starts files in a folder. */
  into(folder: string): Promise<StagedFiles>;
  /** What a small file is to say; a change of a file that was changed already sees what that made of it. */
  edit(path: string, change: (before: Buffer | undefined) => Buffer | string | undefined): Promise<void>;
  /**
   * Puts everything in place. Where the store changes too, `decide` is its commit, which keeps the mark: from then on
   * all of it holds, whatever happens to this process.
   */
  land(decide?: (mark: string) => Promise<void>): Promise<void>;
  /** Nothing of it holds; once it is decided, this does nothing. */
  discard(): Promise<void>;
}

/** Who lands, and where. */
export interface LandingWish {
  readonly root: string;
  readonly command: string;
  /** ISO 8601 */
  readonly at: string;
  /** The folder that a person's own paths count from. */
  readonly cwd: string;
}

interface OpenFolder {
  readonly folder: string;
  readonly comes: Set<string>;
  readonly goes: Set<string>;
}

/** Starts a landing. Only the holder of the workspace's lock may: there is one record. */
export const landing = ({ root, command, at, cwd }: LandingWish): Landing => {
  const mark = randomBytes(8).toString("hex");
  const folders = new Map<string, OpenFolder>();
  const edits = new Map<string, Buffer | undefined>();
  /** A path as messages show it: from the workspace's folder, or from where the person stands. */
  const shown = (path: string): string => {
    const name = folderName(root, path);
    return name === path ? relative(cwd, path) : name || ".";
  };
  let isDecided = false;
  let isRecorded = false;
  const record = (decided: boolean): LandingRecord => ({
    ...{ mark, command, at, decided },
    folders: [...folders.values()].map(({ folder, comes, goes }): LandingFolder => ({
      folder: folderName(root, folder),
      comes: [...comes],
      goes: [...goes],
    })),
  });
  const folderFor = async (folder: string): Promise<OpenFolder> => {
    const known = folders.get(folder);
    if (known !== undefined) return known;
    const opened: OpenFolder = { folder, comes: new Set(), goes: new Set() };
    folders.set(folder, opened);
    try {
      // The record comes before the folder: what a kill leaves of it is found and cleared.
      await writeRecord(root, record(false), false);
      isRecorded = true;
      await mkdir(folder, { recursive: true });
      await sweep(root, folder, mark);
      await mkdir(stagingIn(folder, mark));
    } catch (error) {
      throw writeFault(shown(folder), error);
    }
    return opened;
  };
  const create = async (folder: string, name: string): Promise<StagedFile> => {
    const target = await throughLinks(join(folder, name));
    const real = await folderFor(dirname(target));
    const own = basename(target);
    real.comes.add(own);
    real.goes.delete(own);
    return stagedFile(name, {
      path: join(stagingIn(real.folder, mark), own),
      target: join(folder, name),
      shown: shown(join(folder, name)),
    });
  };
  const stageEdits = async (): Promise<void> => {
    for (const [path, bytes] of edits) {
      if (bytes === undefined) {
        (await folderFor(dirname(path))).goes.add(basename(path));
        continue;
      }
      const file = await create(dirname(path), basename(path));
      await file.writeBytes(bytes);
      await file.finish();
    }
  };
  return {
    async into(folder) {
      const own: [folder: string, name: string][] = [];
      const real = await folderFor(resolve(folder));
      return {
        async create(name) {
          const target = await throughLinks(join(real.folder, name));
          own.push([dirname(target), basename(target)]);
          return create(real.folder, name);
        },
        remove(name) {
          if (!real.comes.has(name)) real.goes.add(name);
        },
        async discard() {
          real.goes.clear();
          for (const [at, name] of own) {
            folders.get(at)?.comes.delete(name);
            await rm(join(stagingIn(at, mark), name), { force: true }).catch(() => undefined);
          }
        },
      };
    },
    async edit(path, change) {
      const target = await throughLinks(path);
      const before = edits.has(target) ? edits.get(target) : await bytesOf(target, shown(target));
      const after = change(before);
      const bytes = typeof after === "string" ? Buffer.from(after) : after;
      if (bytes !== before) edits.set(target, bytes);
    },
    async land(decide) {
      await stageEdits();
      if (folders.size === 0) {
        await decide?.(mark);
        isDecided = true;
        return;
      }
      for (const { folder, comes } of folders.values()) await refuseFolders(folder, comes, shown);
      const whole = record(decide === undefined);
      await writeRecord(root, whole, true);
      isDecided = decide === undefined;
      await decide?.(mark);
      isDecided = true;
      await putInPlace(root, whole);
      await forgetRecord(root);
    },
    async discard() {
      if (isDecided) return;
      await takeBack(root, record(false)).catch(() => undefined);
      if (isRecorded) await forgetRecord(root).catch(() => undefined);
    },
  };
};

/** Files of a folder that are counted, and never written. */
export const countedFiles = (): StagedFiles => ({
  create: (name) => Promise.resolve(countedFile(name)),
  remove: () => undefined,
  discard: () => Promise.resolve(),
});

const bytesOf = async (path: string, shown: string): Promise<Buffer | undefined> =>
  existsSync(path) ? smallFile(path, shown) : undefined;

/** A folder where a file is to stand would stop a landing that is decided already. */
const refuseFolders = async (
  folder: string,
  comes: ReadonlySet<string>,
  shown: (path: string) => string,
): Promise<void> => {
  for (const entry of await readdir(folder, { withFileTypes: true }))
    if (entry.isDirectory() && comes.has(entry.name))
      throw new Refusal(
        [diagnostic("cannot-write", { path: shown(join(folder, entry.name)), reason: "it is a folder" })],
        3,
      );
};

/** Staging folders that no record knows any more. Outside of the workspace another one's may be at work. */
const sweep = async (root: string, folder: string, mark: string): Promise<void> => {
  if (folderName(root, folder) === folder) return;
  for (const entry of await readdir(folder))
    if (isStaging(entry) && join(folder, entry) !== stagingIn(folder, mark))
      await rm(join(folder, entry), { recursive: true, force: true });
};

const writeRecord = async (root: string, record: LandingRecord, isSure: boolean): Promise<void> => {
  const path = recordPath(root);
  const beside = `${path}.new`;
  await mkdir(dirname(path), { recursive: true });
  const handle = await open(beside, "w");
  try {
    await handle.writeFile(JSON.stringify(record));
    if (isSure) await handle.sync();
  } finally {
    await handle.close();
  }
  await rename(beside, path);
  if (isSure) await syncFolder(dirname(path));
};

const forgetRecord = (root: string): Promise<void> => rm(recordPath(root), { force: true });
