/**
 * Opens the way to an account: which carrier, with which secrets. All faults of its settings are told before anything
 * is sent.
 */
import { readFileSync } from "node:fs";
import { isAbsolute, join } from "node:path";
import type { ExchangeDefinition } from "../core/channel/exchange-definition.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Io } from "../io/io.js";
import type { Carrier } from "./carrier.js";
import { secretFrom, secretIn, secretsOf } from "./secrets.js";

/** Where an account is reached, as `channel.yaml` says it. */
export interface AccountSettings {
  readonly address?: string;
  readonly token_from?: string;
  readonly token_file?: string;
  readonly password_from?: string;
  readonly key_file?: string;
  readonly host_key?: string;
  readonly certificate_file?: string;
  readonly private_address?: boolean;
}

/** An account, with where its settings stand. */
export interface AccountPlace {
  readonly exchange: ExchangeDefinition;
  readonly account: AccountSettings;
  /** The folder that paths of the settings count from. */
  readonly root: string;
  /** The settings' file, as messages show it. */
  readonly file: string;
}

const SFTP_PORT = 22;

/** An address in words, without a user. */
export const shownAddress = (address: string): string => address.replace(/\/\/[^@/]*@/, "//");

/**
 * Opens the way to an account of a channel.
 * @throws Refusal where its settings do not do, or a secret is missing or open to others
 */
export async function openCarrier({ exchange, account, root, file }: AccountPlace, io: Io): Promise<Carrier> {
  const wrong = (key: string, reason: string): never => {
    throw new Refusal([diagnostic("wrong-setting", { key: `exchange.${key}`, reason }, { place: { file } })]);
  };
  const at = (path: string): string => (isAbsolute(path) ? path : join(root, path));
  const { address = "", token_from, token_file, password_from, key_file } = account;
  if (address === "") wrong("address", "says where the channel is reached, and is not given");
  const secrets = secretsOf();
  const secret = (
    variable: string | undefined,
    path: string | undefined,
    key: string,
  ): string | undefined => {
    const found =
      variable !== undefined
        ? secretFrom(variable, `exchange.${key}_from`, file, io)
        : path === undefined
          ? undefined
          : secretIn(at(path), `exchange.${key}_file`, file);
    if (found !== undefined) secrets.add(found);
    return found;
  };
  const allowsPrivate = account.private_address === true;
  if (/^https?:/.test(address)) {
    if (exchange.send.as === "drop")
      wrong("address", "is a folder or sftp://…: this channel takes files from folders");
    if (exchange.token !== undefined && token_from === undefined && token_file === undefined)
      wrong(
        "token_from",
        "names the environment variable with the token, and neither it nor token_file is given",
      );
    const { httpCarrier } = await import("./http-carrier.js");
    return httpCarrier(
      exchange,
      {
        address: new URL(address),
        token: secret(token_from, token_file, "token"),
        certificate:
          account.certificate_file === undefined
            ? undefined
            : readCertificate(at(account.certificate_file), wrong),
        allowsPrivate,
      },
      secrets,
    );
  }
  if (exchange.send.as !== "drop") wrong("address", "is a web address: this channel takes files over HTTP");
  const { dropCarrier } = await import("./drop-carrier.js");
  if (!address.startsWith("sftp:")) {
    const { folderShelf } = await import("./folder-shelf.js");
    return dropCarrier(exchange, folderShelf(at(address)), secrets);
  }
  const url = new URL(address);
  if (url.password !== "") wrong("address", "holds no password; name its variable in exchange.password_from");
  const { sftpShelf } = await import("./sftp-shelf.js");
  const shelf = await sftpShelf({
    host: url.hostname.replace(/^\[|\]$/g, ""),
    port: url.port === "" ? SFTP_PORT : Number(url.port),
    user: decodeURIComponent(url.username),
    folder: decodeURIComponent(url.pathname) || "/",
    password: secret(password_from, undefined, "password"),
    privateKey: key_file === undefined ? undefined : secret(undefined, key_file, "key"),
    hostKey: account.host_key,
    allowsPrivate,
  });
  return dropCarrier(exchange, shelf, secrets);
}

function readCertificate(path: string, wrong: (key: string, reason: string) => never): string {
  try {
    return readFileSync(path, "utf8");
  } catch {
    return wrong("certificate_file", "cannot be read");
  }
}
