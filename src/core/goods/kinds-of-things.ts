/** One sense of a noun: how common it is (0 the commonest) and, nearest first, names of what it is or is one of. */
export interface Sense {
  readonly rank: number;
  readonly steps: readonly (readonly string[])[];
}

/** What a general dictionary knows of nouns that name things. */
export interface KindsOfThings {
  /** English noun in the singular, lower case. */
  sensesOf(noun: string): readonly Sense[];
}

function readSense(text: string): Sense {
  const [rank = "0", ...steps] = text.split(">");
  return { rank: Number(rank), steps: steps.map((names) => names.split(",")) };
}

/**
 * Reads a list of nouns as it lies: lines `noun TAB sense;sense`, a sense `rank>names>names`, sorted by the noun. Nothing is
 * unpacked but what is asked for, so that it costs no more than reading the file.
 */
export function kindsOfThings(text: string): KindsOfThings {
  const known = new Map<string, readonly Sense[]>();
  const find = (noun: string): readonly Sense[] => {
    let [low, high] = [0, text.length];
    while (low < high) {
      const middle = (low + high) >>> 1;
      const start = middle === 0 ? 0 : text.lastIndexOf("\n", middle - 1) + 1;
      const tab = text.indexOf("\t", start);
      if (tab < 0) return [];
      const here = text.slice(start, tab);
      if (here === noun) {
        const end = text.indexOf("\n", tab);
        return text
          .slice(tab + 1, end < 0 ? text.length : end)
          .split(";")
          .map(readSense);
      }
      if (here < noun) {
        const end = text.indexOf("\n", tab);
        low = end < 0 ? text.length : end + 1;
      } else high = start;
    }
    return [];
  };
  return {
    sensesOf(noun) {
      const found = known.get(noun) ?? find(noun);
      known.set(noun, found);
      return found;
    },
  };
}

/** Where no list of nouns is at hand. */
export const nothingKnown: KindsOfThings = { sensesOf: () => [] };
