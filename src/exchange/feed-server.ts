/**
 * Serves files over HTTP: whole, in part, packed; each under an address that nobody can guess. It knows nothing of
 * channels.
 */
import { createReadStream } from "node:fs";
import type { IncomingMessage, Server } from "node:http";
import type { AddressInfo } from "node:net";
import { pipeline } from "node:stream/promises";
import { createHash, timingSafeEqual } from "node:crypto";
import { serve, type HttpBindings } from "@hono/node-server";
import { RESPONSE_ALREADY_SENT } from "@hono/node-server/utils/response";
import { Hono, type Context } from "hono";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";

/** A file that is published as it stands; its bytes never change under this path. */
export interface PublishedFile {
  readonly path: string;
  /** The same bytes packed, where that is worth it. */
  readonly gzipPath: string | undefined;
  readonly bytes: number;
  readonly gzipBytes: number;
  readonly sha256: string;
  readonly type: string;
  /** When its content became this one. */
  readonly modified: Date;
}

/** One request that was answered. */
export interface Access {
  readonly channel: string;
  readonly file: string;
  readonly method: string;
  readonly status: number;
  readonly bytes: number;
  readonly milliseconds: number;
  readonly from: string;
}

/** What the server asks to answer. */
export interface FeedHouse {
  /** The file behind an address; undefined where nothing lies there for who asks. */
  find(
    path: string,
    authorization: string | undefined,
  ): { readonly channel: string; readonly name: string; readonly file: PublishedFile } | undefined;
  health(): { readonly isWell: boolean; readonly body: unknown };
  answered(access: Access): void;
}

type Env = { Bindings: HttpBindings };

/** Whether two secrets are the same, in a time that tells nothing of either. */
export function isSecret(given: string, secret: string): boolean {
  const digest = (text: string): Buffer => createHash("sha256").update(text).digest();
  return timingSafeEqual(digest(given), digest(secret));
}

interface Range {
  readonly start: number;
  readonly end: number;
}

/** The one range that is asked for (RFC 9110, 14); "none" where the whole is to be sent, "outside" where there is no such part. */
function rangeOf(header: string | undefined, size: number): Range | "none" | "outside" {
  const [, from = "", to = ""] = /^bytes=(\d{0,15})-(\d{0,15})$/.exec(header ?? "") ?? [];
  if (from === "" && to === "") return "none";
  const start = from === "" ? Math.max(0, size - Number(to)) : Number(from);
  const end = from === "" || to === "" ? size - 1 : Math.min(size - 1, Number(to));
  return start > end || start >= size ? "outside" : { start, end };
}

