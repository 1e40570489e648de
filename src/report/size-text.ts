/** A file's size for people, in decimal units. */
export function sizeText(bytes: number): string {
  if (bytes < 1000) return `${bytes} B`;
  return bytes < 1_000_000 ? `${(bytes / 1000).toFixed(1)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
}
