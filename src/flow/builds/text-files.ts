/** Joins text into files within the channel's limits; a family is never torn. */
import type { FileLimits } from "../../core/channel/definition.js";
import type { LayoutDefinition } from "../../core/channel/layout-definition.js";
import { addAll } from "../../core/many.js";
import { encodeText } from "../../formats/encoding.js";
import { packer, type Packer } from "../../formats/packing.js";
import type { LayoutWriter } from "../../layouts/layout.js";
import type { StagedFiles } from "../../workspace/landing/open-folders.js";
import type { StagedFile } from "../../workspace/landing/staged-file.js";
import { partName, type BuiltFile, type LayoutFiles } from "./built-files.js";
import { TOLD, type TextPiece } from "./layout-pieces.js";

const MEGABYTE = 1_000_000;

interface Open {
  readonly file: StagedFile;
  readonly packed: Packer;
}

/** Joins text in files that keep to the channel's limits and packing; a family is never torn over two. */
export async function textFiles(
  { file, encoding, packing }: Pick<LayoutDefinition, "file" | "encoding" | "packing">,
  writer: Pick<LayoutWriter, "head" | "tail" | "apart">,
  { rows: mostRows = Infinity, megabytes = Infinity }: FileLimits,
  staged: StagedFiles,
): Promise<LayoutFiles<TextPiece>> {
  const built: BuiltFile[] = [];
  const lost: string[] = [];
  let unsaid = 0;
  const encoded = (text: string): Uint8Array => encodeText(text, encoding).bytes;
  const tail = encoded(writer.tail());
  const apart = { first: encoded(writer.apart.first), next: encoded(writer.apart.next) };
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
    await put(opened, encoded(writer.head()));
    return opened;
  };
  let open = await begin();
  const end = async (): Promise<void> => {
    await put(open, tail);
    const rest = await open.packed.end();
    if (rest.length > 0) await open.file.writeBytes(rest);
    built.push(await open.file.finish());
  };
  /** Text of so many rows, in a new file where this one has no room for it. */
  const add = async (chunk: Uint8Array, count: number): Promise<void> => {
    if (rows > 0 && !fits(chunk.length, count)) {
      await end();
      part++;
      open = await begin();
    }
    await put(open, rows === 0 ? apart.first : apart.next);
    await put(open, chunk);
    rows += count;
  };
  const fits = (size: number, count: number): boolean =>
    rows + count <= mostRows && bytes + apart.next.length + size <= mostBytes;
  return {
    told: () => [
      ...lost,
      ...(unsaid > lost.length ? [`and ${unsaid - lost.length} more products with such signs`] : []),
    ],
    async join(piece) {
      unsaid += piece.unsaid;
      addAll(lost, piece.lost.slice(0, TOLD - lost.length));
      const count = piece.rows.reduce((sum, own) => sum + own, 0);
      if (count === 0) return;
      // A package is made of the same pushes whatever the piece: some packers cut their blocks by them.
      if (packing === "none" && fits(piece.bytes.length, count)) {
        await add(piece.bytes, count);
        return;
      }
      for (const [at, own] of piece.rows.entries())
        await add(piece.bytes.subarray(piece.starts[at], piece.ends[at]), own);
    },
    async finish() {
      await end();
      return built;
    },
  };
}
