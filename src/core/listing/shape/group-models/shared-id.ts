import { row, singles, type ShapeFamily } from "./group-model.js";

/** Members are equal; all show the same reference. */
export const sharedId: ShapeFamily = (family) =>
  family.isGroup
    ? { group: undefined, members: family.listings.map((listing) => row("member", listing, () => true)) }
    : singles(family);
