import type { FileFamily } from "../core/listing/shape/file-family.js";

/** What a file says of the account, where its format asks for it. */
export interface AccountFacts {
  readonly title: string;
  readonly shopUrl: string;
  readonly description: string;
}

/** What all rows of a file have in common. */
export interface FileFacts {
  readonly account: AccountFacts;
  /** The channel's word for what is to happen to the rows; "" where it has none. */
  readonly action: string;
}

/** Writes a file's text piece by piece, so that no file is ever held whole. */
export interface LayoutWriter {
  head(): string;
  /** A family's text; `isFirst` in its file, where pieces are set apart. */
  family(family: FileFamily, isFirst: boolean): string;
  tail(): string;
}
