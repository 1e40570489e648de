/** Asks proposal by proposal; each answer is kept at once. */
import type { CategoryIndex } from "../core/placement/category-index.js";
import { selfAndAbove } from "../core/values/category-path.js";
import type { PlacementDecision } from "../flow/place/decisions.js";
import { productsOf, titleOf, type PlacementProposal } from "../flow/place/proposals.js";
import type { Io } from "../io/io.js";
import { unlessBroken, type Answered } from "./answered.js";
import { askPlacement, type AskedPlacement } from "./ask-placement.js";

const askedOf = (ours: PlacementProposal["ours"]): AskedPlacement => ({
  title: titleOf(ours),
  above: "skus" in ours ? ours.path || undefined : selfAndAbove(ours.path)[1],
  products: productsOf(ours),
});

/** Asks a person for each proposal; each decision is kept at once, and stays where they break it off. */
export async function askPlacements(
  proposals: readonly PlacementProposal[],
  index: CategoryIndex,
  by: string,
  io: Io,
  keep: (decision: PlacementDecision) => Promise<void>,
): Promise<Answered<PlacementDecision>> {
  const decided: PlacementDecision[] = [];
  for (const { ours, suggestions } of proposals) {
    // A decision for the category above serves this one too.
    const isServed = decided.some(
      ({ path, skus }) => skus.length === 0 && (ours.path === path || ours.path.startsWith(`${path} > `)),
    );
    if (isServed && !("skus" in ours)) continue;
    const answer = await unlessBroken(() => askPlacement(askedOf(ours), suggestions, index, io));
    if (answer === undefined) return { decided, isBroken: true };
    if (answer.answer === "stop") break;
    if (answer.answer === "skip") continue;
    const { path, category, confidence } = answer;
    const decision: PlacementDecision =
      "skus" in ours && path === titleOf(ours)
        ? { path: ours.path, skus: ours.skus, category, confidence, by }
        : { path, skus: [], category, confidence, by };
    await keep(decision);
    decided.push(decision);
  }
  return { decided, isBroken: false };
}
