// Signs that no web address holds as they are (RFC 3986), blanks and control characters among them.
// eslint-disable-next-line no-control-regex
const forbidden = /[\u0000-\u0020\u007f-\u00a0"<>\\^`{|}]/;
// Several addresses that were written side by side and never taken apart.
const second = /[,;]\s*https?:\/\//i;
const name = String.raw`(?:[\p{L}\p{N}](?:[\p{L}\p{N}-]*[\p{L}\p{N}])?\.)+[\p{L}\p{N}-]{2,}`;
const number = String.raw`\d{1,3}(?:\.\d{1,3}){3}|\[[0-9a-f:]+\]`;
const host = new RegExp(
  String.raw`^https?:\/\/(?:[^/?#@]*@)?(?:${name}|${number})(?::\d{1,5})?(?:[/?#]|$)`,
  "iu",
);

// Bars and angle brackets part addresses from each other or from words, and are no slip of the pen within one.
const coded = /[ "^`{}\u00a0]/g;

/**
 * An address with the signs that it cannot hold written as their codes, the way a browser does it; undefined where that
 * makes no address, or where a second one stands in it.
 */
export function encodedAddress(text: string): string | undefined {
  if (!/^https?:\/\//i.test(text) || /\shttps?:\/\//i.test(text)) return undefined;
  const encoded = text.replaceAll("\\", "/").replace(coded, (sign) => encodeURIComponent(sign));
  return encoded !== text && isWebAddress(encoded) ? encoded : undefined;
}

/** Whether a text is one whole web address, with http or https and the full name or number of its host. */
export const isWebAddress = (text: string): boolean =>
  host.test(text) && !forbidden.test(text) && !second.test(text);
