/**
 * Asks one account of a channel over HTTP: with its token, its certificate, within its time, and never anywhere but at the
 * address that a person wrote. Gives answers as they are ({@link HttpClient.ask}) or successes alone.
 */
import { Agent, request, type Dispatcher } from "undici";
import type { ExchangeDefinition } from "../core/channel/exchange-definition.js";
import { meaningOf, statusReason } from "./answer-status.js";
import { ExchangeFault } from "./carrier.js";
import { jsonOf, locationIn, textOf, waitIn, wordsIn } from "./http-answers.js";
import { networkReason } from "./network-reason.js";
import { PrivateAddress, isPrivate, publicLookup } from "./private-addresses.js";
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

/** What goes with a request. */
export interface AskOptions extends Pick<Partial<Dispatcher.RequestOptions>, "method" | "body"> {
  readonly headers?: Readonly<Record<string, string>>;
}

/** What came back. */
export type HttpAnswer = Dispatcher.ResponseData;

/** Asks one account. */
export interface HttpClient {
  /** Asks, and gives whatever is answered. @throws what the network throws */
  ask(path: string, options?: AskOptions): Promise<HttpAnswer>;
  /** Asks for something. @throws ExchangeFault where the answer is no success */
  get(path: string): Promise<HttpAnswer>;
  /** The same as JSON. */
  json(path: string): Promise<unknown>;
  /** That we are sent on, and do not go. */
  redirection(answer: HttpAnswer): string;
  /** Whatever went wrong as a fault of the exchange, without secrets. */
  failed(error: unknown): ExchangeFault;
  close(): Promise<void>;
}

const HEADERS_MILLISECONDS = 120_000;
const CONNECT_MILLISECONDS = 15_000;

const join = (base: URL, path: string): URL =>
  new URL(`${base.pathname.replace(/\/$/, "")}/${path.replace(/^\//, "")}`, base.origin);

const agentFor = ({ allowsPrivate, certificate }: HttpAccount): Agent =>
  new Agent({
    connect: {
      timeout: CONNECT_MILLISECONDS,
      ...(allowsPrivate ? {} : { lookup: publicLookup }),
      ...(certificate === undefined ? {} : { ca: certificate }),
    },
    headersTimeout: HEADERS_MILLISECONDS,
    bodyTimeout: HEADERS_MILLISECONDS,
  });

/** The header that shows who asks; none where the channel wants none. */
const tokenHeader = (
  { token: wanted }: ExchangeDefinition,
  { token }: HttpAccount,
): Readonly<Record<string, string>> =>
  wanted === undefined || token === undefined
    ? {}
    : { [wanted.header]: wanted.says.replace("{token}", () => token) };

/** Opens the way to an account. No redirection is followed: a token goes to the address that a person wrote, and nowhere else. */
export function httpClient(exchange: ExchangeDefinition, account: HttpAccount, secrets: Secrets): HttpClient {
  const agent = agentFor(account);
  const shown = tokenHeader(exchange, account);
  const ask: HttpClient["ask"] = async (path, { headers, ...options } = {}) => {
    const url = join(account.address, path);
    const host = url.hostname.replace(/^\[|\]$/g, "");
    // Names are looked up by the agent; a bare number goes past it.
    if (!account.allowsPrivate && /^[\d.]+$|:/.test(host) && isPrivate(host))
      throw new PrivateAddress(host, host);
    return request(url, {
      method: "GET",
      ...options,
      dispatcher: agent,
      headers: { "user-agent": "lexicant", accept: "*/*", ...shown, ...headers },
    });
  };
  const redirection: HttpClient["redirection"] = ({ headers }) =>
    secrets.cleaned(
      `the channel sends us on to ${locationIn(headers)}, and that is not followed; if it is right, write it to exchange.address`,
    );
  const failed: HttpClient["failed"] = (error) => {
    if (error instanceof ExchangeFault) return error;
    const { reason, isPassing } = networkReason(error);
    return new ExchangeFault(secrets.cleaned(reason), isPassing ? {} : undefined);
  };
  const get: HttpClient["get"] = async (path) => {
    try {
      const answer = await ask(path);
      const { statusCode: status, headers, body } = answer;
      const meaning = meaningOf(status);
      if (meaning === "done") return answer;
      if (meaning === "elsewhere") {
        await body.dump();
        throw new ExchangeFault(redirection(answer), undefined);
      }
      const said = secrets.cleaned(wordsIn(await textOf(body)));
      const isPassing = meaning === "later" || meaning === "failed";
      throw new ExchangeFault(statusReason(status, said), isPassing ? waitIn(headers) : undefined, status);
    } catch (error) {
      throw failed(error);
    }
  };
  return {
    ask,
    get,
    async json(path) {
      const { body } = await get(path);
      const answer = jsonOf(await textOf(body));
      if (answer === undefined) throw new ExchangeFault("the channel's answer is no JSON", {});
      return answer;
    },
    redirection,
    failed,
    close: () => agent.close(),
  };
}
