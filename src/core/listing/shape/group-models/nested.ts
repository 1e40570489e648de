import { row, singles, type ShapeFamily } from "./group-model.js";

/** Members stand inside their group; what belongs to the group is said once, for it. */
export const nested: ShapeFamily = (family) => {
  if (!family.isGroup) return singles(family);
  const { listings, groupField } = family;
  return {
    group: row("group", family.groupListing(), ({ level }) => level === "group"),
    members: listings.map((listing) =>
      row("member", listing, (field) => field.level !== "group" && field !== groupField),
    ),
  };
};
