/** Families laid out, as pieces that go from thread to thread. */
import { withAncestors, type Category } from "../../core/channel/category-tree.js";
import type { LayoutDefinition, XlsxLayout } from "../../core/channel/layout-definition.js";
import { rowsOf, type FileFamily } from "../../core/listing/shape/file-family.js";
import { encodeText, type FileEncoding } from "../../formats/encoding.js";
import type { FileFacts, LayoutWriter } from "../../layouts/layout.js";
import { writerFor } from "../../layouts/layouts.js";
import { tableRows } from "../../layouts/table-rows.js";

/** Families as text, one behind the other, with where each stands: plain, so that it can go from thread to thread. */
export interface TextPiece {
  readonly kind: "text";
  readonly bytes: Uint8Array<ArrayBuffer>;
  /** Where each family's own text begins and ends; before the second and each further stands what sets families apart. */
  readonly starts: readonly number[];
  readonly ends: readonly number[];
  /** Rows of each. */
  readonly rows: readonly number[];
  /** Products with signs that the encoding has not: the first few in words, and how many in all. */
  readonly lost: readonly string[];
  readonly unsaid: number;
}

/** Families as rows of cells, each with the branch of the channel's tree whose book they go to. */
export interface RowsPiece {
  readonly kind: "rows";
  readonly families: readonly {
    readonly branch: string | undefined;
    readonly rows: readonly (readonly string[])[];
  }[];
}

/** What there is of a layout so far. */
export type LayoutPiece = TextPiece | RowsPiece;

/** Lays families out, and gives what there is of them so far. */
export interface LayoutPieces<P extends LayoutPiece = LayoutPiece> {
  write(family: FileFamily): void;
  take(): P;
}

/** So many products with lost signs are told one by one. */
export const TOLD = 10;

const FIRST_SIZE = 1 << 16;
/** Bytes that one unit of a text takes at most in any of our encodings. */
const MOST_BYTES = 3;

/** Bytes that grow as texts are added to them. */
function growingBytes() {
  let bytes = Buffer.allocUnsafeSlow(FIRST_SIZE);
  let length = 0;
  const reserve = (more: number): void => {
    if (length + more <= bytes.length) return;
    const wider = Buffer.allocUnsafeSlow(Math.max(bytes.length * 2, length + more));
    bytes.copy(wider, 0, 0, length);
    bytes = wider;
  };
  return {
    get length() {
      return length;
    },
    addText(text: string): void {
      reserve(text.length * MOST_BYTES);
      length += bytes.write(text, length);
    },
    add(more: Uint8Array): void {
      reserve(more.length);
      bytes.set(more, length);
      length += more.length;
    },
    take(): Uint8Array<ArrayBuffer> {
      const taken = new Uint8Array(bytes.buffer, 0, length);
      bytes = Buffer.allocUnsafeSlow(FIRST_SIZE);
      length = 0;
      return taken;
    },
  };
}

/** Lays families out as text. */
export function textPieces(writer: LayoutWriter, encoding: FileEncoding): LayoutPieces<TextPiece> {
  const bytes = growingBytes();
  let [starts, ends, rows, lost]: [number[], number[], number[], string[]] = [[], [], [], []];
  let unsaid = 0;
  const apart = encodeText(writer.apart.next, encoding).bytes;
  const add = (text: string, family: FileFamily): void => {
    if (encoding === "utf-8") {
      bytes.addText(text);
      return;
    }
    const encoded = encodeText(text, encoding);
    bytes.add(encoded.bytes);
    if (encoded.lost.length === 0) return;
    unsaid++;
    if (lost.length < TOLD)
      lost.push(
        `${family.members[0]?.sku ?? ""}: ${encoded.lost.map((one) => `"${one}"`).join(", ")} cannot be said in ${encoding}; a question mark stands there`,
      );
  };
  return {
    write(family) {
      if (starts.length > 0) bytes.add(apart);
      starts.push(bytes.length);
      add(writer.family(family), family);
      ends.push(bytes.length);
      rows.push(rowsOf(family).length);
    },
    take() {
      const piece: TextPiece = { kind: "text", bytes: bytes.take(), starts, ends, rows, lost, unsaid };
      [starts, ends, rows, lost, unsaid] = [[], [], [], [], 0];
      return piece;
    },
  };
}

/** The branch of the channel's tree that a family's book is for; undefined where the layout knows one book alone. */
function branchOf({ byBranch }: XlsxLayout, family: FileFamily): Category | undefined {
  const [first] = rowsOf(family);
  return !byBranch || first?.category === undefined ? undefined : withAncestors(first.category).at(-1);
}

function rowPieces(layout: XlsxLayout, { action }: FileFacts): LayoutPieces<RowsPiece> {
  let families: RowsPiece["families"][number][] = [];
  const rowsOfFamily = tableRows(layout, action);
  return {
    write(family) {
      families.push({
        branch: branchOf(layout, family)?.code,
        rows: rowsOfFamily(family),
      });
    },
    take() {
      const piece: RowsPiece = { kind: "rows", families };
      families = [];
      return piece;
    },
  };
}

/** Lays families out as a layout wants them. */
export function layoutPieces(layout: LayoutDefinition, facts: FileFacts): LayoutPieces {
  if (layout.format === "xlsx") return rowPieces(layout, facts);
  return textPieces(writerFor(layout, facts), layout.encoding);
}
