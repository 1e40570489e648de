/** Listings that the channel has and is not to have any more. */
import type { TextRegister } from "../../core/catalogue/beside/text-register.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelLedger, LedgerEntry } from "../../store/ledger.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { BuildWishes } from "./build-wishes.js";
import type { Going } from "./part-build.js";

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
export function noteGoing(going: TextRegister, { sku, group }: Going): void {
  going.add(sku, 1);
  if (group !== undefined) going.add(GROUP + group, 1);
}

const isGoing = ({ sku, listing }: LedgerEntry, going: TextRegister): boolean =>
  listing.isGroup === true ? going.has(GROUP + (listing.group ?? "")) : going.has(sku);

/** Which of a channel's listings a person wants to end: by name, by choice, or those that went. */
function endingTest(
  going: TextRegister,
  wanted: Set<string> | undefined,
  { choice }: BuildWishes,
  channel: string,
): (entry: LedgerEntry) => boolean {
  if (wanted === undefined && choice.isAll) return (entry) => !isGoing(entry, going);
  return ({ sku }) => (wanted?.delete(sku) ?? true) && choice.isMeant({ sku }, channel);
}

/** The listings that are named or chosen, with the rows of groups that nothing is left of; else those whose products left the selection or the catalogue. */
export async function endingListings(
  ledger: ChannelLedger,
  going: TextRegister,
  wishes: BuildWishes,
  channel: string,
): Promise<EndingListings> {
  const { ending, choice, against = "sent" } = wishes;
  const wanted = ending === undefined ? undefined : new Set(ending);
  const isEnding = endingTest(going, wanted, wishes, channel);
  const isByName = wanted !== undefined || !choice.isAll;
  const entries: LedgerEntry[] = [];
  const groupRows: LedgerEntry[] = [];
  const staying = new Set<string>();
  const shrinking = new Set<string>();
  const known: string[] = [];
  let live = 0;
  for await (const batch of ledger.entries(against))
    for (const entry of batch) {
      const { withdrawn, isGroup, group = "" } = entry.listing;
      if (withdrawn === true) continue;
      live++;
      if (wanted !== undefined) known.push(entry.sku);
      const ends = isEnding(entry);
      if (ends) entries.push(entry);
      else if (isByName && isGroup === true) groupRows.push(entry);
      if (isGroup !== true) (ends ? shrinking : staying).add(group);
    }
  if (wanted !== undefined && wanted.size > 0)
    throw new Refusal(
      [...wanted].map((sku) => diagnostic("unknown-sku", { sku, nearest: nearest(sku, known) })),
    );
  for (const row of groupRows) {
    const { group = "" } = row.listing;
    if (shrinking.has(group) && !staying.has(group)) entries.push(row);
  }
  return { entries, live };
}

/** Refuses to end more than is usual unless a person confirmed it. */
export function refuseMany(
  { setup }: WorkspaceChannel,
  { entries, live }: EndingListings,
  { confirmed }: BuildWishes,
): void {
  const count = entries.length;
  if (confirmed || count <= FEW || count * 100 <= live * MOST) return;
  const facts = { channel: setup.definition.label, count, of: live, limit: MOST };
  throw new Refusal([diagnostic("many-withdrawn", facts)]);
}
