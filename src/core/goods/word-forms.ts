/** Words in their bare forms, by families of languages. */
import { stem } from "../values/stem.js";

/** Languages of the glossary; those of a family share how their words are bent. */
export const goodsLanguages = ["en", "de", "fr", "es", "nl"] as const;
export type GoodsLanguage = (typeof goodsLanguages)[number];

/** Families of languages whose words bend alike. */
export const families = ["english", "germanic", "romance"] as const;
export type LanguageFamily = (typeof families)[number];

/** Makes something for each family. */
export const perFamily = <T>(make: (family: LanguageFamily) => T): Readonly<Record<LanguageFamily, T>> => ({
  english: make("english"),
  germanic: make("germanic"),
  romance: make("romance"),
});

/** The family of each language. */
export const familyOf: Readonly<Record<GoodsLanguage, LanguageFamily>> = {
  en: "english",
  de: "germanic",
  nl: "germanic",
  fr: "romance",
  es: "romance",
};

// Umlauts are written as one letter or as two; their dots are gone before this.
function germanic(word: string): string {
  const plain = word
    .replace(/(?<![aeq])ue/g, "u")
    .replace(/ae/g, "a")
    .replace(/oe/g, "o");
  // "Schrauber" is no plural of "Schraube": only shorter words lose -er. "Hose" is one of the "Hosen".
  const ending = plain.length > 8 ? /(?:e[nsm]?|n)$/ : plain.length > 4 ? /(?:e[nrsm]?|n)$/ : /(?<=...)e$/;
  const bare = plain.replace(ending, "");
  return bare.length > 4 && bare.endsWith("s") ? bare.slice(0, -1) : bare;
}

function romance(word: string): string {
  const one = word.length > 3 ? word.replace(/[sx]$/, "") : word;
  return one.length > 3 ? one.replace(/e$/, "") : one;
}

const bend: Readonly<Record<LanguageFamily, (word: string) => string>> = { english: stem, germanic, romance };

/** A word without its number and case, as its family of languages bends it. */
export const formOf = (word: string, family: LanguageFamily): string => bend[family](word);

/** The key of a phrase: its words' forms. */
export const keyOf = (words: readonly string[], family: LanguageFamily): string =>
  words.length === 1 ? formOf(words[0] ?? "", family) : words.map((word) => formOf(word, family)).join(" ");
