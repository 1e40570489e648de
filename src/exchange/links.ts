/**
 * Asks the web addresses that listings show, few at a time, and what pictures are like. Private addresses are refused.
 */
import { ownOf } from "../core/own.js";
import { isIP } from "node:net";
import { imageSize } from "image-size";
import { Agent, request, type Dispatcher } from "undici";
import { isPrivate, PrivateAddress, publicLookup } from "./private-addresses.js";

/** What a web address answered. */
export type LinkAnswer =
  | {
      readonly link: "there";
      readonly type: string;
      readonly width?: number;
      readonly height?: number;
      /** Why what is there cannot be shown as the picture that it is said to be. */
      readonly flaw?: PictureFlaw;
    }
  /** The server was reached and has nothing there. */
  | { readonly link: "missing"; readonly status: number }
  | { readonly link: "unreachable"; readonly reason: string }
  /** It was not asked at all. */
  | { readonly link: "refused"; readonly reason: string };

/** What is wrong with a picture. */
export type PictureFlaw = "it is empty" | "it is cut off" | "it is no picture that can be read";

/** How addresses are asked. */
export interface LinkOptions {
  /** Addresses of this machine and its network are asked too. */
  readonly allowPrivate: boolean;
  /** Milliseconds that one request may take. */
  readonly timeout: number;
}

/** Asks addresses, few of one host at a time. */
export interface LinkAsker {
  /** Asks one address: HEAD, then GET where HEAD does not tell. A picture's size is read from its first bytes. */
  ask(url: string, isPicture: boolean): Promise<LinkAnswer>;
  close(): Promise<void>;
}

const REDIRECTS = 5;
// So many failures in a row, and a host is given up; silence counts more, since each costs the whole time.
const STRIKES = 5;
const SILENCE_STRIKES = 3;
// The size stands at the front of every usual format; a camera's own data may lie before it.
const FIRST_BYTES = 256 * 1024;
const agentName = "lexicant (checks the addresses of a shop's own listings)";

interface ServerAnswer {
  readonly status: number;
  readonly type: string;
  readonly location: string | undefined;
  readonly bytes: Uint8Array;
}

function headerOf(headers: Dispatcher.ResponseData["headers"], name: string): string | undefined {
  const value = ownOf(headers, name);
  return Array.isArray(value) ? value[0] : value;
}

async function firstBytes(body: Dispatcher.ResponseData["body"], limit: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let length = 0;
  if (limit > 0)
    for await (const chunk of body as AsyncIterable<Uint8Array>) {
      chunks.push(chunk);
      length += chunk.length;
      if (length >= limit) break;
    }
  // Cutting off what is not needed is no failure.
  body.on("error", () => undefined);
  body.destroy();
  return Buffer.concat(chunks);
}

const endsIn = (bytes: Uint8Array, mark: string): boolean =>
  Buffer.from(bytes.subarray(-64)).includes(Buffer.from(mark, "latin1"));

/** Whether the bytes of a whole picture stop before its own end (PNG, JPEG and GIF say where that is). */
function isCutOff(bytes: Uint8Array): boolean {
  const head = Buffer.from(bytes.subarray(0, 4)).toString("latin1");
  if (head === "\u0089PNG") return !endsIn(bytes, "IEND");
  if (head.startsWith("\u00ff\u00d8\u00ff")) return !Buffer.from(bytes).includes(Buffer.from([0xff, 0xd9]));
  return head === "GIF8" && !endsIn(bytes, ";");
}

/** What is told of a picture by its first bytes: its size, or what is wrong with it. */
function pictureIn(
  bytes: Uint8Array,
  type: string,
): { readonly width?: number; readonly height?: number; readonly flaw?: PictureFlaw } {
  if (bytes.length === 0) return { flaw: "it is empty" };
  const isWhole = bytes.length < FIRST_BYTES;
  const size = sizeOf(bytes);
  if (size !== undefined)
    return { ...size, ...(isWhole && isCutOff(bytes) ? { flaw: "it is cut off" } : {}) };
  // A camera's own data may lie before the size; only of a whole file it is known that there is none.
  return isWhole && type.startsWith("image/") ? { flaw: "it is no picture that can be read" } : {};
}

function sizeOf(bytes: Uint8Array): { readonly width: number; readonly height: number } | undefined {
  try {
    const { width, height } = imageSize(bytes);
    return width > 0 && height > 0 ? { width, height } : undefined;
  } catch {
    // No picture, or one whose size stands farther behind: the address is there all the same.
    return undefined;
  }
}

function reasonOf(error: unknown): LinkAnswer {
  if (error instanceof PrivateAddress) return { link: "refused", reason: error.message };
  const { code, name, message, cause } = error as Error & { code?: string; cause?: unknown };
  if (cause instanceof PrivateAddress) return { link: "refused", reason: cause.message };
  if (name === "TimeoutError" || code?.includes("TIMEOUT") === true)
    return { link: "unreachable", reason: NO_ANSWER };
  const reasons: Readonly<Record<string, string>> = {
    ENOTFOUND: "the host is not known",
    EAI_AGAIN: "the host's name could not be looked up",
    ECONNREFUSED: "the host refuses the connection",
    ECONNRESET: "the connection was cut",
    UND_ERR_SOCKET: "the connection was cut",
    EPROTO: "the host does not speak https there",
    ERR_SSL_WRONG_VERSION_NUMBER: "the host does not speak https there",
  };
  const known =
    ownOf(reasons, code ?? "") ?? (isCertificate(code) ? "its certificate is not valid" : undefined);
  return { link: "unreachable", reason: known ?? message };
}

