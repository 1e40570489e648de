/** Folders of an SFTP server as a shelf of files, its host known by its key. */
import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { connect, type Socket } from "node:net";
import { posix } from "node:path";
import { PassThrough } from "node:stream";
import SftpClient from "ssh2-sftp-client";
import { ExchangeFault } from "./carrier.js";
import { NameTaken, type FileShelf } from "./file-shelf.js";
import { networkReason } from "./network-reason.js";
import { isPrivate, PrivateAddress, publicLookup } from "./private-addresses.js";

/** An account on an SFTP server. */
export interface SftpAccount {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly folder: string;
  readonly password: string | undefined;
  /** A private key as its file holds it. */
  readonly privateKey: string | undefined;
  /** `SHA256:…` of the host's key; undefined: no host is known. */
  readonly hostKey: string | undefined;
  readonly allowsPrivate: boolean;
}

const READY_MILLISECONDS = 20_000;

const fingerprint = (key: Buffer): string =>
  `SHA256:${createHash("sha256").update(key).digest("base64").replace(/=+$/, "")}`;

const socketTo = ({ host, port, allowsPrivate }: SftpAccount): Promise<Socket> =>
  new Promise((resolve, reject) => {
    if (!allowsPrivate && /^[\d.]+$|:/.test(host) && isPrivate(host)) {
      reject(new PrivateAddress(host, host));
      return;
    }
    const socket = connect({ host, port, ...(allowsPrivate ? {} : { lookup: publicLookup }) });
    socket.setTimeout(READY_MILLISECONDS, () =>
      socket.destroy(Object.assign(new Error(), { code: "ETIMEDOUT" })),
    );
    socket.once("connect", () => {
      socket.setTimeout(0);
      resolve(socket);
    });
    socket.once("error", reject);
  });

const isMissing = (error: unknown): boolean => /no such file|does not exist/i.test((error as Error).message);

/** Folders on an SFTP server. A host whose key is not the one that a person wrote down is refused before any secret is shown to it. */
export async function sftpShelf(account: SftpAccount): Promise<FileShelf> {
  const client = new SftpClient();
  let seen = "";
  const { host, port, user, folder, password, privateKey } = account;
  try {
    await client.connect({
      host,
      port,
      username: user,
      readyTimeout: READY_MILLISECONDS,
      sock: await socketTo(account),
      ...(password === undefined ? {} : { password }),
      ...(privateKey === undefined ? {} : { privateKey }),
      hostVerifier: (key: Buffer) => (seen = fingerprint(key)) === account.hostKey?.replace(/=+$/, ""),
    });
  } catch (error) {
    await client.end().catch(() => false);
    if (seen !== "" && seen !== account.hostKey)
      throw new ExchangeFault(
        account.hostKey === undefined
          ? `the host shows the key ${seen}, and none is known; when it is the right one, write it to exchange.host_key`
          : `the host shows the key ${seen} and not that of exchange.host_key: it is another host, or its key was changed; ask the channel`,
        undefined,
      );
    if (/authentication/i.test((error as Error).message))
      throw new ExchangeFault("the host does not accept the user with this key or password", undefined);
    const { reason, isPassing } = networkReason(error);
    throw new ExchangeFault(reason, isPassing ? {} : undefined);
  }
  const at = (path: string): string => posix.join(folder, path);
  return {
    async put(from, to, told) {
      const target = at(to);
      const coming = posix.join(posix.dirname(target), `.coming-${posix.basename(target)}`);
      if ((await client.exists(target)) !== false) throw new NameTaken();
      let length = 0;
      const stream = createReadStream(from);
      stream.on("data", (chunk) => told((length += chunk.length)));
      await client.put(stream, coming);
      await client.rename(coming, target);
    },
    has: async (path) => (await client.exists(at(path))) !== false,
    async read(path) {
      const into = new PassThrough();
      void client.get(at(path), into).catch((error: unknown) => into.destroy(error as Error));
      return Promise.resolve(into);
    },
    reasonOf(error) {
      if (error instanceof NameTaken)
        return { reason: "a file of this name lies there already", isBefore: true, isPassing: false };
      if (isMissing(error)) return { reason: "it is not there", isBefore: true, isPassing: false };
      const { reason, isPassing } = networkReason(error);
      return { reason, isBefore: false, isPassing };
    },
    async close() {
      await client.end().catch(() => false);
    },
  };
}
