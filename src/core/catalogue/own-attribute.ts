/**
 * A user's own attribute for a column that means none of ours, in the letters that the column has: `Art. colour-no` becomes
 * `art_colour_no`, `Länge` `länge`.
 */
export function ownAttribute(column: string): string {
  const name = column
    .normalize("NFC")
    .toLowerCase()
    .replace(/[^\p{L}\p{M}\p{N}]+/gu, "_")
    .replace(/^_+|_+$/g, "");
  return /^\p{L}/u.test(name) ? name : `column_${name}`;
}
