/** Pairs two lists by likeness, each once, the likeliest first; at any size, by what two must have in common. */
import { fold } from "../values/text.js";

interface Pair<T> {
  readonly one: T;
  readonly other: T;
  readonly score: number;
  readonly because: string;
}

const LIKELY = 0.6;

/** So many pairs are all held against each other; of more, those that have something in common. */
const ALL_PAIRS = 250_000;
/** What more than so many have in common tells none of them apart. */
const TOO_COMMON = 300;

/** For each of what is gone, what came and may be it. */
function candidatesAmong<T>(
  gone: readonly T[],
  came: readonly T[],
  keys: (item: T, side: "gone" | "came") => readonly string[],
): (one: T) => Iterable<T> {
  if (gone.length * came.length <= ALL_PAIRS) return () => came;
  const byKey = new Map<string, T[]>();
  for (const other of came)
    for (const key of new Set(keys(other, "came"))) {
      const own = byKey.get(key);
      if (own === undefined) byKey.set(key, [other]);
      else own.push(other);
    }
  return (one) => {
    const found = new Set<T>();
    for (const key of keys(one, "gone")) {
      const own = byKey.get(key) ?? [];
      if (own.length <= TOO_COMMON) for (const other of own) found.add(other);
    }
    return found;
  };
}

/** What texts that may be the same in another spelling have in common: their letters, a word, how they begin or end. */
export function textKeys(text: string): readonly string[] {
  const letters = fold(text).replace(/[^\p{L}\p{N}]/gu, "");
  return [`=${letters}`, `^${letters.slice(0, 3)}`, `$${letters.slice(-3)}`, ...wordsOf(text)];
}

/** Pairs what is gone with what came, each once, the likeliest first. `keys` are what two that are alike have in common. */
export function pairs<T>(
  gone: readonly T[],
  came: readonly T[],
  score: (one: T, other: T) => { readonly score: number; readonly because: string },
  keys: (item: T, side: "gone" | "came") => readonly string[],
): readonly Pair<T>[] {
  const all: Pair<T>[] = [];
  const candidates = candidatesAmong(gone, came, keys);
  for (const one of gone)
    for (const other of candidates(one)) {
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
}

const wordsOf = (text: string): ReadonlySet<string> =>
  new Set(
    fold(text.replace(/[_.-]/g, " "))
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean),
  );

/** The share of words that two texts have in common. */
export function common(one: string, other: string): number {
  const [a, b] = [wordsOf(one), wordsOf(other)];
  const both = [...a].filter((word) => b.has(word)).length;
  return both === 0 ? 0 : both / (a.size + b.size - both);
}
