/** A file on its way, beside its target. */
import { createHash } from "node:crypto";
import { chmod, open, stat, writeFile } from "node:fs/promises";
import { writeFault } from "../../formats/file-fault.js";

const BUFFER_CHARACTERS = 1 << 18;
const BUFFER_BYTES = 1 << 18;

/** A file being written beside its target. */
export interface StagedFile {
  write(text: string): Promise<void>;
  writeBytes(bytes: Uint8Array): Promise<void>;
  finish(): Promise<{ readonly name: string; readonly bytes: number; readonly sha256: string }>;
}

/** Where a staged file's bytes go. */
interface Sink {
  put(chunk: Buffer): Promise<void>;
  end(): Promise<void>;
}

function staged(name: string, sink: Sink): StagedFile {
  const hash = createHash("sha256");
  let [waiting, bytes] = ["", 0];
  let [chunks, gathered]: [Buffer[], number] = [[], 0];
  const take = (chunk: Buffer): void => {
    hash.update(chunk);
    bytes += chunk.length;
    chunks.push(chunk);
    gathered += chunk.length;
  };
  const takeText = (): void => {
    const text = waiting;
    waiting = "";
    if (text !== "") take(Buffer.from(text));
  };
  const flush = async (): Promise<void> => {
    const whole = Buffer.concat(chunks, gathered);
    [chunks, gathered] = [[], 0];
    if (whole.length > 0) await sink.put(whole);
  };
  return {
    async write(text) {
      waiting += text;
      if (waiting.length < BUFFER_CHARACTERS) return;
      takeText();
      await flush();
    },
    async writeBytes(binary) {
      takeText();
      // A copy: whoever gave the bytes may use their memory again.
      take(Buffer.from(binary));
      if (gathered >= BUFFER_BYTES) await flush();
    },
    async finish() {
      takeText();
      await flush();
      await sink.end();
      return { name, bytes, sha256: hash.digest("hex") };
    },
  };
}

async function attempt<T>(path: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw writeFault(path, error);
  }
}

/** Where a file is written, whose place it takes, and how messages name that. */
interface StagedPlace {
  readonly path: string;
  readonly target: string;
  readonly shown: string;
}

/**
 * A new file at `path` that is to take the place of `target`, whose permissions it keeps. It is opened for each piece
 * alone: a build of hundreds of files holds no handle on them.
 */
export async function stagedFile(name: string, { path, target, shown }: StagedPlace): Promise<StagedFile> {
  await attempt(shown, () => writeFile(path, "", { flag: "wx" }));
  return staged(name, {
    put: (chunk) => attempt(shown, () => writeFile(path, chunk, { flag: "a" })),
    end: () =>
      attempt(shown, async () => {
        const handle = await open(path, "r+");
        try {
          await handle.sync();
        } finally {
          await handle.close();
        }
        const before = await stat(target).catch(() => undefined);
        if (before !== undefined) await chmod(path, before.mode & 0o777).catch(() => undefined);
      }),
  });
}

/** A file that is only counted: a trial needs no disk. */
export const countedFile = (name: string): StagedFile =>
  staged(name, { put: () => Promise.resolve(), end: () => Promise.resolve() });
