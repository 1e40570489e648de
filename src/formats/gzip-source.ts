/** Gzip, unpacked while it is read, within bounds. */
import { Readable } from "node:stream";
import { createGunzip } from "node:zlib";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { sourceOf, type ByteSource } from "./byte-source.js";
import { isBomb } from "./zip-archive.js";

/** What a gzip file holds, unpacked while it is read; a file that unpacks without end is refused. */
export function gzipSource(packed: ByteSource): ByteSource {
  const { file } = packed;
  async function* unpacked(): AsyncGenerator<Buffer> {
    let bytes = 0;
    const gunzip = createGunzip({ chunkSize: 1 << 18 });
    const source = Readable.from(packed.chunks());
    source.on("error", (error) => gunzip.destroy(error));
    try {
      for await (const chunk of source.pipe(gunzip) as AsyncIterable<Buffer>) {
        bytes += chunk.length;
        if (isBomb(bytes, packed.bytesRead()))
          throw new Refusal([
            diagnostic(
              "unsafe-archive",
              { reason: "it unpacks without end from almost nothing" },
              { place: { file } },
            ),
          ]);
        yield chunk;
      }
    } catch (error) {
      if (error instanceof Refusal || !(error instanceof Error)) throw error;
      throw new Refusal([
        diagnostic("broken-data", { format: "gzip", reason: error.message }, { place: { file } }),
      ]);
    } finally {
      source.destroy();
    }
  }
  return sourceOf(file.replace(/\.gz$/i, ""), () => Promise.resolve(unpacked()), {
    bytesRead: () => packed.bytesRead(),
    ...(packed.size === undefined ? {} : { size: packed.size }),
    close: () => void packed.close(),
  });
}
