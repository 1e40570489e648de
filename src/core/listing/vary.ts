import { fieldNamed, type ChannelDefinition, type GroupModel } from "../channel/definition.js";
import type { Field } from "../channel/field.js";
import { termKey } from "../values/text.js";
import { axesOf } from "./demand.js";
import type { Listing } from "./listing.js";

/** The listings of one family in the shape that the channel's group model asks for. */
export interface VariedFamily {
  readonly model: GroupModel["model"];
  readonly listings: readonly Listing[];
  /** The field that must tell members apart when each is shown alone. */
  readonly toldApartBy: Field | undefined;
  /** The attributes that the family varies by. */
  readonly axes: readonly string[];
  readonly definition: ChannelDefinition;
  /** Titles of the family's other listings and groups that came before, as {@link termKey}, with one SKU that has it. */
  readonly shownBefore: ReadonlyMap<string, string>;
}

/** The titles under which a family's listings and groups stand beside each other. */
export interface TitlesShown {
  readonly seen: ReadonlyMap<string, string>;
  note(listings: readonly Listing[]): void;
}

export const titlesShown = ({ roles }: ChannelDefinition): TitlesShown => {
  const seen = new Map<string, string>();
  return {
    seen,
    note(listings) {
      for (const { value, product } of roles.name === undefined ? [] : listings) {
        const title = value(roles.name?.slot ?? -1);
        if (typeof title === "string" && !seen.has(termKey(title))) seen.set(termKey(title), product.sku);
      }
    },
  };
};

/** Arranges a family's listings by the channel's group model. */
export const vary = (
  listings: readonly Listing[],
  definition: ChannelDefinition,
  shownBefore: ReadonlyMap<string, string> = new Map(),
): VariedFamily => {
  const [first] = listings;
  const { groups } = definition;
  return {
    model: groups.model,
    listings,
    toldApartBy: groups.model === "separate" ? fieldNamed(definition, groups.toldApartBy) : undefined,
    axes: first === undefined ? [] : axesOf(first),
    definition,
    shownBefore,
  };
};
