import { createReadStream } from "node:fs";
import { Agent, request, type Dispatcher } from "undici";
import { filledPattern, type ExchangeDefinition } from "../core/channel/exchange-definition.js";
import { ownOf } from "../core/own.js";
import { fold } from "../core/values/text.js";
import { ExchangeFault, type Carrier, type OutgoingFile, type Progress, type Sending } from "./carrier.js";
import { formBody } from "./form-body.js";
import { networkReason } from "./network-reason.js";
import { PrivateAddress, isPrivate, publicLookup } from "./private-addresses.js";
import { receivedFile } from "./received-file.js";
import type { Secrets } from "./secrets.js";

/** An account that is reached over the web. */
export interface HttpAccount {
  /** http: or https: */
  readonly address: URL;
  readonly token: string | undefined;
  /** A further certificate that is trusted (PEM). */
  readonly certificate: string | undefined;
  readonly allowsPrivate: boolean;
}

interface AskOptions extends Pick<Partial<Dispatcher.RequestOptions>, "method" | "body"> {
  readonly headers?: Readonly<Record<string, string>>;
}

const ANSWER_BYTES = 1_000_000;
const HEADERS_MILLISECONDS = 120_000;
const CONNECT_MILLISECONDS = 15_000;

const valueAt = (answer: unknown, path: string): string => {
  let found = answer;
  for (const name of path.split(".")) {
    if (typeof found !== "object" || found === null) return "";
    found = ownOf(found as Readonly<Record<string, unknown>>, name);
  }
  return typeof found === "string" || typeof found === "number" ? String(found) : "";
};

const textOf = async (body: Dispatcher.ResponseData["body"]): Promise<string> => {
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
};

const jsonOf = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
};

/** Seconds that the other side wishes us to wait: a number, or a time. */
const waitIn = (headers: Dispatcher.ResponseData["headers"]): { readonly wait?: number } => {
  const own = headers["retry-after"];
  const text = Array.isArray(own) ? own[0] : own;
  if (text === undefined) return {};
  const seconds = /^\d{1,6}$/.test(text) ? Number(text) : (Date.parse(text) - Date.now()) / 1000;
  return Number.isFinite(seconds) ? { wait: Math.max(0, seconds) } : {};
};

const join = (base: URL, path: string): URL =>
  new URL(`${base.pathname.replace(/\/$/, "")}/${path.replace(/^\//, "")}`, base.origin);

/** What an answer says in words: of JSON its texts, one behind the other. */
const wordsIn = (text: string): string => {
  const texts: string[] = [];
  const look = (value: unknown): void => {
    if (typeof value === "string") texts.push(value);
    else if (typeof value === "object" && value !== null) Object.values(value).forEach(look);
  };
  look(jsonOf(text));
  return texts.length === 0 ? text : texts.join("; ");
};

/** What a status says that is no success. */
const statusReason = (status: number, said: string): string => {
  const words = said === "" ? "" : `: ${said}`;
  if (status === 401 || status === 403) return `the channel does not accept the token (${status})${words}`;
  return `the channel answers ${status}${words}`;
};

