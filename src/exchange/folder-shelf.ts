/** A folder as a shelf of files: what {@link dropCarrier} needs of one. */
import { createReadStream, createWriteStream, existsSync } from "node:fs";
import { link, mkdir, rename, rm } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { pipeline } from "node:stream/promises";
import { ownOf } from "../core/own.js";
import { NameTaken, type FileShelf, type ShelfReason } from "./file-shelf.js";

/** Marks a file that is not whole yet; whoever empties the folder passes over it. */
const COMING = ".coming-";

const words: Readonly<Record<string, string>> = {
  ENOSPC: "the disk is full",
  EDQUOT: "the disk's share for this account is used up",
  EACCES: "nothing may be written there",
  EROFS: "nothing may be written there",
  ENOENT: "it is not there",
  ENOTDIR: "a file stands where a folder is to be",
};

/** An error of the disk in words. */
export function shelfReason(error: unknown): ShelfReason {
  if (error instanceof NameTaken)
    return { reason: "a file of this name lies there already", isBefore: true, isPassing: false };
  const { code = "", message } = error as NodeJS.ErrnoException;
  return {
    reason: ownOf(words, code) ?? message,
    // Only the last step, the renaming, gives the file its name.
    isBefore: code !== "",
    isPassing: false,
  };
}

/** A folder of this machine, or one that is mounted here. */
export const folderShelf = (folder: string): FileShelf => ({
  async put(from, to, told) {
    const target = join(folder, to);
    const coming = join(dirname(target), `${COMING}${basename(target)}`);
    await mkdir(dirname(target), { recursive: true });
    if (existsSync(target)) throw new NameTaken();
    try {
      let length = 0;
      await pipeline(
        createReadStream(from),
        async function* (chunks: AsyncIterable<Buffer>) {
          for await (const chunk of chunks) {
            told((length += chunk.length));
            yield chunk;
          }
        },
        createWriteStream(coming, { flush: true }),
      );
      // A link fails where the name is taken; some file systems have none.
      const isLinked = await link(coming, target).then(
        () => true,
        (error: unknown) => {
          if ((error as NodeJS.ErrnoException).code === "EEXIST") throw new NameTaken();
          return false;
        },
      );
      if (!isLinked) await rename(coming, target);
    } finally {
      await rm(coming, { force: true });
    }
  },
  has: async (path) => Promise.resolve(existsSync(join(folder, path))),
  read: async (path) => Promise.resolve(createReadStream(join(folder, path))),
  reasonOf: shelfReason,
  close: async () => Promise.resolve(),
});
