import type { Field } from "../channel/field.js";
import { axesOf, isAskedOf, needFor } from "./demand.js";
import type { Fill } from "./fill-set.js";
import type { Listing } from "./listing.js";

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
  /** Blank where the field is required. */
  readonly missing: number;
  /** Where the fill gave what the field cannot take, or could not be worked out. */
  readonly wrong: number;
}

/** Counts, for each field and each of its fills, how many listings it fills. */
export interface FillTally {
  take(listing: Listing): void;
  /** In the order of the definition's fields; of one field the fill that serves most comes first. */
  rows(): readonly TalliedFill[];
}

type Counting = { -readonly [K in keyof TalliedFill]: TalliedFill[K] };

const keyOf = (field: Field, fill: Fill | undefined): string => {
  const { line = 0, position = 0 } = fill?.program.source.place ?? {};
  return `${field.slot} ${line} ${position}`;
};

export const fillTally = (): FillTally => {
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
    take(listing) {
      const axes = axesOf(listing);
      const wrong = new Set(listing.problems.map(({ field }) => field));
      for (const { rule, fill } of listing.plan.fields) {
        const { field } = rule;
        const { need } = needFor(rule, listing);
        const isFilled = listing.value(field.slot) !== undefined;
        if (!isFilled && (need === "not allowed" || !isAskedOf(rule, axes))) continue;
        const counting = countingOf(field, fill);
        counting.listings++;
        if (need === "required") counting.required++;
        if (need === "recommended") counting.recommended++;
        if (wrong.has(rule)) counting.wrong++;
        // What the channel fills in itself is not missing.
        if (isFilled || field.defaultValue !== "") counting.filled++;
        else {
          counting.blank++;
          if (need === "required") counting.missing++;
        }
      }
    },
    rows: () => [...counts.values()].sort((a, b) => a.field.slot - b.field.slot || b.listings - a.listings),
  };
};
