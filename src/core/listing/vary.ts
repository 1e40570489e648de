import { textOf } from "../catalogue/product.js";
import { LIST_SEPARATOR } from "../catalogue/record.js";
import { fieldNamed, type ChannelDefinition, type GroupModel } from "../channel/definition.js";
import type { Field } from "../channel/field.js";
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
}

/** Arranges a family's listings by the channel's group model. */
export const vary = (listings: readonly Listing[], definition: ChannelDefinition): VariedFamily => {
  const [first] = listings;
  const axes = first === undefined ? undefined : textOf(first.product, "varies_by");
  const { groups } = definition;
  return {
    model: groups.model,
    listings,
    toldApartBy: groups.model === "separate" ? fieldNamed(definition, groups.toldApartBy) : undefined,
    axes: axes?.split(LIST_SEPARATOR) ?? [],
    definition,
  };
};
