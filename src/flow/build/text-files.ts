import type { FileLimits } from "../../core/channel/definition.js";
import type { LayoutDefinition } from "../../core/channel/layout-definition.js";
import { rowsOf, type FileFamily } from "../../core/listing/shape/file-family.js";
import { encodeText } from "../../formats/encoding.js";
import { packer, type Packer } from "../../formats/packing.js";
import type { LayoutWriter } from "../../layouts/layout.js";
import type { StagedFiles } from "../../workspace/landing/landing.js";
import type { StagedFile } from "../../workspace/landing/staged-file.js";
import { partName, type BuiltFile, type LayoutFiles } from "./built-files.js";

const MEGABYTE = 1_000_000;
const TOLD = 10;

interface Open {
  readonly file: StagedFile;
  readonly packed: Packer;
}

/** Text in files that keep to the channel's limits, encoding and packing; a family is never torn over two. */
export const textFiles = async (
  { file, encoding, packing }: Pick<LayoutDefinition, "file" | "encoding" | "packing">,
  writer: LayoutWriter,
  { rows: mostRows = Infinity, megabytes = Infinity }: FileLimits,
  staged: StagedFiles,
): Promise<LayoutFiles> => {
  const built: BuiltFile[] = [];
  const lost: string[] = [];
  let unsaid = 0;
  const tail = encodeText(writer.tail(), encoding).bytes;
  const mostBytes = megabytes * MEGABYTE - tail.length;
  let [part, rows, bytes] = [1, 0, 0];
  const put = async ({ file: own, packed }: Open, chunk: Uint8Array): Promise<void> => {
    bytes += chunk.length;
    const piece = await packed.push(chunk);
    if (piece.length > 0) await own.writeBytes(piece);
  };
  const begin = async (): Promise<Open> => {
    const name = partName(file, part);
    const packed = await packer(packing, name);
    const opened = { file: await staged.create(packed.name(name)), packed };
    [rows, bytes] = [0, 0];
    await put(opened, encodeText(writer.head(), encoding).bytes);
    return opened;
  };
  // Plain text is gathered by the staged file itself; bytes are gathered here, so that no family costs a write.
  const isPlain = encoding === "utf-8" && packing === "none";
  let open = await begin();
  const end = async (): Promise<void> => {
    await put(open, tail);
    const rest = await open.packed.end();
    if (rest.length > 0) await open.file.writeBytes(rest);
    built.push(await open.file.finish());
  };
  const encode = (family: FileFamily, isFirst: boolean) => {
    const text = writer.family(family, isFirst);
    if (isPlain) return { text, size: Buffer.byteLength(text), bytes: undefined };
    const encoded = encodeText(text, encoding);
    if (encoded.lost.length > 0) {
      unsaid++;
      if (lost.length < TOLD)
        lost.push(
          `${family.members[0]?.sku ?? ""}: ${encoded.lost.map((one) => `"${one}"`).join(", ")} cannot be said in ${encoding}; a question mark stands there`,
        );
    }
    return { text, size: encoded.bytes.length, bytes: encoded.bytes };
  };
  return {
    told: () => [
      ...lost,
      ...(unsaid > lost.length ? [`and ${unsaid - lost.length} more products with such signs`] : []),
    ],
    async write(family) {
      const count = rowsOf(family).length;
      let piece = encode(family, rows === 0);
      if (rows > 0 && (rows + count > mostRows || bytes + piece.size > mostBytes)) {
        await end();
        part++;
        open = await begin();
        piece = encode(family, true);
      }
      if (piece.bytes === undefined) {
        await open.file.write(piece.text);
        bytes += piece.size;
      } else await put(open, piece.bytes);
      rows += count;
    },
    async finish() {
      await end();
      return built;
    },
  };
};
