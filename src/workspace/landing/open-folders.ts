/**
 * The folders of a landing: in each, files are staged beside their targets, and it is known which come and which go. The
 * record names a folder before it has anything, so that what a kill leaves in it is found and cleared.
 */
import { mkdir, readdir, rm } from "node:fs/promises";
import { basename, dirname, join, relative, resolve } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { writeFault } from "../../formats/file-fault.js";
import {
  folderName,
  isStaging,
  stagingIn,
  type LandingFolder,
  type LandingRecord,
} from "./landing-record.js";
import { stagedFile, type StagedFile } from "./staged-file.js";
import { throughLinks } from "./through-links.js";
import { writeRecord } from "./written-record.js";

/** Files of one folder on their way; they come with the landing that they belong to. */
export interface StagedFiles {
  create(name: string): Promise<StagedFile>;
  /** A file of before that goes when the others come. */
  remove(name: string): void;
  /** These files do not come, whatever else lands. */
  discard(): Promise<void>;
}

/** A folder, by what it really is behind links, and the names of files that come and go there. */
interface OpenFolder {
  readonly folder: string;
  readonly comes: Set<string>;
  readonly goes: Set<string>;
}

/** All folders of one landing. */
export interface OpenFolders {
  isEmpty(): boolean;
  /** Whether a record of them was written. */
  isRecorded(): boolean;
  record(decided: boolean): LandingRecord;
  /** A path as messages show it: from the workspace's folder, or from where the person stands. */
  shown(path: string): string;
  /** Opens a folder, or gives it opened. @throws Refusal when it cannot be written to */
  folderFor(folder: string): Promise<OpenFolder>;
  /** Stages a file; a link is written through. */
  create(folder: string, name: string): Promise<StagedFile>;
  into(folder: string): Promise<StagedFiles>;
  /** A folder where a file is to stand would stop a landing that is decided already. @throws Refusal */
  refuseFolders(): Promise<void>;
}

/** Begins without any. */
export function openFolders(
  root: string,
  /** The folder that a person's own paths count from. */
  cwd: string,
  about: Pick<LandingRecord, "mark" | "command" | "at">,
): OpenFolders {
  const { mark } = about;
  const folders = new Map<string, OpenFolder>();
  let isRecorded = false;
  const shown = (path: string): string => {
    const name = folderName(root, path);
    return name === path ? relative(cwd, path) : name || ".";
  };
  const record = (decided: boolean): LandingRecord => ({
    ...about,
    decided,
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
  const into = async (folder: string): Promise<StagedFiles> => {
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
  };
  return {
    record,
    shown,
    folderFor,
    create,
    into,
    isEmpty: () => folders.size === 0,
    isRecorded: () => isRecorded,
    async refuseFolders() {
      for (const { folder, comes } of folders.values())
        for (const entry of await readdir(folder, { withFileTypes: true }))
          if (entry.isDirectory() && comes.has(entry.name))
            throw new Refusal(
              [
                diagnostic("cannot-write", {
                  path: shown(join(folder, entry.name)),
                  reason: "it is a folder",
                }),
              ],
              3,
            );
    },
  };
}

/** Staging folders that no record knows any more. Outside of the workspace another one's may be at work. */
async function sweep(root: string, folder: string, mark: string): Promise<void> {
  if (folderName(root, folder) === folder) return;
  for (const entry of await readdir(folder))
    if (isStaging(entry) && join(folder, entry) !== stagingIn(folder, mark))
      await rm(join(folder, entry), { recursive: true, force: true });
}
