import type { Product } from "../../core/catalogue/product.js";
import type { TextRegister } from "../../core/catalogue/beside/text-register.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelLedger, LedgerEntry } from "../../store/ledger.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { BuildWishes } from "./build-wishes.js";

/** What a channel has and is not to have any more. */
export interface EndingListings {
  readonly entries: readonly LedgerEntry[];
  /** Listings that the channel has in all. */
  readonly live: number;
}

/** More than this share of a channel's listings, in percent, ends only when a person says so. */
const MOST = 10;
/** So few are no accident. */
const FEW = 5;

/** Keeps groups apart from SKUs of the same name. */
const GROUP = "\u001d";

/** A product that goes to the channel: neither it nor its group ends. */
export const noteGoing = (going: TextRegister, { sku, group }: Product): void => {
  going.add(sku, 1);
  if (group !== undefined) going.add(GROUP + group, 1);
};

const isGoing = ({ sku, listing }: LedgerEntry, going: TextRegister): boolean =>
  listing.isGroup === true ? going.has(GROUP + (listing.group ?? "")) : going.has(sku);

/** The listings that are named, or those whose products left the selection or the catalogue. */
export const endingListings = async (
  ledger: ChannelLedger,
  going: TextRegister,
  { ending }: BuildWishes,
): Promise<EndingListings> => {
  const wanted = ending === undefined ? undefined : new Set(ending);
  const entries: LedgerEntry[] = [];
  const known: string[] = [];
  let live = 0;
  for await (const batch of ledger.entries())
    for (const entry of batch) {
      if (entry.listing.withdrawn === true) continue;
      live++;
      if (wanted !== undefined) known.push(entry.sku);
      const isEnding = wanted === undefined ? !isGoing(entry, going) : wanted.delete(entry.sku);
      if (isEnding) entries.push(entry);
    }
  if (wanted !== undefined && wanted.size > 0)
    throw new Refusal(
      [...wanted].map((sku) => diagnostic("unknown-sku", { sku, nearest: nearest(sku, known) })),
    );
  return { entries, live };
};

export const refuseMany = (
  { setup }: WorkspaceChannel,
  { entries, live }: EndingListings,
  { confirmed }: BuildWishes,
): void => {
  const count = entries.length;
  if (confirmed || count <= FEW || count * 100 <= live * MOST) return;
  const facts = { channel: setup.definition.label, count, of: live, limit: MOST };
  throw new Refusal([diagnostic("many-withdrawn", facts)]);
};
