import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import type { Readable } from "node:stream";
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

/** Makes a source of a stream of chunks. */
export const sourceOf = (
  file: string,
  begin: () => Promise<AsyncIterator<Buffer>>,
  about: Partial<Pick<ByteSource, "size" | "path">> & {
    readonly atEnd?: (bytes: number) => Promise<void>;
    readonly close?: () => void;
    readonly bytesRead?: () => number;
  } = {},
): ByteSource => {
  let iterator: AsyncIterator<Buffer> | undefined;
  let first: Buffer | undefined;
  let [bytes, ended] = [0, false];
  const next = async (): Promise<Buffer | undefined> => {
    try {
      iterator ??= await begin();
      const step = await iterator.next();
      if (step.done === true) {
        if (!ended) await about.atEnd?.(bytes);
        ended = true;
        return undefined;
      }
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
      const head = first ?? (await next());
      if (head !== undefined) yield head;
      for (let chunk = await next(); chunk !== undefined; chunk = await next()) yield chunk;
    },
    async close() {
      await iterator?.return?.();
      about.close?.();
    },
  };
};

/**
 * A file's bytes. A file that another program still writes to is refused when its end is reached: half of it would be
 * taken for the whole.
 */
export const fileSource = async (path: string, file: string): Promise<ByteSource> => {
  const before = await fileStats(path, file);
  return sourceOf(
    file,
    () =>
      Promise.resolve(
        createReadStream(path, { highWaterMark: CHUNK_BYTES })[
          Symbol.asyncIterator
        ]() as AsyncIterator<Buffer>,
      ),
    {
      path,
      size: before.size,
      async atEnd(bytes) {
        const after = await stat(path);
        const grew = after.size !== before.size || after.mtimeMs !== before.mtimeMs;
        if (grew || bytes !== before.size) throw new Refusal([diagnostic("file-changed", { path: file })], 3);
      },
    },
  );
};

/** Standard input's bytes. */
export const inputSource = (input: Readable, file = "standard input"): ByteSource =>
  sourceOf(file, () => Promise.resolve(input[Symbol.asyncIterator]() as AsyncIterator<Buffer>));

/** All bytes at once, for formats that cannot be streamed; refused beyond a limit. */
export const allBytes = async (source: ByteSource, limit: number): Promise<Buffer> => {
  const parts: Buffer[] = [];
  let length = 0;
  for await (const chunk of source.chunks()) {
    length += chunk.length;
    if (length > limit)
      throw new Refusal([diagnostic("file-too-large", { path: source.file, limit: limit >> 20 })]);
    parts.push(chunk);
  }
  return Buffer.concat(parts);
};
