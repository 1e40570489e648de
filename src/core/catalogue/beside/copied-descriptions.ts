import { diagnostic } from "../../diagnostics/diagnostic.js";
import { textOf } from "../product.js";
import type { BesideCheck } from "./beside-check.js";
import { sharedTexts } from "./shared-texts.js";

/** Each article has a description of its own. */
export function copiedDescriptions(): BesideCheck {
  return sharedTexts({
    textsOf: ({ members }) => members.flatMap((member) => textOf(member, "description") ?? []),
    isShown: false,
    told: ({ families, skus }) =>
      diagnostic(
        "copied-description",
        { families, skus },
        skus[0] === undefined ? {} : { product: skus[0] },
        "advice",
      ),
  });
}
