// Words that only look like plurals, or change their meaning without the ending.
const fixed = new Set(
  "jeans shorts news gas lens canvas compass moss chess bus dress brass grass class".split(" "),
);

// Singulars in -f or -fe; other words in -ves only lose their s.
const changed: ReadonlyMap<string, string> = new Map(
  "knives:knif shelves:shelf leaves:leaf loaves:loaf scarves:scarf wolves:wolf halves:half calves:calf hooves:hoof wives:wif thieves:thief elves:elf sheaves:sheaf"
    .split(" ")
    .map((pair) => {
      const [plural = "", singular = ""] = pair.split(":");
      return [plural, singular] as const;
    }),
);

/**
 * A word's form without its plural, the same for both: no word itself ("vase" and "vases" are "vas"), and no more than that,
 * since harder stemming makes one word of two.
 */
export function stem(word: string): string {
  if (word.length < 3 || fixed.has(word)) return word;
  if (word.length === 3) return word.endsWith("xe") ? word.slice(0, -1) : word;
  const known = changed.get(word);
  if (known !== undefined) return known;
  if (/(?:s|x|z|ch|sh)es$/.test(word)) return word.slice(0, -2);
  if (/(?:s|x|z|ch|sh)e$/.test(word)) return word.slice(0, -1);
  if (word.endsWith("ies") && word.length > 4) return `${word.slice(0, -3)}y`;
  if (word.endsWith("ie") && word.length > 4) return `${word.slice(0, -2)}y`;
  if (word.endsWith("fe") && word.length === 5) return word.slice(0, -1);
  if (word.endsWith("oes")) return word.slice(0, -2);
  if (/[^su]s$/.test(word)) return word.slice(0, -1);
  return word;
}
