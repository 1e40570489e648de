import { row, singles, type ShapeFamily } from "./group-model.js";

/** A row of the group's own with what belongs to it, and below it member rows with what is theirs. */
export const groupRow: ShapeFamily = (family) => {
  if (!family.isGroup) return singles(family);
  const { listings, definition, groupField } = family;
  const isShared = (code: string): boolean => code === definition.identifiedBy || code === groupField?.code;
  return {
    group: row("group", family.groupListing(), ({ code, level }) => level === "group" || isShared(code)),
    members: listings.map((listing) =>
      row("member", listing, ({ code, level }) => level !== "group" || isShared(code)),
    ),
  };
};
