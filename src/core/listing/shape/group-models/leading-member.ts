import { fieldNamed } from "../../../channel/definition.js";
import { row, singles, type ShapeFamily } from "./group-model.js";

/** One member leads and shows no reference; the others name it. */
export const leadingMember: ShapeFamily = (family) => {
  if (!family.isGroup) return singles(family);
  const { listings, leader, groupField, definition } = family;
  const lead = listings.find(({ product }) => product.sku === leader) ?? listings[0];
  if (lead === undefined) return { group: undefined, members: [] };
  const id = fieldNamed(definition, definition.identifiedBy);
  const leaderId = id === undefined ? undefined : lead.value(id.slot);
  const others = listings.filter((listing) => listing !== lead);
  return {
    group: undefined,
    // The one that leads comes first: some channels read no reference to what they have not seen.
    members: [
      row("leader", lead, (field) => field !== groupField),
      ...others.map((listing) => ({
        ...row("member", listing, () => true),
        value: (field: NonNullable<typeof groupField>) =>
          field === groupField ? leaderId : listing.value(field.slot),
      })),
    ],
  };
};
