import { createHash } from "node:crypto";
import { existsSync } from "node:fs";
import { mkdir, open, readdir, rename, type FileHandle } from "node:fs/promises";
import { join } from "node:path";
import { deserialize, serialize } from "node:v8";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { writeFault } from "../../formats/file-fault.js";
import { fileStats } from "../../formats/small-file.js";
import type { FamilyRange } from "../../store/store.js";
import type { BuiltPart } from "./part-build.js";

/** Which part of how many. */
export interface PartNumber {
  readonly part: number;
  readonly of: number;
}

/** A stretch of the catalogue, with what came of it on each channel. */
interface BuiltStretch {
  readonly range: FamilyRange;
  readonly made: readonly BuiltPart[];
}

/** A part of a build on its way into its file: a mark of the build, then stretch by stretch, and at the end a sum of it all. */
export interface PartFile {
  add(stretch: BuiltStretch): Promise<void>;
  /** Lets the file appear under its name, whole. */
  finish(): Promise<string>;
}

const nameOf = ({ part, of }: PartNumber): string => `${part}-of-${of}.part`;
const named = /^\d+-of-(\d+)\.part$/;

const LENGTH_BYTES = 4;
const SUM_BYTES = 32;
const PIECE = 1 << 20;

const framed = (value: unknown): Buffer => {
  const bytes = serialize(value);
  const length = Buffer.alloc(LENGTH_BYTES);
  length.writeUInt32LE(bytes.length);
  return Buffer.concat([length, bytes]);
};

export const createPart = async (folder: string, number: PartNumber, mark: string): Promise<PartFile> => {
  const path = join(folder, nameOf(number));
  const attempt = async <T>(work: () => Promise<T>): Promise<T> => {
    try {
      return await work();
    } catch (error) {
      throw writeFault(path, error);
    }
  };
  await attempt(() => mkdir(folder, { recursive: true }));
  const unfinished = `${path}.unfinished`;
  const file = await attempt(() => open(unfinished, "w"));
  const sum = createHash("sha256");
  const write = (bytes: Buffer): Promise<void> =>
    attempt(async () => {
      sum.update(bytes);
      await file.writeFile(bytes);
    });
  await write(framed(mark));
  return {
    add: (stretch) => write(framed(stretch)),
    finish: () =>
      attempt(async () => {
        await file.writeFile(sum.digest());
        await file.sync();
        await file.close();
        await rename(unfinished, path);
        return path;
      }),
  };
};

const refused = (reason: string): Refusal => new Refusal([diagnostic("unknown-option", { reason })]);

const tornPart = (path: string): Refusal => refused(`--join: "${path}" is not whole: build that part again`);

/** The parts that lie in a folder, in their order. */
const partsIn = async (folder: string): Promise<readonly PartNumber[]> => {
  const names = existsSync(folder) ? (await readdir(folder)).filter((name) => named.test(name)) : [];
  const counts = new Set(names.map((name) => Number(named.exec(name)?.[1])));
  const [of] = counts;
  if (of === undefined) throw refused(`--join: there is no part of a build in "${folder}"`);
  if (counts.size > 1)
    throw refused(`--join: the parts in "${folder}" are of several builds: of ${[...counts].join(", of ")}`);
  const parts = Array.from({ length: of }, (_, at) => ({ part: at + 1, of }));
  for (const number of parts)
    if (!names.includes(nameOf(number)))
      throw refused(`--join: part ${number.part} of ${of} is not in "${folder}"`);
  return parts;
};

/** Whether a file's bytes are those that were summed up at its end. */
const isWhole = async (file: FileHandle, size: number): Promise<boolean> => {
  if (size < SUM_BYTES) return false;
  const sum = createHash("sha256");
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
};

/** What bytes say; whoever writes a sum of their own may have written anything before it. */
const valueOf = (bytes: Buffer, path: string): unknown => {
  try {
    return deserialize(bytes);
  } catch {
    throw tornPart(path);
  }
};

/** The values of a whole file one after the other; none is longer than what the file still has. */
async function* valuesIn(file: FileHandle, size: number, path: string): AsyncGenerator {
  const length = Buffer.alloc(LENGTH_BYTES);
  const end = size - SUM_BYTES;
  for (let at = 0; at < end;) {
    await file.read(length, 0, LENGTH_BYTES, at);
    const from = at + LENGTH_BYTES;
    if (length.readUInt32LE() > end - from) throw tornPart(path);
    const bytes = Buffer.alloc(length.readUInt32LE());
    await file.read(bytes, 0, bytes.length, from);
    yield valueOf(bytes, path);
    at = from + bytes.length;
  }
}

/**
 * All stretches of a build whose parts lie in a folder, in catalogue order.
 * @throws Refusal where a part is missing, torn, or of another build than this one
 */
export async function* joinedParts(folder: string, mark: string): AsyncGenerator<BuiltStretch> {
  for (const number of await partsIn(folder)) {
    const path = join(folder, nameOf(number));
    const { size } = await fileStats(path, path);
    const file = await open(path, "r");
    try {
      if (!(await isWhole(file, size))) throw tornPart(path);
      const values = valuesIn(file, size, path);
      const own = await values.next();
      if (own.value !== mark)
        throw refused(
          `--join: "${path}" is of another build: of other channels, options or decisions, another catalogue or day; build that part again`,
        );
      for await (const stretch of values) yield stretch as BuiltStretch;
    } finally {
      await file.close();
    }
  }
}
