import { fold } from "../values/text.js";

/** A user's own attribute for a column that means none of ours: `Art. colour-no` becomes `art_colour_no`. */
export function ownAttribute(column: string): string {
  const name = fold(column)
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "");
  return /^[a-z]/.test(name) ? name : `column_${name}`;
}
