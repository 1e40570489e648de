// With the sign of another country, or the zero of one's own; not within a code such as BC-0401-22.
const candidate =
  /(?<![\p{L}\p{N}.,/+-]|[\p{L}\p{N}] ?[-/])(?:\+ ?\(?\d|\(?0\d)[\d ()/.-]{5,}\d(?![\p{L}\p{N}]|[-/.]\p{L})/gu;
const call =
  /(?:\b(?:call|ring|phone|telephone|tel|mobile|cell|fax|hotline|helpline|whatsapp|sms|text us|dial|telefon|anruf|handy|rufen|ruf|téléphone|appelez|portable)\b)[^\p{N}]{0,20}$/iu;
const code =
  /(?:\b(?:part|parts|art|article|artikel|item|model|modell|type|typ|ref|reference|order|serial|batch|lot|sku|mpn|oem|ean|gtin|isbn|upc|barcode|code|catalogue|catalog|cat|number|nummer|no|nr)\b|#|№)[^\p{N}]{0,12}$/iu;

const day = /(?<![\d./])\d{1,2}([./])\d{1,2}\1(?:\d{4}|\d{2})(?![\d./])/;

const LEAST_DIGITS = 8;
const MOST_DIGITS = 15;

/** Groups as people dial them: two digits and more each, parted by blanks, brackets or slashes, not by dashes alone. */
function isGrouped(written: string): boolean {
  if (day.test(written)) return false;
  const groups = written.split(/[^\d]+/).filter(Boolean);
  return groups.length > 1 && /[ ()/]/.test(written) && groups.every((group) => group.length > 1);
}

/**
 * A telephone number in a text; undefined where there is none. Part numbers, barcodes and sizes are digits, too: without
 * a country's sign, a number is a telephone's when it stands in groups as people dial them or behind a word for calling.
 */
export function phoneNumber(text: string): string | undefined {
  for (const { 0: written, index } of text.matchAll(candidate)) {
    const digits = written.replace(/\D/g, "").length;
    const before = text.slice(Math.max(0, index - 40), index);
    if (digits < LEAST_DIGITS || digits > MOST_DIGITS || code.test(before)) continue;
    if (written.startsWith("+") || call.test(before) || isGrouped(written)) return written;
  }
  return undefined;
}
