/** What somebody else's house does to texts by itself. */
export type TextAlteration = "case" | "spaces" | "marks" | "order";

const collapsed = (text: string): string => text.replace(/\s+/gu, " ").trim();

/** Whether two lists of texts are the same, but for what is known to be altered. */
export function sameBut(
  ways: ReadonlySet<TextAlteration>,
  a: readonly string[],
  b: readonly string[],
): boolean {
  if (a.length !== b.length) return false;
  const told = (text: string): string => {
    let one = text;
    if (ways.has("marks")) one = one.replace(/[\p{P}\p{S}]+/gu, " ");
    if (ways.has("marks") || ways.has("spaces")) one = collapsed(one);
    return ways.has("case") ? one.toLowerCase() : one;
  };
  const [own, other] = [a.map(told), b.map(told)];
  if (ways.has("order")) {
    own.sort();
    other.sort();
  }
  return own.every((text, at) => text === other[at]);
}
