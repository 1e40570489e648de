/** What becomes of one record: news, said again, refused by the import's mode. */
import { apart } from "../../core/apart.js";
import type { Doubt } from "../../core/catalogue/cell-reader.js";
import { isProvedBy } from "../../core/catalogue/item-reader.js";
import type { RecordTexts } from "../../core/catalogue/stored-texts.js";
import type { Product } from "../../core/catalogue/product.js";
import { SAME } from "../../core/catalogue/record.js";
import { asSku, type Sku } from "../../core/ids.js";
import type { KeyApart, RecordFate, RevisionPlan, SettledDoubt, ValueChange } from "../store.js";
import { keyForm } from "./product-keys.js";
import { productText, type Match } from "./product-matcher.js";
import { isSaid, type RevisionColumns } from "./revision-columns.js";

type LandedFate = Extract<RecordFate, { fate: "added" | "changed" | "unchanged" }>;

/** What a record is read by. */
export interface RecordRules {
  readonly plan: RevisionPlan;
  readonly columns: RevisionColumns;
}

/** That a record landed. */
export const landed = (
  fate: LandedFate["fate"],
  sku: string,
  doubts: readonly SettledDoubt[],
  sameGtin: readonly Sku[],
): LandedFate => ({
  fate,
  sku: asSku(apart(sku)),
  ...(doubts.length === 0 ? {} : { doubts }),
  ...(sameGtin.length === 0 ? {} : { sameGtin }),
});

/** Whether a row says nothing but by what its product is found. */
export function isBare(record: RecordTexts, { plan: { keys }, columns }: RecordRules): boolean {
  return columns.all.every(
    ({ attribute }) =>
      attribute === "sku" || keys.includes(attribute) || !isSaid(columns.textOf(record, attribute)),
  );
}

/** A row of a product that an earlier row of the file was about. */
export function repeated(texts: readonly string[], { plan, columns }: RecordRules): RecordFate {
  const key = plan.keys.find((name) => isSaid(columns.textAt(texts, name))) ?? "sku";
  return { fate: "repeated", key, value: columns.textAt(texts, key) ?? "" };
}

/** What of a row's other keys the product has otherwise, or not at all; and how its own key was mended. */
export function keysApart(
  { known, key, mended }: Match,
  texts: readonly string[],
  { plan: { keys, writesKeys, channel }, columns }: RecordRules,
  productOf: () => Product | undefined,
): Pick<LandedFate, "keysApart" | "keyMended"> {
  // What finds products is told by the file's own layer, and not once more by those for single channels.
  if (channel !== undefined) return {};
  const mending = mended === undefined ? {} : { keyMended: mended };
  const others =
    writesKeys === true || known.isGroup ? [] : keys.filter((one) => one !== key && one !== "sku");
  const isWritten = (has: string): boolean => has === "" && writesKeys === "where-blank";
  const given = others.filter((one) => isSaid(columns.textAt(texts, one)));
  if (given.length === 0) return mending;
  const product = productOf();
  const apart = given.flatMap((one): readonly KeyApart[] => {
    const [value = "", has = ""] = [columns.textAt(texts, one), productText(product, one)];
    return keyForm(one, value) === keyForm(one, has) || isWritten(has)
      ? []
      : [{ key: one, value, has, by: key }];
  });
  return apart.length === 0 ? mending : { ...mending, keysApart: apart };
}

/** Damaged values, each with what the product proves it to be. */
export function settleDoubts(
  doubts: readonly Doubt[],
  product: Product | undefined,
): readonly SettledDoubt[] {
  return doubts.map((doubt) => {
    const existing = productText(product, doubt.attribute);
    return { doubt, proved: existing !== undefined && isProvedBy(doubt, existing) ? existing : undefined };
  });
}

/** What the catalogue has already needs no record that it could not be read. */
export function withoutProved(
  texts: readonly string[],
  settled: readonly SettledDoubt[],
  columns: RevisionColumns,
): readonly string[] {
  const proved = new Set(
    settled.flatMap(({ doubt, proved: value }) =>
      value === undefined ? [] : [columns.positionOf(doubt.attribute)],
    ),
  );
  return proved.size === 0 ? texts : texts.map((text, index) => (proved.has(index) ? "" : text));
}

/** Merged values that a record changed, before and after it. */
export function changesOf(
  fresh: readonly string[],
  old: Product | undefined,
  now: Product | undefined,
  columns: RevisionColumns,
): readonly ValueChange[] {
  return columns.all.flatMap(({ attribute }, index) => {
    if ((fresh[index] ?? "") === "" || fresh[index] === SAME) return [];
    const [before, after] = [productText(old, attribute) ?? "", productText(now, attribute) ?? ""];
    return before === after ? [] : [{ attribute, before, after }];
  });
}
