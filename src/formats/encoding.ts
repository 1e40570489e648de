import iconv from "iconv-lite";

/** Encodings that files are written in. */
export const fileEncodings = ["utf-8", "utf-16le", "windows-1252", "iso-8859-1", "iso-8859-15"] as const;

export type FileEncoding = (typeof fileEncodings)[number];

/** Text as bytes, and the characters that the encoding has no sign for. */
export interface Encoded {
  readonly bytes: Uint8Array;
  readonly lost: readonly string[];
}

/** Encodes text; what cannot be said becomes a question mark and is told. */
export function encodeText(text: string, encoding: FileEncoding): Encoded {
  const bytes = iconv.encode(text, encoding);
  if (encoding === "utf-8" || encoding === "utf-16le") return { bytes, lost: [] };
  const back = iconv.decode(bytes, encoding);
  if (back === text) return { bytes, lost: [] };
  const lost = new Set<string>();
  for (const character of text)
    if (iconv.decode(iconv.encode(character, encoding), encoding) !== character) lost.add(character);
  return { bytes, lost: [...lost] };
}