const listed = (header: string): readonly string[] =>
  header.split(",").map((part) => part.trim().replace(/^W\//, ""));

const accepts = (header: string | undefined): boolean =>
  /(?:^|,)\s*(?:gzip|\*)\s*(?:;\s*q=(?!0(?:\.0*)?\s*(?:,|$))[\d.]+)?\s*(?:,|$)/i.test(header ?? "");

/** Answers for one file: whole, in part, packed, or not at all where who asks has it already. */
async function answerFile(
  file: PublishedFile,
  { req, env }: Context<Env>,
): Promise<{ status: number; bytes: number }> {
  const { outgoing } = env;
  const packed =
    file.gzipPath !== undefined &&
    req.header("range") === undefined &&
    accepts(req.header("accept-encoding"));
  const etag = `"${file.sha256.slice(0, 32)}${packed ? "-gz" : ""}"`;
  const modified = new Date(Math.floor(file.modified.getTime() / 1000) * 1000);
  const headers: Record<string, string | number> = {
    etag,
    "last-modified": modified.toUTCString(),
    "cache-control": "no-cache",
    "accept-ranges": "bytes",
    "x-content-type-options": "nosniff",
    ...(file.gzipPath === undefined ? {} : { vary: "accept-encoding" }),
  };
  const end = (status: number): { status: number; bytes: number } => {
    outgoing.writeHead(status, headers);
    outgoing.end();
    return { status, bytes: 0 };
  };
  const [match, since] = [req.header("if-none-match"), req.header("if-modified-since")];
  const isKnown =
    match !== undefined
      ? match.trim() === "*" ||
        listed(match).some((one) => one.replace(/-gz"$/, '"') === etag.replace(/-gz"$/, '"'))
      : since !== undefined && Date.parse(since) >= modified.getTime();
  if (isKnown) return end(304);
  const size = packed ? file.gzipBytes : file.bytes;
  const condition = req.header("if-range");
  const isRangeMeant =
    condition === undefined ||
    condition.trim() === etag ||
    (!condition.startsWith('"') && Date.parse(condition) === modified.getTime());
  const range = isRangeMeant ? rangeOf(req.header("range"), size) : "none";
  if (range === "outside") {
    headers["content-range"] = `bytes */${size}`;
    return end(416);
  }
  const part = range === "none" ? { start: 0, end: size - 1 } : range;
  const length = size === 0 ? 0 : part.end - part.start + 1;
  headers["content-type"] = file.type;
  headers["content-length"] = length;
  if (packed) headers["content-encoding"] = "gzip";
  if (range !== "none") headers["content-range"] = `bytes ${part.start}-${part.end}/${size}`;
  const status = range === "none" ? 200 : 206;
  if (req.method === "HEAD" || length === 0) return end(status);
  const stream = createReadStream(packed ? file.gzipPath : file.path, {
    ...part,
    highWaterMark: 1 << 18,
  });
  await new Promise<void>((opened, failed) => stream.once("open", () => opened()).once("error", failed));
  outgoing.writeHead(status, headers);
  await pipeline(stream, outgoing);
  return { status, bytes: length };
}

const senderOf = ({ socket }: IncomingMessage): string => socket.remoteAddress ?? "";

/** A server at work. */
export interface FeedServer {
  readonly port: number;
  /** Takes no new request, and ends when those under way are answered, or after so many milliseconds. */
  close(patience: number): Promise<void>;
}

/** Publishes files at addresses of their own; nothing else is reachable. */
export async function feedServer(house: FeedHouse, host: string, port: number): Promise<FeedServer> {
  const app = new Hono<Env>();
  app.get("/health", () => {
    const { isWell, body } = house.health();
    return new Response(`${JSON.stringify(body)}\n`, {
      status: isWell ? 200 : 503,
      headers: { "content-type": "application/json", "cache-control": "no-store" },
    });
  });
  app.all("*", async (context) => {
    const { req, env } = context;
    const begun = performance.now();
    const path = new URL(req.url).pathname;
    const found = house.find(path, req.header("authorization"));
    const note = (status: number, bytes: number): void =>
      house.answered({
        channel: found?.channel ?? "",
        file: found?.name ?? "",
        method: req.method,
        status,
        bytes,
        from: senderOf(env.incoming),
        milliseconds: Math.round((performance.now() - begun) * 10) / 10,
      });
    if (found === undefined) {
      note(404, 0);
      return new Response("There is nothing here.\n", { status: 404 });
    }
    if (req.method !== "GET" && req.method !== "HEAD") {
      note(405, 0);
      return new Response(null, { status: 405, headers: { allow: "GET, HEAD" } });
    }
    try {
      const { status, bytes } = await answerFile(found.file, context);
      note(status, bytes);
    } catch {
      // Who asked went away, or the file did: of an answer that has begun no other can be made.
      note(499, 0);
      if (!env.outgoing.headersSent) return new Response("It cannot be read now.\n", { status: 503 });
      env.outgoing.destroy();
    }
    return RESPONSE_ALREADY_SENT;
  });
  const server = await new Promise<Server>((resolve, reject) => {
    const own = serve({ fetch: app.fetch, port, hostname: host }, () => resolve(own)) as Server;
    own.once("error", reject);
  }).catch((error: unknown): never => {
    const { code = "", message } = error as NodeJS.ErrnoException;
    const reason = code === "EADDRINUSE" ? "another program listens there; choose another" : message;
    throw new Refusal([diagnostic("unknown-option", { reason: `--port: ${reason}` })], 3);
  });
  return {
    port: (server.address() as AddressInfo).port,
    close: (patience) =>
      new Promise((resolve) => {
        const timer = setTimeout(() => server.closeAllConnections(), patience);
        server.close(() => {
          clearTimeout(timer);
          resolve();
        });
        server.closeIdleConnections();
      }),
  };
}
