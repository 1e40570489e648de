import { gunzipSync } from "node:zlib";
import fc from "fast-check";
import { unzipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { encodeText, fileEncodings } from "../../src/formats/encoding.js";
import { packer, type Packing } from "../../src/formats/packing.js";

const packed = async (packing: Packing, pieces: readonly Uint8Array[]): Promise<Buffer> => {
  const own = await packer(packing, "file.csv");
  const parts: Uint8Array[] = [];
  for (const piece of pieces) parts.push(await own.push(piece));
  parts.push(await own.end());
  return Buffer.concat(parts);
};

const unpacked: Readonly<Record<Packing, (bytes: Buffer) => Uint8Array>> = {
  none: (bytes) => bytes,
  gzip: (bytes) => gunzipSync(bytes),
  zip: (bytes) => unzipSync(bytes)["file.csv"] ?? new Uint8Array(),
};

describe("packages", () => {
  it.each(["none", "gzip", "zip"] as const)(
    "when any bytes are packed as %s in any pieces, then the same come out, and again the same package",
    async (packing) => {
      await fc.assert(
        fc.asyncProperty(fc.array(fc.uint8Array({ maxLength: 4000 }), { maxLength: 8 }), async (pieces) => {
          const once = await packed(packing, pieces);
          expect(Buffer.from(unpacked[packing](once)).equals(Buffer.concat(pieces))).toBe(true);
          expect((await packed(packing, pieces)).equals(once)).toBe(true);
        }),
        { numRuns: 25 },
      );
    },
  );

  it("when a file is packed, then its name says so", async () => {
    const names = await Promise.all(
      (["none", "gzip", "zip"] as const).map(async (packing) => (await packer(packing, "a")).name("a")),
    );
    expect(names).toEqual(["a", "a.gz", "a.zip"]);
  });
});

describe("encodings", () => {
  it("when any text is encoded, then it reads back, or each lost sign is told and stands as a question mark", () =>
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom("a", "ü", "€", "№", "☕", "ß", "\n", "þ") }),
        fc.constantFrom(...fileEncodings),
        (text, encoding) => {
          const { bytes, lost } = encodeText(text, encoding);
          if (encoding.startsWith("utf")) expect(new TextDecoder(encoding).decode(bytes)).toBe(text);
          // One byte a sign, a question mark for what is lost.
          else {
            expect(bytes.length).toBe([...text].length);
            expect([...bytes].filter((byte) => byte === 63).length).toBe(
              [...text].filter((sign) => lost.includes(sign)).length,
            );
          }
          for (const sign of lost) expect(text).toContain(sign);
        },
      ),
    ));

  it("when a sign is not in the encoding, then it is named once", () => {
    expect(encodeText("a☕b☕№", "windows-1252").lost).toEqual(["☕", "№"]);
    expect([...encodeText("€ü", "windows-1252").bytes]).toEqual([0x80, 0xfc]);
    expect([...encodeText("€ü", "iso-8859-15").bytes]).toEqual([0xa4, 0xfc]);
    expect(encodeText("€", "iso-8859-1").lost).toEqual(["€"]);
    expect(encodeText("€", "iso-8859-15").lost).toEqual([]);
    expect(encodeText("☕", "utf-16le").lost).toEqual([]);
  });
});
