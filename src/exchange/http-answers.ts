/**
 * Reading what a channel answers over HTTP, within bounds: its text, its JSON, the words in it, the wait that it wishes. All
 * of it is a stranger's text; whoever shows it cleans it of secrets first.
 */
import type { Dispatcher } from "undici";
import { ownOf } from "../core/own.js";

type Response = Dispatcher.ResponseData;

const ANSWER_BYTES = 1_000_000;

/** The beginning of an answer's body as text; the rest is not waited for. */
export async function textOf(body: Response["body"]): Promise<string> {
  const chunks: Buffer[] = [];
  let length = 0;
  for await (const chunk of body as AsyncIterable<Buffer>) {
    length += chunk.length;
    if (length > ANSWER_BYTES) break;
    chunks.push(chunk);
  }
  body.on("error", () => undefined);
  body.destroy();
  return Buffer.concat(chunks).toString("utf8");
}

/** A text as JSON; undefined where it is none. */
export function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** The text or number at a path of names (`job.reference`); empty where there is none. */
export function valueAt(answer: unknown, path: string): string {
  let found = answer;
  for (const name of path.split(".")) {
    if (typeof found !== "object" || found === null) return "";
    found = ownOf(found as Readonly<Record<string, unknown>>, name);
  }
  return typeof found === "string" || typeof found === "number" ? String(found) : "";
}

/** What an answer says in words: of JSON its texts, one behind the other. */
export function wordsIn(text: string): string {
  const texts: string[] = [];
  const look = (value: unknown): void => {
    if (typeof value === "string") texts.push(value);
    else if (typeof value === "object" && value !== null) Object.values(value).forEach(look);
  };
  look(jsonOf(text));
  return texts.length === 0 ? text : texts.join("; ");
}

/** Seconds that the other side wishes us to wait (RFC 9110, 10.2.3: a number, or a time); nothing where it does not say. */
export function waitIn(headers: Response["headers"]): { readonly wait?: number } {
  const own = headers["retry-after"];
  const text = Array.isArray(own) ? own[0] : own;
  if (text === undefined) return {};
  const seconds = /^\d{1,6}$/.test(text) ? Number(text) : (Date.parse(text) - Date.now()) / 1000;
  return Number.isFinite(seconds) ? { wait: Math.max(0, seconds) } : {};
}

/** Where a redirection would lead. */
export const locationIn = ({ location }: Response["headers"]): string =>
  (Array.isArray(location) ? location[0] : location) ?? "another address";
