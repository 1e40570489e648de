/** What is published of a channel: files under names of their own, the record of them last. */
import { randomBytes } from "node:crypto";
import { createReadStream, createWriteStream, existsSync, readFileSync } from "node:fs";
import { chmod, copyFile, link, mkdir, readdir, rename, rm, stat, writeFile } from "node:fs/promises";
import { extname, join } from "node:path";
import { pipeline } from "node:stream/promises";
import { createGzip } from "node:zlib";
import { ownOf } from "../../core/own.js";
import type { PublishedFile } from "../../exchange/feed-server.js";
import type { Workspace } from "../../workspace/workspace.js";
import { sha256Of } from "../exchange/job-files.js";

/** What is published of one channel. */
export interface Published {
  /** Listings in the feed. */
  readonly listings: number;
  /** ISO 8601: when it was built. */
  readonly at: string;
  readonly files: ReadonlyMap<string, PublishedFile>;
}

interface KeptPublished {
  readonly listings: number;
  readonly at: string;
  readonly files: readonly {
    readonly name: string;
    readonly stored: string;
    readonly bytes: number;
    readonly gzipBytes: number;
    readonly sha256: string;
    readonly modified: string;
  }[];
}

const RECORD = "published.json";
const SECRET = "secret";

const types: Readonly<Record<string, string>> = {
  ".xml": "application/xml; charset=utf-8",
  ".csv": "text/csv; charset=utf-8",
  ".tsv": "text/tab-separated-values; charset=utf-8",
  ".json": "application/json",
  ".jsonl": "application/x-ndjson",
  ".jsonld": "application/ld+json",
  ".xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
};

const packsItself = (name: string): boolean => [".gz", ".zip", ".xlsx"].includes(extname(name));

const folderOf = (workspace: Workspace, channel: string): string =>
  workspace.path(".lexicant", "served", channel);

/** The part of a feed's address that nobody can guess; made once, and kept where its owner alone reads it. */
export async function secretPathOf(workspace: Workspace, channel: string): Promise<string> {
  const folder = folderOf(workspace, channel);
  const path = join(folder, SECRET);
  if (existsSync(path)) return readFileSync(path, "utf8").trim();
  await mkdir(folder, { recursive: true });
  const secret = randomBytes(24).toString("base64url");
  await writeFile(path, secret, { mode: 0o600, flag: "wx" });
  await chmod(path, 0o600);
  return secret;
}

/** What is published now; undefined where nothing was yet, or it is not whole. */
export async function publishedOf(workspace: Workspace, channel: string): Promise<Published | undefined> {
  const folder = folderOf(workspace, channel);
  try {
    const kept = JSON.parse(readFileSync(join(folder, RECORD), "utf8")) as KeptPublished;
    const files = new Map<string, PublishedFile>();
    for (const { name, stored, bytes, gzipBytes, sha256, modified } of kept.files) {
      const path = join(folder, stored);
      if ((await stat(path)).size !== bytes) return undefined;
      const gzipPath = `${path}.gz`;
      files.set(name, {
        path,
        bytes,
        gzipBytes,
        sha256,
        gzipPath: gzipBytes > 0 && existsSync(gzipPath) ? gzipPath : undefined,
        type: ownOf(types, extname(name)) ?? "application/octet-stream",
        modified: new Date(modified),
      });
    }
    return { listings: kept.listings, at: kept.at, files };
  } catch {
    return undefined;
  }
}

/** Publishes files of a build: they come under names of their own, and the record of them last, so that a kill leaves the feed of before. */
export async function publish(
  workspace: Workspace,
  channel: string,
  built: { readonly folder: string; readonly files: readonly string[]; readonly listings: number },
  at: string,
): Promise<void> {
  const folder = folderOf(workspace, channel);
  await mkdir(folder, { recursive: true });
  const before = await publishedOf(workspace, channel);
  const files: KeptPublished["files"][number][] = [];
  for (const name of built.files) {
    const from = join(built.folder, name);
    const sha256 = await sha256Of(from);
    const stored = `${sha256.slice(0, 20)}${extname(name)}`;
    const path = join(folder, stored);
    if (!existsSync(path)) await link(from, path).catch(() => copyFile(from, path));
    const known = before?.files.get(name);
    const gzip = `${path}.gz`;
    if (!packsItself(name) && !existsSync(gzip)) {
      await pipeline(createReadStream(path), createGzip(), createWriteStream(`${gzip}.coming`));
      await rename(`${gzip}.coming`, gzip);
    }
    files.push({
      name,
      stored,
      sha256,
      bytes: (await stat(path)).size,
      gzipBytes: packsItself(name) ? 0 : (await stat(gzip)).size,
      // The same content keeps its time: who asked before need not fetch it again.
      modified: known?.sha256 === sha256 ? known.modified.toISOString() : at,
    });
  }
  const record: KeptPublished = { listings: built.listings, at, files };
  await writeFile(join(folder, `${RECORD}.coming`), JSON.stringify(record), { flush: true });
  await rename(join(folder, `${RECORD}.coming`), join(folder, RECORD));
  const wanted = new Set([RECORD, SECRET, ...files.flatMap(({ stored }) => [stored, `${stored}.gz`])]);
  for (const name of await readdir(folder))
    if (!wanted.has(name)) await rm(join(folder, name), { force: true });
}
