import { stem } from "../values/stem.js";
import { fold } from "../values/text.js";

const silent = new Set(
  (
    "and or the of for in on with without to from by a an other others misc more all und oder für mit von der die das den et " +
    "de la le les du pour sonstige small large various thing things goods supplies products items accessories general"
  ).split(" "),
);

/** The words of a text that carry meaning, stemmed. */
export function wordsOf(text: string): readonly string[] {
  return fold(text)
    .split(" ")
    .filter((word) => word.length > 1 && !silent.has(word) && !/^\d+$/.test(word))
    .map(stem);
}

/** Words with each pair of neighbours joined too: "bee hive" also means "beehive". */
export function withCompounds(words: readonly string[]): readonly string[] {
  return [...words, ...words.slice(1).map((word, index) => (words[index] ?? "") + word)];
}
