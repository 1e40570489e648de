/** A job's files as they were sent, kept whatever is built later. */
import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { copyFile, link, mkdir, readdir, readFile, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { writeFault } from "../../formats/file-fault.js";
import { RECORD_FILE } from "../builds/build-record.js";
import type { BuiltFile } from "../builds/built-files.js";
import type { Workspace } from "../../workspace/workspace.js";

/** Where a job's files lie as they were sent, whatever is built later. */
export const jobFolder = (workspace: Workspace, channel: string, job: number): string =>
  workspace.path(".lexicant", "jobs", channel, String(job));

/** The sum of a file's bytes. */
export async function sha256Of(path: string): Promise<string> {
  const hash = createHash("sha256");
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest("hex");
}

/** A file that a job is to send, as it lies in the folder of builds. */
export interface FoundFile {
  readonly name: string;
  readonly path: string;
  readonly bytes: number;
  readonly sha256: string;
}

/** What the record of the last build in a folder says of its files. */
async function builtIn(folder: string): Promise<ReadonlyMap<string, string>> {
  try {
    const { files } = JSON.parse(await readFile(join(folder, RECORD_FILE), "utf8")) as {
      readonly files: readonly Pick<BuiltFile, "name" | "sha256">[];
    };
    return new Map(files.map(({ name, sha256 }) => [name, sha256]));
  } catch {
    return new Map();
  }
}

/**
 * The files of a build as they lie there; refuses one that is gone, or was changed by hand: what the ledger knows of its
 * rows would not be what the channel gets.
 */
export async function foundFiles(
  folder: string,
  names: readonly string[],
  shown: string,
): Promise<readonly FoundFile[]> {
  const built = await builtIn(folder);
  return Promise.all(
    names.map(async (name) => {
      const path = join(folder, name);
      const found = await stat(path).catch(() => undefined);
      if (found?.isFile() !== true)
        throw new Refusal([
          diagnostic("missing-file", {
            path: `${shown}/${name}`,
            what: "a file of the last build: build again",
          }),
        ]);
      const sha256 = await sha256Of(path);
      if ((built.get(name) ?? sha256) !== sha256)
        throw new Refusal([diagnostic("built-file-changed", { path: `${shown}/${name}` })]);
      return { name, path, bytes: found.size, sha256 };
    }),
  );
}

/** Keeps the files of a job: a build puts new files beside and never changes these, so that a link is a copy. */
export async function keepFiles(files: readonly FoundFile[], folder: string): Promise<void> {
  try {
    await rm(folder, { recursive: true, force: true });
    await mkdir(folder, { recursive: true });
    for (const { name, path } of files) {
      const to = join(folder, name);
      await link(path, to).catch(() => copyFile(path, to));
    }
  } catch (error) {
    throw writeFault(".lexicant/jobs", error);
  }
}

/** Takes away what jobs kept that are older than so many. */
export async function forgetFiles(
  workspace: Workspace,
  channel: string,
  kept: readonly number[],
): Promise<void> {
  const folder = workspace.path(".lexicant", "jobs", channel);
  const known = new Set(kept.map(String));
  for (const name of await readdir(folder).catch(() => []))
    if (!known.has(name)) await rm(join(folder, name), { recursive: true, force: true });
}
