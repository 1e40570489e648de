import { row, type ShapeFamily } from "./group-model.js";

/** Every member is a listing of its own, told apart by its title. */
export const separate: ShapeFamily = ({ listings }) => ({
  group: undefined,
  members: listings.map((listing) => row("single", listing, () => true)),
});
