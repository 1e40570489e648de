/** Why a category is proposed, in a few words. */
import { countText } from "../diagnostics/phrases.js";
import type { CategoryIndex } from "./category-index.js";
import type { Masses } from "./company.js";
import type { Understood } from "./subject.js";
import type { Weighed } from "./weighed.js";

/** From here on a kind of evidence is worth telling. */
const TOLD = 0.45;
/** Who reads hundreds of them reads no more of each. */
const TOLD_AT_MOST = 2;

const surest = (masses: Masses): number | undefined =>
  [...masses].reduce<readonly [number, number] | undefined>(
    (best, one) => (best === undefined || one[1] > best[1] ? one : best),
    undefined,
  )?.[0];

/** What a category names that ours are, or are one of, in words: "aprons". */
function nameOfKin(ours: Masses, { candidate }: Weighed, index: CategoryIndex): string | undefined {
  const own = surest(ours);
  if (own === undefined) return undefined;
  const reach = index.kinship.of(own);
  const named = [...candidate.named, ...candidate.soughtBy].flatMap(({ goods }) => [...goods.keys()]);
  const kin = named
    .flatMap((good) => {
      const reached = reach.get(good);
      return reached === undefined ? [] : [{ good, ...reached }];
    })
    .sort((a, b) => b.near - a.near)[0];
  const [mine, theirs] = [index.glossary.goods[own]?.name, index.glossary.goods[kin?.good ?? -1]?.name];
  if (kin === undefined || mine === undefined || theirs === undefined) return undefined;
  return kin.kin === "same"
    ? `“${mine}”`
    : kin.kin === "wider"
      ? `“${mine}” is a kind of ${theirs}`
      : undefined;
}

/** Why a category is proposed, in a few words, what says most first. */
export function reasonOf(weighed: Weighed, ours: Understood, index: CategoryIndex): string {
  const { evidence, around } = weighed;
  const reasons: string[] = [];
  if (around.confirmed >= TOLD) reasons.push("as you placed others like it");
  else if (around.called >= TOLD) reasons.push("called like others that you placed");
  const products = evidence.productsKin + evidence.productsNarrower;
  if (products >= TOLD && ours.count > 0) {
    const many = Math.min(ours.count, Math.max(1, Math.round(products * ours.count)));
    const kin = nameOfKin(ours.products, weighed, index);
    reasons.push(
      `${many} of ${countText(ours.count, "product")}${kin === undefined ? " say so" : `: ${kin}`}`,
    );
  }
  if (evidence.likeness >= 0.95) reasons.push("the same name");
  else if (evidence.leafKin >= TOLD) {
    const kin = nameOfKin(ours.leaf, weighed, index);
    if (kin !== undefined && !reasons.some((one) => one.endsWith(kin))) reasons.push(`your shelf: ${kin}`);
  }
  if (around.elsewhere >= 0.6) reasons.push("as elsewhere");
  if (around.beside >= 1) reasons.push("beside its neighbours");
  if (evidence.words >= TOLD || evidence.sought >= TOLD) reasons.push("words in common");
  if (evidence.branchWords >= TOLD || evidence.branchGoods >= TOLD) reasons.push("in a like branch");
  return reasons.length === 0 ? "a word in common" : reasons.slice(0, TOLD_AT_MOST).join(", ");
}
