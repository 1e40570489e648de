import type { Listing } from "../core/listing/listing.js";

/** What a file says of the account, where its format asks for it. */
export interface AccountFacts {
  readonly title: string;
  readonly shopUrl: string;
  readonly description: string;
}

/** Writes a file's text piece by piece, so that no file is ever held whole. */
export interface LayoutWriter {
  head(): string;
  listing(listing: Listing): string;
  tail(): string;
}
