/** The ledger: what each channel has, and what its builds held. The interface that any engine serves. */
import type { PurposeName } from "../core/channel/purpose-names.js";
import type { LiveListing } from "../core/listing/live-listing.js";
import type { KeptListing } from "../core/listing/live-text.js";

/** What was handed over of one SKU, and when and for what. */
export interface LedgerEntry {
  readonly sku: string;
  readonly listing: LiveListing;
  readonly purpose: string;
  /** ISO 8601; "" for what an earlier version noted. */
  readonly at: string;
}

/**
 * What a channel has, or what its last whole file holds; what its own export of live listings held last, by the channel's
 * references as it came, and by our SKUs.
 */
export type LedgerState = "built" | "sent" | "came" | "live";

/**
 * Which of a channel's builds is meant: `full` is its whole file as it stands, `chosen` one of products by choice, any
 * other the last of a purpose. Each holds until the next of its kind.
 */
export type BuildKind = PurposeName | "chosen";

/** The last build of a kind. */
export interface BuildNote {
  readonly number: number;
  readonly kind: BuildKind;
  readonly files: readonly string[];
}

/** What became of what the channel has when a build was sent. */
export interface SentCounts {
  /** Listings that the build holds. */
  readonly listings: number;
  /** Listings that the channel had and that end with this file. */
  readonly ended: number;
  /** The act's number in the history; undefined where there was nothing to note. */
  readonly revision: number | undefined;
}

/** A build that was handed over. */
export interface SentWish {
  readonly kind: BuildKind;
  /** ISO 8601. */
  readonly at: string;
  /** Whether the file is all that the channel then has: what is not in it has ended. */
  readonly whole: boolean;
  /** Counts, and changes nothing. */
  readonly isTrial: boolean;
}

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
  /** What the last build of a kind holds, in order, in batches. */
  built(kind: BuildKind): AsyncGenerator<readonly LedgerEntry[]>;
  /** The number of the next build of this channel, from 1. */
  nextNumber(): Promise<number>;
  /** The last build of each kind, latest first. */
  builds(): Promise<readonly BuildNote[]>;
  /** A build begins. Nothing holds until `commit`. */
  begin(purpose: string, at: string, kind: BuildKind): Promise<LedgerNotes>;
  /** A channel's export is read: what it holds takes the place of what the last one held. */
  beginExport(state: "came" | "live", at: string): Promise<LedgerNotes>;
  /** The last export is what the channel has, as one act; what is not in it has ended. */
  adopt(at: string, ids: ReadonlyMap<string, string>): Promise<SentCounts>;
  /** The last build of a kind was sent: what it holds is what the channel has. The history knows it, and it can be undone. */
  markSent(wish: SentWish): Promise<SentCounts>;
}

/** Takes down what a build holds. */
export interface LedgerNotes {
  /** Notes what a build holds of one family after the other, by the families' numbers. */
  note(family: number, kept: readonly KeptListing[]): Promise<void>;
  /** What was noted holds, with the names of the files that it stands in. */
  commit(files: readonly string[]): Promise<void>;
  /** Nothing of it holds. */
  discard(): Promise<void>;
}
