/** Counts readiness by channel, category, brand or product. */
import { pathParts } from "../../values/category-path.js";
import { textOf } from "../../catalogue/product.js";
import { actCollector, type RankedAct } from "../../diagnostics/act-collector.js";
import type { ChannelSetup } from "../channel-setup.js";
import { isHeld, productOf, type Outcome } from "../listing.js";
import { addShares, noShares, percentOf, sharesOf, type Share, type Shares } from "./readiness.js";

/** What listings are counted together by. */
export const readinessKinds = ["channel", "category", "brand", "product"] as const;

export type ReadinessKind = (typeof readinessKinds)[number];

/** How ready one channel, category, brand or product is. */
export interface ReadinessRow {
  readonly channel: string;
  /** The category, brand or SKU; "" where whole channels are counted. */
  readonly name: string;
  readonly listings: number;
  readonly ready: number;
  readonly shares: Shares;
  /** The percent of the least ready listing. */
  readonly least: number;
}

/** Counts readiness over many outcomes; what is left out by our own decision does not count. */
export interface ReadinessTally {
  take(setup: Pick<ChannelSetup, "channel" | "definition">, outcome: Outcome): void;
  /** Least ready first. */
  rows(): readonly ReadinessRow[];
  /** Single acts, those first that make most listings ready. */
  acts(): readonly RankedAct[];
  /** What was counted, for {@link join}. */
  plain(): TalliedReadiness;
  /** Takes what another tally of the kind counted of listings behind these. */
  join(tallied: TalliedReadiness): void;
}

/** What was counted of some listings, in the order in which they came. */
export interface TalliedReadiness {
  readonly rows: readonly ReadinessRow[];
  readonly acts: readonly RankedAct[];
}

type GrowingReadiness = { -readonly [K in keyof ReadinessRow]: ReadinessRow[K] };

/** Our own category counts two levels deep: finer, a table has more rows than a person reads. */
const DEPTH = 2;

function nameOf(kind: ReadinessKind, outcome: Outcome): string {
  const product = productOf(outcome);
  switch (kind) {
    case "channel":
      return "";
    case "product":
      return product.sku;
    case "brand":
      return textOf(product, "brand") ?? "no brand";
    case "category":
      return (
        pathParts(textOf(product, "category") ?? "")
          .slice(0, DEPTH)
          .join(" > ") || "no category"
      );
  }
}

/** A share as a number; what nothing is known of comes before all that is. */
const shareOf = ({ asked, filled }: Share): number => (asked === 0 ? 0 : filled / asked);

/** Least ready first, by what a person sees in the row: ready ones, what is required, what is recommended. */
const byReadiness = (a: ReadinessRow, b: ReadinessRow): number =>
  a.ready / a.listings - b.ready / b.listings ||
  shareOf(a.shares.required) - shareOf(b.shares.required) ||
  shareOf(a.shares.recommended) - shareOf(b.shares.recommended);

/** Begins to count by a kind. */
export function readinessTally(kind: ReadinessKind): ReadinessTally {
  const rows = new Map<string, GrowingReadiness>();
  const acts = actCollector();
  const rowOf = (channel: string, name: string): GrowingReadiness => {
    const key = `${channel}\u0000${name}`;
    let row = rows.get(key);
    if (row === undefined) {
      row = { channel, name, listings: 0, ready: 0, shares: noShares, least: 100 };
      rows.set(key, row);
    }
    return row;
  };
  return {
    take({ channel, definition }, outcome) {
      if (outcome.kind === "left-out") return;
      const row = rowOf(channel, nameOf(kind, outcome));
      row.listings++;
      if (outcome.kind === "ready") row.ready++;
      if (isHeld(outcome)) acts.take(productOf(outcome).sku, channel, outcome.findings);
      if (outcome.kind === "unplaced") {
        // Without a category nothing is known to be asked for, and nothing can go out.
        row.least = 0;
        return;
      }
      const shares = sharesOf(outcome.listing, definition, outcome.findings);
      row.shares = addShares(row.shares, shares);
      row.least = Math.min(row.least, percentOf(shares));
    },
    rows: () => [...rows.values()].sort(byReadiness),
    acts: () => acts.ranked(),
    plain: () => ({ rows: [...rows.values()], acts: acts.plain() }),
    join(tallied) {
      for (const { channel, name, listings, ready, shares, least } of tallied.rows) {
        const row = rowOf(channel, name);
        row.listings += listings;
        row.ready += ready;
        row.shares = addShares(row.shares, shares);
        row.least = Math.min(row.least, least);
      }
      acts.join(tallied.acts);
    },
  };
}