/** Reaches a channel over HTTP. No redirection is followed: a token goes to the address that a person wrote, and nowhere else. */
export const httpCarrier = (
  exchange: ExchangeDefinition,
  account: HttpAccount,
  secrets: Secrets,
): Carrier => {
  const { address, token, certificate, allowsPrivate } = account;
  const agent = new Agent({
    connect: {
      timeout: CONNECT_MILLISECONDS,
      ...(allowsPrivate ? {} : { lookup: publicLookup }),
      ...(certificate === undefined ? {} : { ca: certificate }),
    },
    headersTimeout: HEADERS_MILLISECONDS,
    bodyTimeout: HEADERS_MILLISECONDS,
  });
  const shown: Readonly<Record<string, string>> =
    exchange.token === undefined || token === undefined
      ? {}
      : { [exchange.token.header]: exchange.token.says.replace("{token}", () => token) };
  const ask = async (
    path: string,
    { headers, ...options }: AskOptions = {},
  ): Promise<Dispatcher.ResponseData> => {
    const url = join(address, path);
    const host = url.hostname.replace(/^\[|\]$/g, "");
    if (!allowsPrivate && /^[\d.]+$|:/.test(host) && isPrivate(host)) throw new PrivateAddress(host, host);
    return request(url, {
      method: "GET",
      ...options,
      dispatcher: agent,
      headers: { "user-agent": "lexicant", accept: "*/*", ...shown, ...headers },
    });
  };
  const redirection = ({ headers }: Dispatcher.ResponseData): string => {
    const { location } = headers;
    const to = Array.isArray(location) ? location[0] : location;
    return secrets.cleaned(
      `the channel sends us on to ${to ?? "another address"}, and that is not followed; if it is right, write it to exchange.address`,
    );
  };
  const failed = (error: unknown): ExchangeFault => {
    if (error instanceof ExchangeFault) return error;
    const { reason, isPassing } = networkReason(error);
    return new ExchangeFault(secrets.cleaned(reason), isPassing ? {} : undefined);
  };
  /** Asks for something; anything but a success is a fault. */
  const got = async (path: string): Promise<Dispatcher.ResponseData> => {
    try {
      const response = await ask(path);
      const { statusCode: status, headers, body } = response;
      if (status >= 200 && status < 300) return response;
      if (status >= 300 && status < 400) {
        await body.dump();
        throw new ExchangeFault(redirection(response), undefined);
      }
      const said = secrets.cleaned(wordsIn(await textOf(body)));
      const isPassing = status === 408 || status === 429 || status >= 500;
      throw new ExchangeFault(statusReason(status, said), isPassing ? waitIn(headers) : undefined, status);
    } catch (error) {
      throw failed(error);
    }
  };
  const json = async (path: string): Promise<unknown> => {
    const { body } = await got(path);
    const answer = jsonOf(await textOf(body));
    if (answer === undefined) throw new ExchangeFault("the channel's answer is no JSON", {});
    return answer;
  };
  const kept = async (path: string, to: string): Promise<void> => receivedFile((await got(path)).body, to);
  const requestOf = (file: OutgoingFile, told: (bytes: number) => void) => {
    const { send } = exchange;
    const facts = { ...file.facts, file: file.name };
    const watched = async function* (chunks: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
      let length = 0;
      for await (const chunk of chunks) {
        told((length += chunk.length));
        yield chunk;
      }
    };
    if (send.as === "put")
      return {
        method: "PUT" as const,
        headers: { "content-type": "application/octet-stream", "content-length": String(file.bytes) },
        body: watched(createReadStream(file.path)),
      };
    const parts = Object.fromEntries(
      Object.entries(send.parts).map(([name, text]) => [name, filledPattern(text, facts, (fact) => fact)]),
    );
    const form = formBody({ ...file, part: send.filePart }, parts, file.key);
    return {
      method: "POST" as const,
      headers: { "content-type": form.type, "content-length": String(form.length) },
      body: watched(form.bytes()),
    };
  };
  const sent = async (
    to: string,
    file: OutgoingFile,
    told: (bytes: number) => void,
  ): Promise<Dispatcher.ResponseData> => {
    const { method, headers, body } = requestOf(file, told);
    const { keyHeader } = exchange.send;
    return ask(filledPattern(to, { ...file.facts, file: file.name }), {
      method,
      body: body as never,
      headers: { ...headers, ...(keyHeader === "" ? {} : { [keyHeader]: file.key }) },
    });
  };
  return {
    async send(file, told): Promise<Sending> {
      try {
        const response = await sent(exchange.send.to, file, told);
        const { statusCode: status, headers, body } = response;
        const text = await textOf(body);
        if (status >= 200 && status < 300) {
          if (exchange.send.job === "") return { kind: "taken", reference: file.name };
          const reference = secrets.cleaned(valueAt(jsonOf(text), exchange.send.job));
          return reference === ""
            ? { kind: "unclear", reason: "the channel's answer does not give the job's reference" }
            : { kind: "taken", reference };
        }
        if (status >= 300 && status < 400)
          return { kind: "not sent", reason: redirection(response), isSettled: true };
        const reason = statusReason(status, secrets.cleaned(wordsIn(text)));
        // A token that is not accepted says nothing of the file.
        if (status === 401 || status === 403) return { kind: "not sent", reason, isSettled: true };
        if (status === 408 || status === 429 || status === 503)
          return { kind: "not sent", reason, ...waitIn(headers) };
        return { kind: status >= 500 ? "unclear" : "refused", reason };
      } catch (error) {
        const { reason, isBefore, isPassing } = networkReason(error);
        const told = secrets.cleaned(reason);
        if (isBefore) return { kind: "not sent", reason: told, ...(isPassing ? {} : { isSettled: true }) };
        return { kind: "unclear", reason: told };
      }
    },
    async find({ name, facts }) {
      const { find } = exchange;
      if (find === undefined) return undefined;
      try {
        const answer = await json(filledPattern(find.from, { ...facts, file: name }));
        const reference = find.job === "" ? name : secrets.cleaned(valueAt(answer, find.job));
        return reference === "" ? undefined : reference;
      } catch (error) {
        if (error instanceof ExchangeFault && error.status === 404) return undefined;
        throw error;
      }
    },
    async trial(file) {
      try {
        const { statusCode: status, body } = await sent(exchange.trial ?? "", file, () => undefined);
        const says = secrets.cleaned(wordsIn(await textOf(body)), 4000);
        if (status >= 500 || status === 429) throw new ExchangeFault(statusReason(status, says), {});
        return { isGood: status >= 200 && status < 300, says };
      } catch (error) {
        throw failed(error);
      }
    },
    async progress({ name, reference, facts }): Promise<Progress> {
      const { progress } = exchange;
      if (progress === undefined) return { kind: "answered", state: "" };
      const answer = await json(filledPattern(progress.from, { ...facts, file: name, job: reference }));
      const state = secrets.cleaned(valueAt(answer, progress.state));
      const isAmong = (words: readonly string[]): boolean => words.some((word) => fold(word) === fold(state));
      if (isAmong(progress.done)) return { kind: "answered", state };
      if (isAmong(progress.thrownOut))
        return { kind: "thrown out", state, because: secrets.cleaned(valueAt(answer, progress.because)) };
      const percent = Number(valueAt(answer, progress.percent) || Number.NaN);
      return { kind: "reading", state, percent: Number.isFinite(percent) ? percent : undefined };
    },
    report: ({ name, reference, facts }, path) =>
      kept(filledPattern(exchange.report ?? "", { ...facts, file: name, job: reference }), path),
    live: (path) => kept(exchange.live?.from ?? "", path),
    categories: (version, path) => kept(filledPattern(exchange.categories ?? "", { version }), path),
    close: () => agent.close(),
  };
};
