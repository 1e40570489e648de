import type { Quality } from "./good.js";
import type { Glossary } from "./glossary.js";
import { tokensOf } from "./tokens.js";
import { families, keyOf } from "./word-forms.js";

/** The quality that a whole text names, in any language: "wine red" is a burgundy; undefined for any other text. */
export function qualityNamed(text: string, glossary: Glossary): Quality | undefined {
  const words = tokensOf(text).map(({ word }) => word);
  if (words.length === 0) return undefined;
  for (const family of families) {
    const [found] = glossary.qualities(keyOf(words, family), family);
    if (found !== undefined) return found;
  }
  return undefined;
}

/** Goods that a whole text names, in any language, by a name or another word for it. */
export function goodsNamed(text: string, glossary: Glossary): readonly number[] {
  const words = tokensOf(text).map(({ word }) => word);
  if (words.length === 0) return [];
  return families.flatMap((family) =>
    glossary.meanings(keyOf(words, family), family).flatMap(({ good, by }) => (by === "part" ? [] : [good])),
  );
}
