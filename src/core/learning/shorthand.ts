import type { Said } from "./said.js";

type ShorthandReading = (found: RegExpExecArray) => Said;

const places = (mask: string): number => /[.,]([0#9nN]+)$/.exec(mask)?.[1]?.length ?? 0;

/** Forms of the trade for a cell's whole content: `AN35`, `N(10,2)`, `varchar(80)`, `0.00`, `YYYYMMDD`. */
const forms: readonly (readonly [RegExp, ShorthandReading])[] = [
  [
    /^(?:an|a|c|x|t|char|nchar|alnum)\s*(?:\.\.|\()?\s*(\d{1,5})\s*\)?$/i,
    ([, length]) => ({ kind: "text", maxLength: Number(length) }),
  ],
  [
    /^n?(?:var)?char2?\s*\(\s*(\d{1,5})(?:\s*(?:char|byte)s?)?\s*\)$/i,
    ([, length]) => ({ kind: "text", maxLength: Number(length) }),
  ],
  [
    /^(?:n|num|numeric|number|decimal|dec)\s*\(?\s*\d{1,3}\s*[.,]\s*(\d)\s*\)?$/i,
    ([, decimals]) =>
      decimals === "0" ? { kind: "integer" } : { kind: "decimal", decimals: Number(decimals) },
  ],
  [/^(?:n|num|numeric|number|int|integer)\s*(?:\.\.|\()\s*\d{1,3}\s*\)?$/i, () => ({ kind: "integer" })],
  [/^n\s*\d{1,2}$/i, () => ({ kind: "integer" })],
  [/^(?:[#0,9n]{1,12})[.,](?:[0#9n]{1,4})$/i, ([mask]) => ({ kind: "decimal", decimals: places(mask) })],
  [/^(?:yyyy|jjjj|aaaa)mm(?:dd|tt|jj)$/i, () => ({ kind: "date", date: "YYYYMMDD" })],
  [/^(?:date-?time|timestamp|date \(iso\))$/i, () => ({ kind: "date" })],
  [
    /^(?:bool|boolean|flag|yn|y\/n|j\/n|o\/n|s\/n|ja\/nein|yes\/no|oui\/non|sí\/no|0\/1)$/iu,
    () => ({ kind: "yes-no" }),
  ],
];

/** Reads a cell that is nothing but such a form. */
export function readShorthand(text: string): Said | undefined {
  for (const [pattern, read] of forms) {
    const found = pattern.exec(text.trim());
    if (found !== null) return read(found);
  }
  return undefined;
}
