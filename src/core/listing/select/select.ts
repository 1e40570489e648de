/** Which products go to a channel, by our own decision; why one stays out. */
import { textOf, valueOf, type Product } from "../../catalogue/product.js";
import { LIST_SEPARATOR } from "../../catalogue/record.js";
import { diagnostic, type Diagnostic } from "../../diagnostics/diagnostic.js";
import { shownText } from "../../values/show.js";
import { fold } from "../../values/text.js";
import { isMoney } from "../../values/value.js";
import type { ChannelSetup } from "../channel-setup.js";

/** Attributes by which a product says itself where it goes. They arrive in imports like any other. */
export const LIST_ON = "list_on";
/** Channels that a product is to stay off. */
export const KEEP_OFF = "keep_off";
/** Whether it goes to the channels that see the word: to one, where a layer for that channel says so. */
export const LISTED = "listed";
/** Countries that it may be sold in. */
export const SELL_IN = "sell_in";

const none: readonly string[] = [];

function names(product: Product, attribute: string): readonly string[] {
  const marks = textOf(product, attribute);
  if (marks === undefined) return none;
  return marks
    .split(LIST_SEPARATOR)
    .flatMap((part) => part.split(/[,;|]/))
    .map(fold)
    .filter(Boolean);
}

const isNamed = (marks: readonly string[], channel: string): boolean =>
  marks.includes(fold(channel)) || marks.includes("all");

/** Why a product is left out of a channel by our own decision; undefined when it goes there. */
export function leftOutBecause(
  product: Product,
  { channel, selection }: Pick<ChannelSetup, "channel" | "selection">,
): Diagnostic | undefined {
  const where = { product: product.sku, channel };
  const listed = valueOf(product, LISTED);
  if (listed === false) return diagnostic("marked-off", { attribute: LISTED, marks: [] }, where, "advice");
  const off = names(product, KEEP_OFF);
  if (off.length > 0 && isNamed(off, channel))
    return diagnostic("marked-off", { attribute: KEEP_OFF, marks: off }, where, "advice");
  const on = names(product, LIST_ON);
  const isMarked = listed === true || (on.length > 0 && isNamed(on, channel));
  if (on.length > 0 && !isMarked)
    return diagnostic("marked-off", { attribute: LIST_ON, marks: on }, where, "advice");
  const { condition, takesDigital, hazards, countries, leastPrice } = selection;
  // A product that is marked for this very channel goes there whatever the condition says of its like.
  if (!isMarked && condition !== undefined && condition.run(product) !== true)
    return diagnostic(
      "not-selected",
      { condition: condition.source.text },
      { ...where, notes: [{ note: "rule", place: condition.source.place }] },
      "advice",
    );
  if (!takesDigital && valueOf(product, "digital") === true)
    return diagnostic("digital-left-out", {}, where, "advice");
  const hazard = textOf(product, "hazard");
  if (hazard !== undefined && hazards !== "all" && !hazards.some((taken) => fold(taken) === fold(hazard)))
    return diagnostic("hazard-left-out", { hazard, taken: hazards }, where, "advice");
  const sold = names(product, SELL_IN);
  if (sold.length > 0 && countries.length > 0 && !countries.some((country) => sold.includes(fold(country))))
    return diagnostic("country-left-out", { sold, countries }, where, "advice");
  const price = valueOf(product, "price");
  if (
    leastPrice !== undefined &&
    isMoney(price) &&
    price.currency === leastPrice.currency &&
    price.amount.lt(leastPrice.amount)
  )
    return diagnostic(
      "below-least-price",
      { price: shownText(price), least: shownText(leastPrice) },
      where,
      "advice",
    );
  return undefined;
}
