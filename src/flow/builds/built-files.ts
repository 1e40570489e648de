import type { LayoutPiece } from "./layout-pieces.js";

/** A file that stands whole, beside its target. */
export interface BuiltFile {
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
}

/** The files of one layout on their way: as many as the channel's limits ask for. */
export interface LayoutFiles<P extends LayoutPiece = LayoutPiece> {
  /** Takes the families of one part of the catalogue behind those of the parts before. */
  join(piece: P): Promise<void>;
  finish(): Promise<readonly BuiltFile[]>;
  /** What a person should know of the files. */
  told?(): readonly string[];
}

/** `goods.xml` is followed by `goods-2.xml`. */
export const partName = (file: string, part: number): string =>
  part === 1 ? file : file.replace(/(\.[^.]*)?$/, `-${part}$1`);
