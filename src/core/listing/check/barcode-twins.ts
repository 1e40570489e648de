import { textOf, type Product } from "../../catalogue/product.js";
import type { Sku } from "../../ids.js";
import { gtin14 } from "../../values/gtin.js";
import type { ChannelSetup } from "../channel-setup.js";
import { leftOutBecause } from "../select/select.js";

const none: readonly Sku[] = [];

/** Tells of a product which others go to the channel with the same barcode, from all products that share one. */
export function barcodeTwinsOn(
  shared: readonly (readonly Product[])[],
  setup: Pick<ChannelSetup, "channel" | "selection">,
): ChannelSetup["barcodeTwins"] {
  const listed = new Map<string, readonly Sku[]>();
  for (const products of shared) {
    const gtin = products[0] === undefined ? undefined : textOf(products[0], "gtin");
    const going = products.filter((product) => leftOutBecause(product, setup) === undefined);
    if (gtin !== undefined && going.length > 1)
      listed.set(
        gtin14(gtin),
        going.map(({ sku }) => sku),
      );
  }
  if (listed.size === 0) return () => none;
  return (product) => {
    const gtin = textOf(product, "gtin");
    const skus = gtin === undefined ? undefined : listed.get(gtin14(gtin));
    return skus?.includes(product.sku) === true ? skus.filter((sku) => sku !== product.sku) : none;
  };
}
