/** The ledger as a person reads it: what the channel has of each SKU, and how its last sending went. */
import type { LiveListing } from "../../core/listing/live-listing.js";
import type { ChannelJobs, Standing } from "../../store/jobs.js";
import type { ChannelLedger, LedgerEntry } from "../../store/ledger.js";

/** Where a listing stands with a channel; `listed` and `group` where the channel itself has not said it. */
export type LedgerStanding = Standing["state"] | "listed" | "group";

/** What is known of one SKU: what the channel has of it, and how its last sending went. */
export interface LedgerRow {
  readonly sku: string;
  readonly state: LedgerStanding;
  /** What the channel has; undefined where it has accepted nothing yet. */
  readonly listing: LiveListing | undefined;
  readonly purpose: string;
  /** ISO 8601; "" for what an earlier version noted. */
  readonly at: string;
  /** The job that said it last; undefined where none did. */
  readonly job: number | undefined;
  /** The id that the channel gave; "". */
  readonly id: string;
  /** Why it was refused; "". */
  readonly message: string;
}

function stateOf({ listing }: LedgerEntry, standing: Standing | undefined): LedgerStanding {
  if (standing !== undefined) return standing.state;
  if (listing.withdrawn === true) return "withdrawn";
  return listing.isGroup === true ? "group" : "listed";
}

const rowOf = (entry: LedgerEntry, standing: Standing | undefined): LedgerRow => ({
  ...entry,
  at: standing?.at ?? entry.at,
  state: stateOf(entry, standing),
  job: standing === undefined || standing.job === 0 ? undefined : standing.job,
  id: standing?.id ?? "",
  message: standing?.state === "refused" ? [standing.code, standing.message].filter(Boolean).join(" ") : "",
});

const withoutListing = ({ sku, state, at, job, id, code, message }: Standing): LedgerRow => ({
  sku,
  state,
  at,
  job,
  id,
  listing: undefined,
  purpose: "",
  message: state === "refused" ? [code, message].filter(Boolean).join(" ") : "",
});

/** Every SKU that was sent, in order: first those of which the channel has something, then those of which it has nothing. */
export async function* ledgerRows(ledger: ChannelLedger, jobs: ChannelJobs): AsyncGenerator<LedgerRow> {
  for await (const batch of ledger.entries()) {
    const standings = await jobs.standings(batch.map(({ sku }) => sku));
    for (const entry of batch) yield rowOf(entry, standings.get(entry.sku));
  }
  for (const state of ["refused", "sent"] as const)
    for await (const batch of jobs.standing(state)) {
      const known = await ledger.of({ skus: batch.map(({ sku }) => sku) });
      for (const standing of batch) if (!known.has(standing.sku)) yield withoutListing(standing);
    }
}

/** The same of one SKU; undefined where it was never sent. */
export async function ledgerRow(
  sku: string,
  ledger: ChannelLedger,
  jobs: ChannelJobs,
): Promise<LedgerRow | undefined> {
  const entry = (await ledger.of({ skus: [sku] })).get(sku);
  const standing = (await jobs.standings([sku])).get(sku);
  if (entry !== undefined) return rowOf(entry, standing);
  return standing === undefined ? undefined : withoutListing(standing);
}
