// Words that only look like plurals, or change their meaning without the ending.
const fixed = new Set(
  "glasses gloves jeans shorts news gas glass dress brass grass moss compass canvas chess bus lens".split(
    " ",
  ),
);

/** A word without its plural: enough for names of goods, where harder stemming makes one word of two. */
export const stem = (word: string): string => {
  if (word.length < 4 || fixed.has(word)) return word;
  if (/(?:s|x|z|ch|sh)es$/.test(word)) return word.slice(0, -2);
  if (word.endsWith("ies") && word.length > 4) return `${word.slice(0, -3)}y`;
  if (word.endsWith("ves") && word.length > 4) return `${word.slice(0, -3)}f`;
  if (/[^su]s$/.test(word)) return word.slice(0, -1);
  return word;
};
