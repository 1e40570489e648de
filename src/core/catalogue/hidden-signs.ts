/** Attributes whose texts name something: two that look alike and differ name two things. */
const codes: ReadonlySet<string> = new Set(["sku", "group", "gtin", "mpn", "isbn"]);

/** Whether an attribute is a code, in which no sign is only for looks. */
export const isCode = (attribute: string): boolean => codes.has(attribute);

const plain = /^[ -~]*$/;
// Marks of format: nothing is seen of them, but for what they do to the signs around them.
const unseen = /\p{Cf}|\p{Variation_Selector}|[\u115f\u1160\u3164]/u;

const named = (sign: string): string =>
  `U+${(sign.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, "0")}`;

/** What of a code's text is not seen by whoever reads it: marks without a shape, letters put together of several signs. */
export function hiddenSigns(text: string): readonly string[] {
  if (plain.test(text)) return [];
  const marks = [...text].filter((sign) => unseen.test(sign));
  const composed = text.normalize("NFC");
  const apart = composed === text ? [] : [...text].filter((sign) => /\p{M}/u.test(sign));
  return [...new Set([...marks, ...apart].map(named))];
}

/** A code as it is seen. */
export const seenCode = (text: string): string =>
  plain.test(text) ? text : [...text.normalize("NFC")].filter((sign) => !unseen.test(sign)).join("");
