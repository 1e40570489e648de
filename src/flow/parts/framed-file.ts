/** A file of values with a sum of all its bytes: what is torn or of another time is known as such. */
import { createHash } from "node:crypto";
import { open, rename, type FileHandle } from "node:fs/promises";
import { deserialize, serialize } from "node:v8";

/**
 * A file of values one after the other, with what is to be known of them all and a sum of all its bytes at its end. It is
 * for this program and this machine: it may lie where others write too, so that nothing of it is believed but its sum.
 */
export interface FramedWriter {
  add(value: unknown): Promise<void>;
  /** Lets the file appear under its name, whole. */
  finish(about: unknown): Promise<void>;
  /** Gives up; nothing appears. */
  close(): Promise<void>;
}

/** A file of values, opened. */
export interface FramedFile {
  readonly about: unknown;
  values(): AsyncGenerator;
  close(): Promise<void>;
}

/** For files that are nothing but a cache: where there is none, it is done without. */
export const orNothing = <T>(work: Promise<T>): Promise<T | undefined> => work.catch(() => undefined);

const LENGTH_BYTES = 4;
/** Quick: it finds what is torn, and nobody who means harm. */
const SUM = "sha1";
const SUM_BYTES = 20;
const PIECE = 1 << 20;

function lengthOf(bytes: Buffer): Buffer {
  const length = Buffer.alloc(LENGTH_BYTES);
  length.writeUInt32LE(bytes.length);
  return length;
}

/** What is not whole has another name, so that nobody takes it for more than it is. */
export const unfinishedName = (path: string): string => `${path}.unfinished`;

/** Begins such a file, beside its name. */
export async function createFramed(path: string): Promise<FramedWriter> {
  const file = await open(unfinishedName(path), "w");
  const sum = createHash(SUM);
  const write = async (bytes: Buffer): Promise<void> => {
    sum.update(bytes);
    await file.writeFile(bytes);
  };
  return {
    async add(value) {
      const bytes = serialize(value);
      await write(Buffer.concat([lengthOf(bytes), bytes]));
    },
    async finish(about) {
      const bytes = serialize(about);
      await write(Buffer.concat([bytes, lengthOf(bytes)]));
      await file.writeFile(sum.digest());
      await file.close();
      await rename(unfinishedName(path), path);
    },
    close: () => file.close(),
  };
}

/** Whether a file's bytes are those that were summed up at its end. */
async function isWhole(file: FileHandle, size: number): Promise<boolean> {
  if (size < SUM_BYTES + LENGTH_BYTES) return false;
  const sum = createHash(SUM);
  const piece = Buffer.alloc(PIECE);
  for (let at = 0; at < size - SUM_BYTES;) {
    const { bytesRead } = await file.read(piece, 0, Math.min(PIECE, size - SUM_BYTES - at), at);
    if (bytesRead === 0) return false;
    sum.update(piece.subarray(0, bytesRead));
    at += bytesRead;
  }
  const kept = Buffer.alloc(SUM_BYTES);
  await file.read(kept, 0, SUM_BYTES, size - SUM_BYTES);
  return sum.digest().equals(kept);
}

/** What bytes say; whoever writes a sum of their own may have written anything before it. */
function valueOf(bytes: Buffer): unknown {
  try {
    return deserialize(bytes);
  } catch {
    throw new Torn();
  }
}

/** A file that says of itself that it is whole, and is not. */
export class Torn extends Error {}

/** Opens a file of values; undefined where it is not whole. */
export async function openFramed(path: string): Promise<FramedFile | undefined> {
  const file = await open(path, "r");
  const at = async (from: number, length: number): Promise<Buffer> => {
    const bytes = Buffer.alloc(length);
    await file.read(bytes, 0, length, from);
    return bytes;
  };
  try {
    const { size } = await file.stat();
    if (!(await isWhole(file, size))) throw new Torn();
    const end = size - SUM_BYTES - LENGTH_BYTES;
    const length = (await at(end, LENGTH_BYTES)).readUInt32LE();
    if (length > end) throw new Torn();
    const about = valueOf(await at(end - length, length));
    return {
      about,
      async *values() {
        // None is longer than what the file still has.
        for (let from = 0; from < end - length;) {
          const own = (await at(from, LENGTH_BYTES)).readUInt32LE();
          from += LENGTH_BYTES;
          if (own > end - length - from) throw new Torn();
          yield valueOf(await at(from, own));
          from += own;
        }
      },
      close: () => file.close(),
    };
  } catch (error) {
    await file.close();
    if (error instanceof Torn) return undefined;
    throw error;
  }
}
