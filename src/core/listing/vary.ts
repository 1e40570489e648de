/** Groups by the channel's group model: what members may differ in, how each is told from the others. */
import { toldApartBy } from "../channel/group-model.js";
import { fieldNamed, type ChannelDefinition } from "../channel/definition.js";
import type { Field } from "../channel/field.js";
import { termKey } from "../values/text.js";
import { axesOf } from "./demand.js";
import type { Listing } from "./listing.js";

/** The listings of one family in the shape that the channel's group model asks for. */
export interface VariedFamily {
  readonly listings: readonly Listing[];
  /** Whether each member is a listing of its own, and no group is shown. */
  readonly isShownApart: boolean;
  /** The field that must tell members apart when each is shown alone. */
  readonly toldApartBy: Field | undefined;
  /** The attributes that the family varies by. */
  readonly axes: readonly string[];
  readonly definition: ChannelDefinition;
  /** One SKU of the groups before this one that has a title, by {@link termKey}; undefined where none came before. */
  readonly shownBefore: ((title: string) => string | undefined) | undefined;
}

/** Which of a family's groups had each title first, and under which SKU. */
function firstTitles(
  groups: readonly (readonly Listing[])[],
  name: Field,
): ReadonlyMap<string, { readonly group: number; readonly sku: string }> {
  const first = new Map<string, { readonly group: number; readonly sku: string }>();
  for (const [group, listings] of groups.entries())
    for (const { value, product } of listings) {
      const title = value(name.slot);
      const key = typeof title === "string" ? termKey(title) : undefined;
      if (key !== undefined && !first.has(key)) first.set(key, { group, sku: product.sku });
    }
  return first;
}

/** Arranges the groups of one family by the channel's group model; each knows the titles of those before it. */
export function varyAll(
  groups: readonly (readonly Listing[])[],
  definition: ChannelDefinition,
): readonly VariedFamily[] {
  const { name } = definition.roles;
  // Titles of a family that is one group are looked at in that group alone.
  const titles = groups.length < 2 || name === undefined ? undefined : firstTitles(groups, name);
  return groups.map((listings, group) =>
    vary(
      listings,
      definition,
      titles === undefined || group === 0
        ? undefined
        : (title) => {
            const found = titles.get(title);
            return found === undefined || found.group >= group ? undefined : found.sku;
          },
    ),
  );
}

/** Arranges a family's listings by the channel's group model. */
export function vary(
  listings: readonly Listing[],
  definition: ChannelDefinition,
  shownBefore?: VariedFamily["shownBefore"],
): VariedFamily {
  const [first] = listings;
  const field = toldApartBy(definition.groups);
  return {
    listings,
    isShownApart: field !== undefined,
    toldApartBy: field === undefined ? undefined : fieldNamed(definition, field),
    axes: first === undefined ? [] : axesOf(first),
    definition,
    shownBefore,
  };
}
