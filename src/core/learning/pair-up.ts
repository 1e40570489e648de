import { fold } from "../values/text.js";

interface Pair<T> {
  readonly one: T;
  readonly other: T;
  readonly score: number;
  readonly because: string;
}

const LIKELY = 0.6;

/** Pairs what is gone with what came, each once, the likeliest first. */
export const pairs = <T>(
  gone: readonly T[],
  came: readonly T[],
  score: (one: T, other: T) => { readonly score: number; readonly because: string },
): readonly Pair<T>[] => {
  const all: Pair<T>[] = [];
  for (const one of gone)
    for (const other of came) {
      const found = score(one, other);
      if (found.score >= LIKELY) all.push({ one, other, ...found });
    }
  const used = new Set<T>();
  return all
    .sort((a, b) => b.score - a.score)
    .filter(({ one, other }) => {
      if (used.has(one) || used.has(other)) return false;
      used.add(one);
      used.add(other);
      return true;
    });
};

const wordsOf = (text: string): ReadonlySet<string> =>
  new Set(
    fold(text.replace(/[_.-]/g, " "))
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean),
  );

/** The share of words that two texts have in common. */
export const common = (one: string, other: string): number => {
  const [a, b] = [wordsOf(one), wordsOf(other)];
  const both = [...a].filter((word) => b.has(word)).length;
  return both === 0 ? 0 : both / (a.size + b.size - both);
};
