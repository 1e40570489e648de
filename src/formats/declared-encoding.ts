/** Encodings by the names that files declare. */
import iconv from "iconv-lite";

// What a declaration can say while it is readable as plain letters itself.
const asWritten = new Map([
  ["usascii", "utf-8"],
  ["ascii", "utf-8"],
  ["utf8", "utf-8"],
  ["utf16", "utf-8"],
  ["utf16le", "utf-8"],
  ["utf16be", "utf-8"],
  // As browsers do: its control characters above 127 are letters of Windows-1252 in all but no file.
  ["iso88591", "windows-1252"],
  ["latin1", "windows-1252"],
  ["windows1252", "windows-1252"],
]);

/** Ways of writing bytes as letters, and not letters as bytes; and those that a declaration is no place for. */
const noEncodings = /^(?:base64|hex|binary|internal|utf7.*|utf32.*|ucs.*|cesu8)$/;

/** The encoding that a name stands for (IANA's names, as far as they are known); undefined where it is none. */
export function declaredEncoding(name: string): string | undefined {
  const plain = name.toLowerCase().replace(/[^a-z0-9]/g, "");
  const known = asWritten.get(plain);
  if (known !== undefined) return known;
  // The package looks names up in a plain object.
  const isOfLanguage = Object.hasOwn(Object.prototype, plain);
  return noEncodings.test(plain) || isOfLanguage || !iconv.encodingExists(plain) ? undefined : name;
}

/** Decodes pieces of bytes; `isWhole` says whether each byte had a meaning so far. */
export function pieceDecoder(encoding: string): {
  decode(bytes: Buffer): string;
  end(): string;
  isWhole(): boolean;
} {
  const decoder = iconv.getDecoder(encoding);
  let lost = false;
  const kept = (text: string): string => {
    if (text.includes("\ufffd")) lost = true;
    return text;
  };
  return {
    decode: (bytes) => kept(decoder.write(bytes)),
    end: () => kept(decoder.end() ?? ""),
    isWhole: () => !lost,
  };
}
