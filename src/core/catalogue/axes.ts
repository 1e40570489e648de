import { itemsOf } from "./list-text.js";
import { textOf, type ProductView } from "./product.js";

/** The attribute in which a product says what its group varies by. */
export const VARIES_BY = "varies_by";

/** What members of a group usually differ in, where nobody says it. */
export const usualAxes: readonly string[] = ["color", "size", "material", "pattern"];

/** The axes that a text of {@link VARIES_BY} names. */
export const axesIn = (text: string): readonly string[] => itemsOf(text).filter(Boolean);

/** The attributes that a product's group varies by, as it says; none where it says nothing. */
export function statedAxes(product: ProductView): readonly string[] {
  const text = textOf(product, VARIES_BY);
  return text === undefined ? none : axesIn(text);
}

const none: readonly string[] = [];
