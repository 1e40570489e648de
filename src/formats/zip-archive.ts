/** Archives, within bounds of count, size and ratio, and no path out of them. */
import { fromBuffer, open, type Entry, type ZipFile } from "yauzl";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { sourceOf, type ByteSource } from "./byte-source.js";

/** Beyond these an archive is no delivery but a bomb: most tables shrink to a tenth, few to a hundredth. */
const RATIO_LIMIT = 250;
const FREE_BYTES = 64 << 20;
const TOTAL_LIMIT = 32 * 2 ** 30;
const MEMBERS_LIMIT = 10_000;

function archiveFault(file: string, error: unknown): Error {
  if (error instanceof Refusal) return error;
  if (!(error instanceof Error)) return new Error(String(error));
  const unsafe = /relative path|absolute path|backslash|invalid characters/i.test(error.message);
  return new Refusal([
    unsafe
      ? diagnostic("unsafe-archive", { reason: error.message }, { place: { file } })
      : diagnostic("broken-data", { format: "ZIP", reason: error.message }, { place: { file } }),
  ]);
}

const opened = (from: string | Buffer, file: string): Promise<ZipFile> =>
  new Promise((resolve, reject) => {
    const options = { lazyEntries: true, autoClose: false, validateEntrySizes: true };
    const done = (error: Error | null, zip?: ZipFile): void => {
      if (zip === undefined) reject(archiveFault(file, error));
      else resolve(zip);
    };
    if (typeof from === "string") open(from, options, done);
    else fromBuffer(from, options, done);
  });

const entries = (zip: ZipFile, file: string): Promise<readonly Entry[]> =>
  new Promise((resolve, reject) => {
    const found: Entry[] = [];
    zip.on("error", (error: Error) => reject(archiveFault(file, error)));
    zip.on("entry", (entry: Entry) => {
      found.push(entry);
      if (found.length > MEMBERS_LIMIT)
        reject(bomb(file, `it has more than ${MEMBERS_LIMIT.toLocaleString("en")} members`));
      else zip.readEntry();
    });
    zip.on("end", () => resolve(found));
    zip.readEntry();
  });

const bomb = (file: string, reason: string): Refusal =>
  new Refusal([diagnostic("unsafe-archive", { reason }, { place: { file } })]);

/** Whether so many bytes out of so few are more than any real table gives. */
export const isBomb = (bytesOut: number, bytesIn: number): boolean =>
  bytesOut > FREE_BYTES && bytesOut > bytesIn * RATIO_LIMIT;

function refuseBomb(all: readonly Entry[], file: string): void {
  let total = 0;
  for (const { compressedSize, uncompressedSize, fileName } of all) {
    total += uncompressedSize;
    if (isBomb(uncompressedSize, compressedSize))
      throw bomb(
        file,
        `${fileName} unpacks to ${Math.round(uncompressedSize / 2 ** 20)} MB from almost nothing`,
      );
  }
  if (total > TOTAL_LIMIT) throw bomb(file, `it unpacks to ${Math.round(total / 2 ** 30)} GB`);
}

/** An archive's members, after its names and sizes were found harmless. */
export async function guardedMembers(
  from: string | Buffer,
  file: string,
): Promise<{ readonly zip: ZipFile; readonly members: readonly Entry[] }> {
  const zip = await opened(from, file);
  const members = await entries(zip, file);
  refuseBomb(members, file);
  return { zip, members };
}

const memberStream = (zip: ZipFile, entry: Entry, file: string): Promise<AsyncIterator<Buffer>> =>
  new Promise((resolve, reject) => {
    zip.openReadStream(entry, (error, stream) => {
      // The types say a stream always comes; with an error there is none.
      if (error !== null) reject(archiveFault(file, error));
      else resolve(checkedStream(stream[Symbol.asyncIterator]() as AsyncIterator<Buffer>, file));
    });
  });

async function* checkedStream(stream: AsyncIterator<Buffer>, file: string): AsyncGenerator<Buffer> {
  try {
    for (;;) {
      const step = await stream.next();
      if (step.done === true) return;
      yield step.value;
    }
  } catch (error) {
    throw archiveFault(file, error);
  } finally {
    await stream.return?.();
  }
}

/** One member's bytes as they are unpacked, or undefined when there is none of the name. */
export async function memberChunks(
  from: string | Buffer,
  name: string,
  file: string,
): Promise<AsyncIterable<Buffer> | undefined> {
  const { zip, members } = await guardedMembers(from, file);
  const entry = members.find(({ fileName }) => fileName === name);
  if (entry === undefined) return undefined;
  const stream = await memberStream(zip, entry, file);
  return { [Symbol.asyncIterator]: () => stream };
}

/** One member's bytes, or undefined when there is none of the name. */
export async function memberBytes(
  from: string | Buffer,
  name: string,
  file: string,
): Promise<Buffer | undefined> {
  const chunks = await memberChunks(from, name, file);
  if (chunks === undefined) return undefined;
  const parts: Buffer[] = [];
  for await (const chunk of chunks) parts.push(chunk);
  return Buffer.concat(parts);
}

const isTable = ({ fileName }: Entry): boolean =>
  !fileName.endsWith("/") && !fileName.startsWith("__MACOSX/") && !/(?:^|\/)\./.test(fileName);

/** The files of an archive, each a source of its own, in the order of their names. */
export async function archiveSources(from: string | Buffer, file: string): Promise<readonly ByteSource[]> {
  const { zip, members } = await guardedMembers(from, file);
  const tables = members.filter(isTable).sort((a, b) => (a.fileName < b.fileName ? -1 : 1));
  if (tables.length === 0) throw new Refusal([diagnostic("empty-file", { path: file })]);
  let open = tables.length;
  return tables.map((entry) =>
    sourceOf(`${file}/${entry.fileName}`, () => memberStream(zip, entry, file), {
      size: entry.uncompressedSize,
      close: () => {
        if (--open === 0) zip.close();
      },
    }),
  );
}
