/**
 * Facts with the names nearest to what was written, found when they are first shown: a long list is searched once for a
 * cause, and not at all for the thousands of findings that only count.
 */
export function withNearest<Facts extends object>(
  facts: Facts,
  find: () => readonly string[],
): Facts & { readonly nearest: readonly string[] } {
  let found: readonly string[] | undefined;
  return {
    ...facts,
    get nearest() {
      return (found ??= find());
    },
  };
}
