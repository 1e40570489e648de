import { diagnostic } from "../../diagnostics/diagnostic.js";
import { shownText } from "../../values/show.js";
import { isList } from "../../values/value.js";
import { valueOf } from "../product.js";
import type { BesideCheck } from "./beside-check.js";
import { sharedTexts } from "./shared-texts.js";

/** A picture shows one article, and is no placeholder. */
export function sharedPictures(): BesideCheck {
  return sharedTexts({
    textsOf: ({ members }) =>
      members.flatMap((member) => {
        const images = valueOf(member, "images");
        return isList(images) ? images.map(shownText) : [];
      }),
    isShown: true,
    told: ({ text, families, skus }) =>
      diagnostic(
        "shared-picture",
        { url: text, families, skus },
        skus[0] === undefined ? {} : { product: skus[0] },
        "warning",
      ),
  });
}
