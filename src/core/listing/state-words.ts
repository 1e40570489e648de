import type { Outcome } from "./listing.js";

/** The words for where a product stands on a channel; they are part of our JSON too. */
export const stateWords: Readonly<Record<Outcome["kind"], "ready" | "held" | "left out">> = {
  ready: "ready",
  held: "held",
  unplaced: "held",
  "left-out": "left out",
};
