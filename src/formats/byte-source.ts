/** Bytes that come in, whatever they come from; the beginning can be looked at before they are read. */
import { closeSync, fstatSync, openSync, read } from "node:fs";
import type { Readable } from "node:stream";
import { promisify } from "node:util";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { readFault } from "./file-fault.js";
import { fileStats } from "./small-file.js";

/** Bytes that come in: a file, a member of an archive, or standard input. They are read once. */
export interface ByteSource {
  /** As messages name it. */
  readonly file: string;
  /** Bytes in all, where that is known. */
  readonly size: number | undefined;
  /** The first bytes, which come again in {@link chunks}. */
  head(): Promise<Buffer>;
  chunks(): AsyncGenerator<Buffer>;
  /** Where the bytes lie in a file of their own, its path. */
  readonly path: string | undefined;
  /** Bytes of the file on disk that have been read so far, for progress. */
  bytesRead(): number;
  close(): Promise<void>;
}

const CHUNK_BYTES = 1 << 20;

const readAt = promisify(read);

/** Makes a source of a stream of chunks. */
export function sourceOf(
  file: string,
  begin: () => Promise<AsyncIterator<Buffer>>,
  about: Partial<Pick<ByteSource, "size" | "path">> & {
    readonly close?: () => void;
    readonly bytesRead?: () => number;
  } = {},
): ByteSource {
  let iterator: AsyncIterator<Buffer> | undefined;
  let first: Buffer | undefined;
  let bytes = 0;
  const next = async (): Promise<Buffer | undefined> => {
    try {
      iterator ??= await begin();
      const step = await iterator.next();
      if (step.done === true) return undefined;
      bytes += step.value.length;
      return step.value;
    } catch (error) {
      throw readFault(file, error);
    }
  };
  return {
    file,
    size: about.size,
    path: about.path,
    bytesRead: about.bytesRead ?? (() => bytes),
    async head() {
      first ??= (await next()) ?? Buffer.alloc(0);
      return first;
    },
    async *chunks() {
      try {
        const head = first ?? (await next());
        if (head !== undefined) yield head;
        for (let chunk = await next(); chunk !== undefined; chunk = await next()) yield chunk;
      } finally {
        await iterator?.return?.();
      }
    },
    async close() {
      await iterator?.return?.();
      about.close?.();
    },
  };
}

/** A file's bytes. */
export async function fileSource(path: string, file: string): Promise<ByteSource> {
  const { size } = await fileStats(path, file);
  return sourceOf(file, () => Promise.resolve(chunksOf(path, file)), { path, size });
}

/**
 * The bytes of the file that stands there now, whatever comes in its place meanwhile. A file that another program still
 * writes to is refused when its end is reached: half of it would be taken for the whole.
 */
async function* chunksOf(path: string, file: string): AsyncGenerator<Buffer> {
  const fd = openSync(path, "r");
  try {
    const before = fstatSync(fd);
    let bytes = 0;
    while (bytes <= before.size) {
      // One byte more than there was: so that it shows when the file grew.
      const chunk = Buffer.allocUnsafe(Math.min(CHUNK_BYTES, before.size - bytes + 1));
      const { bytesRead } = await readAt(fd, chunk, 0, chunk.length, bytes);
      if (bytesRead === 0) break;
      bytes += bytesRead;
      yield chunk.subarray(0, bytesRead);
    }
    const after = fstatSync(fd);
    const hasChanged = after.size !== before.size || after.mtimeMs !== before.mtimeMs;
    if (hasChanged || bytes !== before.size)
      throw new Refusal([diagnostic("file-changed", { path: file })], 3);
  } finally {
    closeSync(fd);
  }
}

/** Standard input's bytes. */
export const inputSource = (input: Readable, file = "standard input"): ByteSource =>
  sourceOf(file, () => Promise.resolve(input[Symbol.asyncIterator]() as AsyncIterator<Buffer>));

/** All bytes at once, for formats that cannot be streamed; refused beyond a limit. */
export async function allBytes(source: ByteSource, limit: number): Promise<Buffer> {
  const parts: Buffer[] = [];
  let length = 0;
  for await (const chunk of source.chunks()) {
    length += chunk.length;
    if (length > limit)
      throw new Refusal([diagnostic("file-too-large", { path: source.file, limit: limit >> 20 })]);
    parts.push(chunk);
  }
  return Buffer.concat(parts);
}
