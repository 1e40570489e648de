import { isList, type MaybeBlank } from "../../../values/value.js";
import { fold } from "../../../values/text.js";
import type { ListingCheck } from "../check-kind.js";

const textsOf = (value: MaybeBlank): readonly string[] =>
  (isList(value) ? value : [value]).filter((one) => typeof one === "string");

const words = (text: string): readonly string[] => fold(text).split(" ").filter(Boolean);

/** Search words say what the title does not: a phrase of the title's own words finds no one new. */
export const repeatedSearchWords: ListingCheck = {
  name: "repeated-search-words",
  beyond: [],
  for({ bySlot }, { definition }) {
    const { name, keywords } = definition.roles;
    const field = keywords === undefined ? undefined : bySlot[keywords.slot]?.rule;
    if (name === undefined || keywords === undefined || field === undefined) return undefined;
    return (listing, report) => {
      const phrases = textsOf(listing.value(keywords.slot));
      if (phrases.length === 0) return;
      const title = new Set(textsOf(listing.value(name.slot)).flatMap(words));
      const repeated = phrases.filter((phrase) => words(phrase).every((word) => title.has(word)));
      if (repeated.length > 0)
        report(
          "repeated-search-words",
          { label: keywords.label, words: repeated },
          { field, severity: "advice" },
        );
    };
  },
};
