import type { Product } from "../catalogue/product.js";
import type { ChannelSetup } from "./channel-setup.js";

/** Whether the channel's selection takes the product. */
export const select = (product: Product, { select: selection }: ChannelSetup): boolean =>
  selection === undefined || selection.run(product) === true;
