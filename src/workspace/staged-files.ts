import { createHash, type Hash } from "node:crypto";
import { existsSync } from "node:fs";
import { mkdir, open, readdir, readFile, rename, rm, type FileHandle } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { writeFault } from "../formats/file-fault.js";

const BUFFER_CHARACTERS = 1 << 18;
const STAGING = ".staging-";
const READY = "ready.json";

/** A file being written beside its target. */
export interface StagedFile {
  write(text: string): Promise<void>;
  writeBytes(bytes: Uint8Array): Promise<void>;
  finish(): Promise<{ readonly name: string; readonly bytes: number; readonly sha256: string }>;
}

/** A set of files that appear in a folder together, or not at all. */
export interface StagedFiles {
  create(name: string): Promise<StagedFile>;
  /** Puts all finished files in place. Interrupted here, the next {@link stageFiles} completes it. */
  publish(): Promise<void>;
  discard(): Promise<void>;
}

/** Starts a set of files for a folder, after completing or clearing what an interrupted run left there. */
export const stageFiles = async (folder: string): Promise<StagedFiles> => {
  const staging = join(folder, `${STAGING}${process.pid}`);
  await attempt(folder, async () => {
    await mkdir(folder, { recursive: true });
    await recover(folder);
    await mkdir(staging);
  });
  const names: string[] = [];
  const handles: FileHandle[] = [];
  return {
    async create(name) {
      names.push(name);
      return attempt(join(folder, name), async () => {
        const handle = await open(join(staging, name), "wx");
        handles.push(handle);
        return stagedFile(name, handle, join(folder, name));
      });
    },
    publish: () =>
      attempt(folder, async () => {
        // From the moment this note is on disk the set is whole: recovery completes it instead of clearing it.
        const note = await open(join(staging, READY), "wx");
        await note.writeFile(JSON.stringify(names));
        await note.sync();
        await note.close();
        await putInPlace(folder, staging, names);
      }),
    async discard() {
      for (const handle of handles) await handle.close().catch(() => undefined);
      await rm(staging, { recursive: true, force: true }).catch(() => undefined);
    },
  };
};

/** Writes one file that appears whole, or not at all. */
export const wholeFile = async (path: string, write: (file: StagedFile) => Promise<void>): Promise<void> => {
  const staged = await stageFiles(dirname(path));
  try {
    const file = await staged.create(basename(path));
    await write(file);
    await file.finish();
    await staged.publish();
  } catch (error) {
    await staged.discard();
    throw error;
  }
};

const stagedFile = (name: string, handle: FileHandle, target: string): StagedFile => {
  const hash: Hash = createHash("sha256");
  let [waiting, bytes] = ["", 0];
  const flush = async (): Promise<void> => {
    const text = waiting;
    waiting = "";
    if (text !== "") await put(Buffer.from(text));
  };
  const put = async (chunk: Buffer): Promise<void> => {
    hash.update(chunk);
    bytes += chunk.length;
    await attempt(target, () => handle.writeFile(chunk));
  };
  return {
    async write(text) {
      waiting += text;
      if (waiting.length >= BUFFER_CHARACTERS) await flush();
    },
    async writeBytes(binary) {
      await flush();
      await put(Buffer.from(binary.buffer, binary.byteOffset, binary.byteLength));
    },
    async finish() {
      await flush();
      await attempt(target, () => handle.sync());
      await handle.close();
      return { name, bytes, sha256: hash.digest("hex") };
    },
  };
};

const putInPlace = async (folder: string, staging: string, names: readonly string[]): Promise<void> => {
  for (const name of names)
    if (existsSync(join(staging, name))) await rename(join(staging, name), join(folder, name));
  await rm(staging, { recursive: true, force: true });
};

const isRunning = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

const recover = async (folder: string): Promise<void> => {
  for (const entry of await readdir(folder)) {
    if (!entry.startsWith(STAGING)) continue;
    const pid = Number(entry.slice(STAGING.length));
    if (pid !== process.pid && isRunning(pid)) continue;
    const staging = join(folder, entry);
    const names = await readFile(join(staging, READY), "utf8").then(
      (text) => JSON.parse(text) as string[],
      () => [],
    );
    await putInPlace(folder, staging, names);
  }
};

const attempt = async <T>(path: string, work: () => Promise<T>): Promise<T> => {
  try {
    return await work();
  } catch (error) {
    throw writeFault(path, error);
  }
};
