/** What a fill came to by the texts that it read: brands and prices repeat. */
import type { ProductView } from "../../catalogue/product.js";
import { TextMemo, type MemoRoom } from "../../text-memo.js";
import { ownNames } from "./fill-names.js";
import type { Fill } from "./fill-set.js";
import type { Filled } from "./filled.js";

/** What a fill came to, by the texts that it reads. */
export interface FillMemo {
  /** The product's texts that the fill reads, as one. */
  keyOf(product: ProductView): string;
  get(key: string): Filled | undefined;
  set(key: string, filled: Filled): void;
}

/** Between texts; cleaned cells cannot hold it. */
const BETWEEN = "\u0000";
// What reads more texts than these has hardly ever the same ones again.
const MOST_READ = 4;

function keyOfTexts(reads: readonly number[]): FillMemo["keyOf"] {
  const [only = -1, ...others] = reads;
  if (others.length === 0) return (product) => product.text(only) ?? "";
  return (product) => {
    let key = product.text(only) ?? "";
    for (const slot of others) key += BETWEEN + (product.text(slot) ?? "");
    return key;
  };
}

/** Whether a fill comes to the same wherever the texts are the same: it reads nothing but the product's own attributes. */
const isOfTextsAlone = ({ program }: Fill): boolean =>
  program.readsFields.length === 0 &&
  !program.readsMembers &&
  program.reads.length <= MOST_READ &&
  program.readsOwn.every((slot) => slot === ownNames.most_allowed.slot);

/** The memory of one planned field; its rule, its category and the day are the same for all that it is asked. */
export function fillMemo(fill: Fill | undefined, room: MemoRoom): FillMemo | undefined {
  if (fill === undefined || !isOfTextsAlone(fill)) return undefined;
  const memo = new TextMemo<Filled>(room);
  return {
    keyOf: keyOfTexts(fill.program.reads),
    get: (key) => memo.get(key),
    set: (key, filled) => memo.set(key, filled),
  };
}
