/**
 * A landing: files are staged beside their targets, the record says which come and go, and the store's commit decides.
 * Whoever comes next ends what a kill left.
 */
import { randomBytes } from "node:crypto";
import { existsSync } from "node:fs";
import { basename, dirname } from "node:path";
import { smallFile } from "../../formats/small-file.js";
import { openFolders, type StagedFiles } from "./open-folders.js";
import { putInPlace, takeBack } from "./put-in-place.js";
import { countedFile } from "./staged-file.js";
import { throughLinks } from "./through-links.js";
import { forgetRecord, writeRecord } from "./written-record.js";

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

/** Starts a landing. Only the holder of the workspace's lock may: there is one record. */
export function landing({ root, command, at, cwd }: LandingWish): Landing {
  const mark = randomBytes(8).toString("hex");
  const staging = openFolders(root, cwd, { mark, command, at });
  const edits = new Map<string, Buffer | undefined>();
  let isDecided = false;
  const stageEdits = async (): Promise<void> => {
    for (const [path, bytes] of edits) {
      if (bytes === undefined) {
        (await staging.folderFor(dirname(path))).goes.add(basename(path));
        continue;
      }
      const file = await staging.create(dirname(path), basename(path));
      await file.writeBytes(bytes);
      await file.finish();
    }
  };
  return {
    into: (folder) => staging.into(folder),
    async edit(path, change) {
      const target = await throughLinks(path);
      const before = edits.has(target) ? edits.get(target) : await bytesOf(target, staging.shown(target));
      const after = change(before);
      const bytes = typeof after === "string" ? Buffer.from(after) : after;
      if (bytes !== before) edits.set(target, bytes);
    },
    async land(decide) {
      await stageEdits();
      if (staging.isEmpty()) {
        await decide?.(mark);
        isDecided = true;
        return;
      }
      await staging.refuseFolders();
      const whole = staging.record(decide === undefined);
      await writeRecord(root, whole, true);
      isDecided = decide === undefined;
      await decide?.(mark);
      isDecided = true;
      await putInPlace(root, whole);
      await forgetRecord(root);
    },
    async discard() {
      if (isDecided) return;
      await takeBack(root, staging.record(false)).catch(() => undefined);
      if (staging.isRecorded()) await forgetRecord(root).catch(() => undefined);
    },
  };
}

/** Files of a folder that are counted, and never written. */
export const countedFiles = (): StagedFiles => ({
  create: (name) => Promise.resolve(countedFile(name)),
  remove: () => undefined,
  discard: () => Promise.resolve(),
});

const bytesOf = async (path: string, shown: string): Promise<Buffer | undefined> =>
  existsSync(path) ? smallFile(path, shown) : undefined;
