/** Names that were probably meant: the allowed distance grows with the word. */
import { fold } from "./text.js";

/** Edits between two words, two letters swapped counting as one (optimal string alignment); given up beyond the limit. */
function distance(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) > limit) return limit + 1;
  let before: readonly number[] = [];
  let previous: readonly number[] = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const current = [i];
    let best = i;
    for (let j = 1; j <= b.length; j++) {
      const replaced = (previous[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1);
      const swapped = i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1];
      const cost = Math.min(
        replaced,
        (previous[j] ?? 0) + 1,
        (current[j - 1] ?? 0) + 1,
        swapped ? (before[j - 2] ?? 0) + 1 : Infinity,
      );
      current.push(cost);
      best = Math.min(best, cost);
    }
    if (best > limit) return limit + 1;
    before = previous;
    previous = current;
  }
  return previous[b.length] ?? limit + 1;
}

/** Case, spaces and punctuation cost least; then letters, of which a longer word may have more wrong. */
function score(wanted: string, candidate: string): number | undefined {
  const [a, b] = [fold(wanted), fold(candidate)];
  if (a === b) return 0;
  if (a.replaceAll(" ", "") === b.replaceAll(" ", "")) return 0.5;
  const limit = Math.max(1, Math.floor(a.length / 3));
  const apart = distance(a, b, limit);
  if (apart <= limit) return apart;
  const contained = a.length >= 4 && (b.split(" ").includes(a) || a.split(" ").includes(b));
  return contained ? limit + 0.5 : undefined;
}

/** Whether two words differ by a slip or two: no more than one letter in six. */
export function isSlip(a: string, b: string): boolean {
  const limit = Math.max(1, Math.floor(a.length / 6));
  return distance(a, b, limit) <= limit;
}

/** The names near enough to be meant, each once, nearest first; never the wanted one itself. Empty when none is. */
export function nearest(wanted: string, candidates: Iterable<string>, count = 3): readonly string[] {
  const found: { readonly name: string; readonly score: number }[] = [];
  for (const name of new Set(candidates)) {
    if (name === wanted) continue;
    const cost = score(wanted, name);
    if (cost !== undefined) found.push({ name, score: cost });
  }
  return found
    .sort((a, b) => a.score - b.score || (a.name < b.name ? -1 : 1))
    .slice(0, count)
    .map(({ name }) => name);
}
