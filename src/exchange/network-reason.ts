/** Errors of connections in words, and whether the other side can have heard anything. */
import { ownOf } from "../core/own.js";
import { PrivateAddress } from "./private-addresses.js";

/** Why a connection came to nothing, and whether the other side can have heard of what was to be sent. */
export interface NetworkReason {
  readonly reason: string;
  /** Whether nothing of it left this machine. */
  readonly isBefore: boolean;
  /** Whether another try may end otherwise. */
  readonly isPassing: boolean;
}

const reasons: Readonly<Record<string, readonly [reason: string, isBefore: boolean, isPassing: boolean]>> = {
  ENOTFOUND: ["the host is not known", true, false],
  EAI_AGAIN: ["the host's name could not be looked up", true, true],
  ECONNREFUSED: ["the host refuses the connection", true, true],
  EHOSTUNREACH: ["the host cannot be reached", true, true],
  ENETUNREACH: ["the network cannot be reached", true, true],
  UND_ERR_CONNECT_TIMEOUT: ["no connection in time", true, true],
  ECONNRESET: ["the connection was cut", false, true],
  EPIPE: ["the connection was cut", false, true],
  UND_ERR_SOCKET: ["the connection was cut", false, true],
  UND_ERR_HEADERS_TIMEOUT: ["no answer in time", false, true],
  UND_ERR_BODY_TIMEOUT: ["the answer stopped", false, true],
  UND_ERR_ABORTED: ["it was broken off", false, true],
  ETIMEDOUT: ["no answer in time", false, true],
  EPROTO: ["the host does not speak https there", true, false],
  ERR_SSL_WRONG_VERSION_NUMBER: ["the host does not speak https there", true, false],
};

const isCertificate = (code: string): boolean => /CERT|SIGNATURE|ALTNAME/.test(code);

/** What a connection's error means. */
export function networkReason(error: unknown): NetworkReason {
  const { code = "", message, cause } = error as Error & { code?: string; cause?: unknown };
  const hidden =
    error instanceof PrivateAddress ? error : cause instanceof PrivateAddress ? cause : undefined;
  if (hidden !== undefined)
    return {
      reason: `${hidden.message}; where that is meant, set exchange.private_address: yes`,
      isBefore: true,
      isPassing: false,
    };
  if (isCertificate(code))
    return {
      reason: `its certificate is not known here (${code.toLowerCase().replaceAll("_", " ")}); where it is the right one, name its file in exchange.certificate_file`,
      isBefore: true,
      isPassing: false,
    };
  const known = ownOf(reasons, code);
  if (known !== undefined) return { reason: known[0], isBefore: known[1], isPassing: known[2] };
  return { reason: message === "" ? "the connection failed" : message, isBefore: false, isPassing: true };
}