const NO_ANSWER = "no answer in time";

const isCertificate = (code: string | undefined): boolean => /CERT|SIGNATURE/.test(code ?? "");

const isUnknownHost = (error: unknown): boolean => (error as { code?: string }).code === "ENOTFOUND";

/** The address as a URL that may be asked, or why it may not. */
function permitted(url: string, allowPrivate: boolean): URL | LinkAnswer {
  const parsed = URL.canParse(url) ? new URL(url) : undefined;
  if (parsed === undefined) return { link: "refused", reason: "it is no web address" };
  if (parsed.protocol !== "http:" && parsed.protocol !== "https:")
    return { link: "refused", reason: "only http and https are asked" };
  if (parsed.username !== "" || parsed.password !== "")
    return { link: "refused", reason: "it carries a user name or password" };
  const host = parsed.hostname.replace(/^\[|\]$/g, "");
  if (!allowPrivate && isIP(host) !== 0 && isPrivate(host))
    return { link: "refused", reason: `${host} is a private address` };
  return parsed;
}

/** Begins to ask. */
export function linkAsker({ allowPrivate, timeout }: LinkOptions): LinkAsker {
  const agent = new Agent({
    connect: { timeout, ...(allowPrivate ? {} : { lookup: publicLookup }) },
    maxHeaderSize: 16_384,
  });
  const one = async (method: "HEAD" | "GET", url: URL, limit: number): Promise<ServerAnswer> => {
    const { statusCode, headers, body } = await request(url, {
      method,
      dispatcher: agent,
      signal: AbortSignal.timeout(timeout),
      headers: { "user-agent": agentName, ...(limit > 0 ? { range: `bytes=0-${limit - 1}` } : {}) },
    });
    return {
      status: statusCode,
      type: (headerOf(headers, "content-type") ?? "").split(";")[0]?.trim().toLowerCase() ?? "",
      location: headerOf(headers, "location"),
      bytes: await firstBytes(body, method === "GET" ? limit : 0),
    };
  };
  /** Follows redirects by hand: each address on the way is held against the same rules. */
  const followed = async (
    method: "HEAD" | "GET",
    start: URL,
    limit: number,
  ): Promise<ServerAnswer | LinkAnswer> => {
    let url = start;
    for (let hop = 0; hop <= REDIRECTS; hop++) {
      const answered = await one(method, url, limit);
      if (answered.status < 300 || answered.status > 399 || answered.location === undefined) return answered;
      const next = permitted(new URL(answered.location, url).href, allowPrivate);
      if (!(next instanceof URL)) return next;
      url = next;
    }
    return { link: "unreachable", reason: `it is redirected more than ${REDIRECTS} times` };
  };
  const asked = async (url: URL, isPicture: boolean): Promise<LinkAnswer> => {
    const head = await followed("HEAD", url, 0);
    if ("link" in head) return head;
    // Not every server answers HEAD as it answers GET.
    const tells = head.status === 200 && head.type !== "" && !isPicture;
    const answered = tells ? head : await followed("GET", url, isPicture ? FIRST_BYTES : 0);
    if ("link" in answered) return answered;
    const { status, type, bytes } = answered;
    if (status < 200 || status > 299) return { link: "missing", status };
    return { link: "there", type, ...(isPicture ? pictureIn(bytes, type) : {}) };
  };
  // A host that is not there is not asked for each of its thousand pictures.
  const failures = new Map<string, { count: number; readonly answer: LinkAnswer }>();
  return {
    async ask(written, isPicture) {
      const url = permitted(written, allowPrivate);
      if (!(url instanceof URL)) return url;
      const failed = failures.get(url.host);
      if (failed !== undefined && failed.count >= STRIKES) return failed.answer;
      try {
        const answer = await asked(url, isPicture);
        failures.delete(url.host);
        return answer;
      } catch (error) {
        const answer = reasonOf(error);
        const isSilent = answer.link === "unreachable" && answer.reason === NO_ANSWER;
        const strikes = isUnknownHost(error) ? STRIKES : isSilent ? SILENCE_STRIKES : 1;
        const count = (failures.get(url.host)?.count ?? 0) + strikes;
        failures.set(url.host, { count, answer });
        return answer;
      }
    },
    close: () => agent.close(),
  };
}

const hostOf = (url: string): string => (URL.canParse(url) ? new URL(url).host : "");

/** Works through addresses, so many at a time in all and fewer at one host; hosts take turns. */
export async function askInTurn(
  urls: readonly string[],
  { atOnce, perHost }: { readonly atOnce: number; readonly perHost: number },
  ask: (url: string) => Promise<void>,
): Promise<void> {
  const queues = new Map<string, string[]>();
  for (const url of urls) {
    const host = hostOf(url);
    const queue = queues.get(host);
    if (queue === undefined) queues.set(host, [url]);
    else queue.push(url);
  }
  const worker = async (queue: string[]): Promise<void> => {
    for (let url = queue.shift(); url !== undefined; url = queue.shift()) await slot(() => ask(url));
  };
  let free = atOnce;
  const waiting: (() => void)[] = [];
  const slot = async (work: () => Promise<void>): Promise<void> => {
    if (free > 0) free--;
    else await new Promise<void>((resolve) => waiting.push(resolve));
    try {
      await work();
    } finally {
      const next = waiting.shift();
      if (next === undefined) free++;
      else next();
    }
  };
  await Promise.all(
    [...queues.values()].flatMap((queue) => Array.from({ length: perHost }, () => worker(queue))),
  );
}
