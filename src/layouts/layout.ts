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

/** What stands before the first family, and before each further one. */
export interface Apart {
  readonly first: string;
  readonly next: string;
}

/** Families one behind the other, with nothing between them. */
export const unparted: Apart = { first: "", next: "" };

/** Members of an array: a line each. */
export const commas: Apart = { first: "\n", next: ",\n" };

/** Writes a file's text piece by piece, so that no file is ever held whole. */
export interface LayoutWriter {
  head(): string;
  family(family: FileFamily): string;
  /** What stands before the first family of a file, and before each that follows. */
  readonly apart: Apart;
  tail(): string;
}
