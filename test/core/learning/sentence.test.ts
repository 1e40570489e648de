import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { listedValues, readSentence, unitIn } from "../../../src/core/learning/sentence.js";
import { readShorthand } from "../../../src/core/learning/shorthand.js";

describe("sentences of a channel's rules", () => {
  it.each([
    ["No more than 75 characters, please.", { maxLength: 75 }],
    ["Must not be longer than 1,200 characters", { maxLength: 1200 }],
    ["between 5 and 80 characters", { minLength: 5, maxLength: 80 }],
    ["At least 10 characters", { minLength: 10 }],
    ["Texte limité à 60 caractères.", { maxLength: 60 }],
    ["Auf 60 Zeichen begrenzt", { maxLength: 60 }],
    ["Please keep it under 80 characters", { maxLength: 80 }],
    ["A headline of 70 characters", { maxLength: 70 }],
    ["Exactly 13 characters", { minLength: 13, maxLength: 13 }],
    ["Up to 250 bytes", { maxLength: 250, counted: "bytes" }],
    ["Höchstlänge: 60 Zeichen", { maxLength: 60 }],
    ["bis zu 4.000 Zeichen", { maxLength: 4000 }],
    ["La longueur maximale est de 70", {}],
    ["Longueur maximale : 70", { maxLength: 70 }],
    ["Ne doit pas dépasser 150 caractères.", { maxLength: 150 }],
    ["No más de 90 caracteres", { maxLength: 90 }],
    ["Longitud máxima: 40", { maxLength: 40 }],
  ])("when %j is read, then its length is known", (text, wanted) => {
    expect(readSentence(text)).toMatchObject(wanted);
  });

  it("when only the least is told, then no most is made up", () => {
    expect(readSentence("At least 10 characters").maxLength).toBeUndefined();
    expect(readSentence("Mindestens 5 Zeichen").maxLength).toBeUndefined();
  });

  it.each([
    ["up to 9 pictures", 9],
    ["At most five values", 5],
    ["Höchstens 6 Bilder", 6],
    ["Jusqu'à 4 valeurs, une par colonne", 4],
    ["Hasta 8 imágenes", 8],
    ["You may give 3 at most", 3],
  ])("when %j is read, then so many are known", (text, items) => {
    expect(readSentence(text).maxItems).toBe(items);
  });

  it.each([
    ["A whole number from 0 to 9999", { kind: "integer", min: "0", max: "9999" }],
    ["Ganze Zahl zwischen 1 und 30", { kind: "integer", min: "1", max: "30" }],
    ["Nombre entier compris entre 0 et 12", { kind: "integer", min: "0", max: "12" }],
    ["Número entero entre 1 y 99", { kind: "integer", min: "1", max: "99" }],
    ["Number with two decimals", { kind: "decimal", decimals: 2 }],
    ["Zahl mit 3 Nachkommastellen", { kind: "decimal", decimals: 3 }],
    ["Montant avec deux décimales", { decimals: 2 }],
    ["Amount in GBP with 2 decimal places", { kind: "money", decimals: 2 }],
    ["The amount in pounds to 2 decimal places", { kind: "money", decimals: 2 }],
    ["A number in kg with 3 decimals", { kind: "measure", unit: "kg", decimals: 3 }],
    ["Whole number. Least 1, most 40", { kind: "integer", min: "1", max: "40" }],
    ["Number without decimals", { kind: "integer", decimals: 0 }],
  ])("when %j is read, then its number is known", (text, wanted) => {
    expect(readSentence(text)).toMatchObject(wanted);
  });

  it.each([
    ["Date as YYYY-MM-DD", "YYYY-MM-DD"],
    ["Datum TT.MM.JJJJ", "DD.MM.YYYY"],
    ["Date au format JJ/MM/AAAA", "DD/MM/YYYY"],
    ["Fecha AAAA-MM-DD", "YYYY-MM-DD"],
    ["mm/dd/yyyy", "MM/DD/YYYY"],
  ])("when %j is read, then the day's form is known", (text, date) => {
    expect(readSentence(text)).toMatchObject({ kind: "date", date });
  });

  it.each([
    ["One of: New, Used or Refurbished.", ["New", "Used", "Refurbished"]],
    ["Colour. Permitted values: Green; Grey; Sand and stone", ["Green", "Grey", "Sand and stone"]],
    ["Erlaubte Werte: Neu, Gebraucht", ["Neu", "Gebraucht"]],
    ["Valeurs admises : « Neuf », « Occasion »", ["Neuf", "Occasion"]],
    ["Valores permitidos: Nuevo, Usado.", ["Nuevo", "Usado"]],
    ["Choose from: Spring / Summer / Autumn.", ["Spring", "Summer", "Autumn"]],
  ])("when %j is read, then its values are known", (text, values) => {
    expect(readSentence(text)).toMatchObject({ kind: "choice", values });
  });

  it.each([
    ["A full link that begins with https://", "url"],
    ["8 to 14 digits with a valid check digit", "gtin"],
    ["Yes or no", "yes-no"],
    ["Text without HTML, at most 200 characters", "text"],
    ["Formatted text (HTML)", "html"],
  ])("when %j is read, then its kind is known", (text, kind) => {
    expect(readSentence(text).kind).toBe(kind);
  });

  it("when minimal pixels are told, then they are known", () => {
    expect(readSentence("A link to a picture of at least 800 x 800 pixels")).toMatchObject({
      pixels: 800,
      kind: "url",
    });
  });

  it.each([
    ["AN35", { kind: "text", maxLength: 35 }],
    ["varchar(80)", { kind: "text", maxLength: 80 }],
    ["N(10,2)", { kind: "decimal", decimals: 2 }],
    ["0.00", { kind: "decimal", decimals: 2 }],
    ["YYYYMMDD", { kind: "date", date: "YYYYMMDD" }],
    ["Ja/Nein", { kind: "yes-no" }],
  ])("when a cell is nothing but %j, then the trade's shorthand is read", (text, wanted) => {
    expect(readShorthand(text)).toEqual(wanted);
    expect(readSentence(text)).toEqual(wanted);
  });

  it.each([
    ["Weight (kg)", "kg"],
    ["Länge in mm", "mm"],
    ["Made in", undefined],
    ["Colour", undefined],
  ])("when %j heads a column, then its unit is %j", (label, unit) => {
    expect(unitIn(label)).toBe(unit);
  });

  it("when any text is read, then reading ends, and what is said is possible", () => {
    const words =
      "max up to 80 12 characters Zeichen from bis 2 decimals between and 3 values one of A, B; C | . : ( ) kg € N/A 99999".split(
        " ",
      );
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...words), { maxLength: 25 }), (parts) => {
        const said = readSentence(parts.join(" "));
        if (said.min !== undefined && said.max !== undefined)
          expect(Number(said.min)).toBeLessThanOrEqual(Number(said.max));
        if (said.decimals !== undefined) expect(said.decimals).toBeLessThanOrEqual(8);
        for (const value of said.values ?? []) expect(value.length).toBeLessThanOrEqual(60);
      }),
    );
    expect(readSentence("x".repeat(20_000) + " max " + "1 ".repeat(5000))).toBeDefined();
  });

  it("when values are joined by a mark that none of them holds, then just they come back", () => {
    const word = fc
      .stringMatching(/^[A-Z][a-z]{1,8}( [a-z]{2,6})?$/)
      .filter((text) => !/ (?:or|o|ou|oder|and|und|et|y|u)$/.test(text));
    fc.assert(
      fc.property(
        fc.uniqueArray(word, { minLength: 2, maxLength: 12 }),
        fc.constantFrom("; ", " | ", "\n"),
        (values, mark) => {
          expect(listedValues(values.join(mark))).toEqual(values);
        },
      ),
    );
  });
});
