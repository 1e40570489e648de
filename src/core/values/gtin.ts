export type GtinProblem = "gtin-length" | "gtin-check-digit" | "gtin-scientific" | "gtin-characters";

/** The GS1 check digit for the digits before it (GS1 General Specifications, section 7.9). */
export const checkDigit = (digits: string): number => {
  let sum = 0;
  for (let i = digits.length - 1, weight = 3; i >= 0; i--, weight = 4 - weight)
    sum += Number(digits[i]) * weight;
  return (10 - (sum % 10)) % 10;
};

const lengths = new Set([8, 12, 13, 14]);
const scientific = /^\d([.,]\d+)?e\+?\d+$/i;

/** Digits of a GTIN-8, -12, -13 or -14 with the right check digit, or what is wrong with it. */
export const readGtin = (text: string): { readonly digits: string } | { readonly problem: GtinProblem } => {
  if (scientific.test(text)) return { problem: "gtin-scientific" };
  const digits = text.replace(/[\s-]/g, "");
  if (!/^\d+$/.test(digits)) return { problem: "gtin-characters" };
  if (!lengths.has(digits.length)) return { problem: "gtin-length" };
  return checkDigit(digits.slice(0, -1)) === Number(digits.at(-1))
    ? { digits }
    : { problem: "gtin-check-digit" };
};
