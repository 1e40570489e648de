/** How often each fill gives something, for `lexicant fills`. */
import type { Field } from "../../channel/field.js";
import { isError, type Diagnostic } from "../../diagnostics/diagnostic.js";
import type { ChannelSetup } from "../channel-setup.js";
import { isAskedOf, needFor } from "../demand.js";
import type { Fill } from "./fill-set.js";
import type { Listing } from "../listing.js";

/** How one fill of a field fares over many listings. */
export interface TalliedFill {
  readonly field: Field;
  readonly fill: Fill | undefined;
  /** Listings that are asked for the field. */
  readonly listings: number;
  readonly required: number;
  readonly recommended: number;
  readonly filled: number;
  readonly blank: number;
  /** Blank or wrong where the field is required. */
  readonly missing: number;
  /** Where a value is given that the channel would refuse. */
  readonly wrong: number;
}

/** Counts, for each field and each of its fills, how many listings it fills. */
export interface FillTally {
  /** A field with an error in `findings` holds a value that the channel would refuse: so counts readiness, too. */
  take(listing: Listing, setup: Pick<ChannelSetup, "definition">, findings: readonly Diagnostic[]): void;
  /** In the order of the definition's fields; of one field the fill that serves most comes first. */
  rows(): readonly TalliedFill[];
}

type Counting = { -readonly [K in keyof TalliedFill]: TalliedFill[K] };

function keyOf(field: Field, fill: Fill | undefined): string {
  const { line = 0, position = 0 } = fill?.program.source.place ?? {};
  return `${field.slot} ${line} ${position}`;
}

/** Begins to count. */
export function fillTally(): FillTally {
  const counts = new Map<string, Counting>();
  const countingOf = (field: Field, fill: Fill | undefined): Counting => {
    const key = keyOf(field, fill);
    const known = counts.get(key);
    if (known !== undefined) return known;
    const zero = { listings: 0, required: 0, recommended: 0, filled: 0, blank: 0, missing: 0, wrong: 0 };
    const counting: Counting = { field, fill, ...zero };
    counts.set(key, counting);
    return counting;
  };
  return {
    take(listing, { definition }, findings) {
      const wrong = new Set(findings.filter(isError).map(({ field }) => field));
      const untaken = new Set(listing.problems.map(({ field }) => field));
      for (const { rule, fill } of listing.plan.fields) {
        const { field } = rule;
        const { need } = needFor(rule, listing);
        const isAsked = isAskedOf(rule, listing, definition);
        const isGiven = listing.value(field.slot) !== undefined;
        if (!isGiven && (need === "not allowed" || !isAsked)) continue;
        const counting = countingOf(field, fill);
        counting.listings++;
        // What the channel fills in itself is not missing; what it would refuse is not there.
        const isThere = isGiven || field.defaultValue !== "";
        const isWrong = wrong.has(field.code);
        const isRequired = isAsked && need === "required";
        if (isRequired) counting.required++;
        if (isAsked && need === "recommended") counting.recommended++;
        if (untaken.has(rule) || (isWrong && isGiven)) counting.wrong++;
        if (isThere && !isWrong) counting.filled++;
        if (!isThere) counting.blank++;
        if (isRequired && (!isThere || isWrong)) counting.missing++;
      }
    },
    rows: () => [...counts.values()].sort((a, b) => a.field.slot - b.field.slot || b.listings - a.listings),
  };
}
