import type { LiveListing } from "../core/listing/live-listing.js";

/** What was handed over of one SKU, and when and for what. */
export interface LedgerEntry {
  readonly sku: string;
  readonly listing: LiveListing;
  readonly purpose: string;
  /** ISO 8601; "" for what an earlier version noted. */
  readonly at: string;
}

export type LedgerState = "built" | "sent";

/** Which entries are looked up. */
export interface LedgerWish {
  readonly skus: readonly string[];
  /** Groups whose own rows are wanted too, with those of the groups that one was split into (`NAME-…`). */
  readonly groups?: readonly string[];
  /** Sent, if nothing else is said. */
  readonly state?: LedgerState;
}

/** What one channel has of ours, by SKU: what the last builds hold, and what was sent. */
export interface ChannelLedger {
  /** Whether nothing was ever sent. */
  isEmpty(): Promise<boolean>;
  /** What the channel has, or the last builds hold, by SKU; withdrawn ones too, and none for what was never there. */
  of(wish: LedgerWish): Promise<ReadonlyMap<string, LedgerEntry>>;
  /** Every SKU of a state, withdrawn ones too, in order, in batches. */
  entries(state?: LedgerState): AsyncGenerator<readonly LedgerEntry[]>;
  /** The number of the next build of this channel, from 1. */
  nextNumber(): Promise<number>;
  /** The files of the last build. */
  builtFiles(): Promise<readonly string[]>;
  /** A build begins. Nothing holds until `commit`. */
  begin(purpose: string, at: string): Promise<LedgerNotes>;
  /** The last builds were sent: what they hold is what the channel has. Gives how many listings. */
  markSent(at: string): Promise<number>;
}

export interface LedgerNotes {
  note(entries: readonly (readonly [sku: string, listing: LiveListing])[]): Promise<void>;
  /** What was noted holds, with the names of the files that it stands in. */
  commit(files: readonly string[]): Promise<void>;
  /** Nothing of it holds. */
  discard(): Promise<void>;
}
