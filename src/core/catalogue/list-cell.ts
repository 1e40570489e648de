/** Several values in one cell. */

const isScheme = /^(?:https?:)?\/\//i;
const besideAddress = /[\s,;|]+(?=https?:\/\/)/i;
const pictureEnd = /\.(?:jpe?g|png|webp|gif|avif|tiff?|bmp|svg)(?:[?#].*)?$/i;

/** The places of a list in one cell, blank ones too. A backslash before the separator, or before another, belongs to the value. */
export function placesIn(text: string, separator: string): readonly string[] {
  if (!text.includes("\\"))
    return text.split(separator).flatMap((part) => part.split("\n").map((item) => item.trim()));
  const items: string[] = [];
  let item = "";
  for (let at = 0; at < text.length;) {
    const rest = text.slice(at, at + separator.length + 1);
    if (rest === `\\${separator}` || rest.startsWith("\\\\") || rest.startsWith("\\\n")) {
      const kept = rest === `\\${separator}` ? separator : (rest[1] ?? "");
      item += kept;
      at += 1 + kept.length;
    } else if (text.startsWith(separator, at) || text[at] === "\n") {
      items.push(item);
      item = "";
      at += text[at] === "\n" ? 1 : separator.length;
    } else item += text[at++] ?? "";
  }
  return [...items, item].map((one) => one.trim());
}

/** The values of a list in one cell. */
export const itemsInCell = (text: string, separator: string): readonly string[] =>
  placesIn(text, separator).filter(Boolean);

/**
 * The web addresses of one cell. A separator can stand within an address too: a piece that begins no address of its own
 * belongs to the one before it, unless that one is whole.
 */
export function addressesIn(text: string, separator: string): readonly string[] {
  // Most cells hold one address, and nothing that could part it from another.
  if (!text.includes(separator) && !/[\s,;|]/.test(text)) return [text];
  const found: string[] = [];
  for (const piece of itemsInCell(text, separator).flatMap((item) => item.split(besideAddress))) {
    const before = found.at(-1);
    if (before === undefined || isScheme.test(piece) || !isScheme.test(before) || pictureEnd.test(before))
      found.push(piece);
    else found[found.length - 1] = `${before}${separator}${piece}`;
  }
  return found;
}

/** A list in one cell, as {@link itemsInCell} reads it back. */
export function joinList(items: readonly string[], separator: string): string {
  return items
    .map((item) =>
      item.replaceAll("\\", "\\\\").replaceAll(separator, `\\${separator}`).replaceAll("\n", "\\\n"),
    )
    .join(separator);
}
