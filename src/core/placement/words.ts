import { stem } from "../values/stem.js";
import { fold } from "../values/text.js";
import { thesaurus } from "./thesaurus.js";

const silent = new Set(
  "and or the of for in on with without to from by a an other others misc more all und oder für mit von der die das den et de la le les du pour sonstige".split(
    " ",
  ),
);

const common = new Map<string, string>();

for (const line of thesaurus) {
  const [first = "", ...others] = line.split(",").map((word) => word.trim());
  const target = stem(first);
  for (const other of others) common.set(stem(other), target);
}

/** Every word of the thesaurus with the one that stands for it. */
export const synonyms: ReadonlyMap<string, string> = common;

/** The word that stands for all that mean the same. */
const concept = (word: string): string => common.get(word) ?? word;

/** The words of a text that carry meaning, stemmed, each by the one that stands for its synonyms. */
export const wordsOf = (text: string): readonly string[] =>
  fold(text)
    .split(" ")
    .filter((word) => word.length > 1 && !silent.has(word) && !/^\d+$/.test(word))
    .map((word) => concept(stem(word)));

/** Words with each pair of neighbours joined too: "bee hive" also means "beehive". */
export const withCompounds = (words: readonly string[]): readonly string[] => [
  ...words,
  ...words.slice(1).map((word, index) => (words[index] ?? "") + word),
];
