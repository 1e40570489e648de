/** Writes what comes over the network to a file, whole or not at all. */
import { createWriteStream } from "node:fs";
import { rm } from "node:fs/promises";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { ownOf } from "../core/own.js";
import { ExchangeFault } from "./carrier.js";

/** No answer of a channel is larger than this: 2 GB. */
const MOST_BYTES = 2 * 10 ** 9;

const faultWords: Readonly<Record<string, string>> = {
  ENOSPC: "the disk is full",
  EDQUOT: "the disk's share for this account is used up",
  EFBIG: "the file would be larger than this account may write",
  EACCES: "nothing may be written there",
  EROFS: "nothing may be written there",
};

/** Writes what comes to a file; what does not come whole leaves none. */
export async function receivedFile(body: Readable, path: string): Promise<void> {
  let length = 0;
  try {
    await pipeline(
      body,
      async function* (chunks: AsyncIterable<Buffer>) {
        for await (const chunk of chunks) {
          length += chunk.length;
          if (length > MOST_BYTES) throw new ExchangeFault("the answer is larger than 2 GB", undefined);
          yield chunk;
        }
      },
      createWriteStream(path, { mode: 0o600 }),
    );
  } catch (error) {
    await rm(path, { force: true });
    if (error instanceof ExchangeFault) throw error;
    const code = (error as NodeJS.ErrnoException).code ?? "";
    const words = ownOf(faultWords, code);
    throw words === undefined
      ? new ExchangeFault("the answer broke off before it was whole", {})
      : new ExchangeFault(`the answer could not be kept: ${words}`, undefined);
  }
}
