import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { repairEncoding } from "../../../src/core/values/garbled.js";

// Words as shops of several countries print them, capitals and marks of trade among them.
const words = (
  "Honig süß Strauß CAFÉ Größe Gießkanne Lösung ÖL ÄPFEL DÜNGER BÄ Île crème brûlée pâté forêt à naïve façade œuvre " +
  "Å Ål Ørsted smør blåbær Żółć łąka świeca pěstování žížala český ÇA ÇİÇEK ışık MAÇÃ PÃO IRMÃ São ACÇÃO niño AÑO " +
  "Sencillo ½ 20° €12 £5 10–12 m² Brindlecote® Wickenlow™ N° 5 § 3 ß É Ü"
).split(" ");
const around = [
  ["„", "“"],
  ["“", "”"],
  ["‘", "’"],
  ["«", "»"],
  ["‹", "›"],
  ["", "’"],
  ["", "’s"],
  ["", "…"],
  ["", "–"],
  ["", "—"],
  ["", "™"],
  ["", "®"],
  ["", "."],
  ["", ""],
] as const;

const good = fc
  .array(fc.tuple(fc.constantFrom(...words), fc.constantFrom(...around)), { minLength: 1, maxLength: 6 })
  .map((all) => all.map(([word, [before, after]]) => before + word + after).join(" "));

const garbled = (text: string): string => new TextDecoder("windows-1252").decode(Buffer.from(text));

describe("text that was read in the wrong encoding", () => {
  it("when text is good, in whatever quotes it stands, then nothing of it is repaired", () => {
    fc.assert(
      fc.property(good, (text) => {
        expect(repairEncoding(text)).toBeUndefined();
      }),
      { numRuns: 3000 },
    );
  });

  it.each([
    "Honig „süß“",
    "Strauß’ Honig",
    "Schild “CAFÉ”",
    "Typ „Ä“",
    "ein ß“ und noch eins",
    "PÉ–A",
    "cobertor de “LÔ",
    "IRMÃ’S",
  ])("when %s is read, then it stays as it is", (text) => {
    expect(repairEncoding(text)).toBeUndefined();
  });

  it.each([
    "Größe 10, süß",
    "Crème brûlée",
    "Österreich",
    "Äpfel und Öl",
    "cœur de forêt",
    "it’s “fine” – really…",
    "12 € or £5",
    "½ litre, 20°",
    "Überall",
    "Пчела",
    "łąka i świeca",
    "niño",
  ])("when %s was garbled as a whole, then it comes back", (text) => {
    expect(repairEncoding(garbled(text))).toBe(text);
  });

  it("when one word of a text was garbled and another was not, then only the garbled one is put right", () => {
    expect(repairEncoding("GrÃ¶ÃŸe „süß“")).toBe("Größe „süß“");
  });
});
