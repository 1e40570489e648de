/** By which key a file's rows find products, and whether they may add some. */
import type { SampleColumn } from "./sample-column.js";
import type { FileSample, NearKey, ProposedAttribute } from "./source-proposal.js";

const KEYS = ["sku", "gtin", "isbn", "mpn"] as const;

/** Columns that a key could nearly be read from, with what keeps them from it. */
export function nearKeys(columns: readonly SampleColumn[]): readonly NearKey[] {
  return columns
    .filter(({ shape }) => shape.filled > 0 && shape.url < 0.5 && shape.date < 0.5 && shape.moneySign < 0.5)
    .map(({ column, shape }) => ({
      column,
      closeness: shape.distinct * shape.density * (shape.codeLike > 0.9 ? 1 : 0.6),
      because:
        shape.density < 0.97
          ? ("blanks" as const)
          : shape.distinct < 0.97
            ? ("repeats" as const)
            : ("long" as const),
    }))
    .sort((a, b) => b.closeness - a.closeness)
    .slice(0, 3)
    .map(({ column, because }) => ({ column, because }));
}

interface Matching {
  readonly keys: readonly string[];
  readonly mode: "update" | "both";
  readonly matched: number | undefined;
}

/** Attributes that a listing has and a list of stocks or prices has not. */
const tellsGoods = [
  "description",
  "images",
  "category",
  "brand",
  "manufacturer",
  "gtin",
  "color",
  "size",
  "material",
];

/**
 * By what rows find products, and whether they may add some: what the catalogue knows goes before what a column is called,
 * since a list of stocks that adds forty products does harm.
 */
export function matching(attributes: readonly ProposedAttribute[], { header, known }: FileSample): Matching {
  const has = (attribute: string): boolean => attributes.some((one) => one.attribute === attribute);
  const [fallback] = KEYS.filter(has);
  if (known === undefined)
    return {
      keys: fallback === undefined ? [] : [fallback],
      mode: fallback === "sku" ? "both" : "update",
      matched: undefined,
    };
  const share = (attribute: "sku" | "gtin" | "mpn"): number => {
    const column = attributes.find((one) => one.attribute === attribute)?.columns[0];
    return column === undefined ? 0 : (known[header.indexOf(column)]?.[attribute] ?? 0);
  };
  const shares = { sku: share("sku"), gtin: share("gtin"), mpn: share("mpn") };
  const isListing = has("name") && has("price") && tellsGoods.filter(has).length >= 2;
  if (has("sku") && (shares.sku >= 0.3 || (shares.gtin < 0.3 && shares.mpn < 0.6))) {
    // A list of stocks names goods so that people find them in it, and makes none.
    const isCount = has("quantity") && !has("price") && !has("cost") && !tellsGoods.some(has);
    const isUpdate = (shares.sku >= 0.6 && !isListing) || !has("name") || isCount;
    return { keys: ["sku"], mode: isUpdate ? "update" : "both", matched: shares.sku };
  }
  // Whatever finds products does, in the order of the file: a row that lacks the one may have the other.
  const finding = attributes
    .map(({ attribute }) => attribute)
    .filter(
      (attribute) =>
        (attribute === "gtin" && shares.gtin >= 0.3) || (attribute === "mpn" && shares.mpn >= 0.5),
    );
  if (finding.length === 0)
    return { keys: fallback === undefined ? [] : [fallback], mode: "update", matched: 0 };
  return { keys: finding, mode: "update", matched: Math.max(shares.gtin, shares.mpn) };
}
