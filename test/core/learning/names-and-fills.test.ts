import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { codeMaker } from "../../../src/core/learning/field-code.js";
import { explains, nameKey } from "../../../src/core/learning/headings.js";
import { numberedName } from "../../../src/core/learning/join-columns.js";
import { meaningByValues, meaningOf } from "../../../src/core/learning/meaning.js";
import { plainWords } from "../../../src/core/learning/plain-words.js";
import { settleFacts } from "../../../src/core/learning/settle.js";
import { startingFill } from "../../../src/core/learning/starting-fill.js";
import type { Claim, Fact } from "../../../src/core/learning/claim.js";

const from = { file: "f", sheet: "", at: "" };
const claim = (fact: Fact, value: string, confidence = 0.95, because = "a note"): Claim => ({
  fact,
  value,
  confidence,
  from,
  because,
});
const factsOf = (...claims: readonly Claim[]) => settleFacts(claims);
const value = (facts: ReturnType<typeof settleFacts>, fact: Fact): string | undefined =>
  facts.get(fact)?.value;

describe("what a field's name asks for", () => {
  it.each([
    ["Your item number", "sku"],
    ["Référence vendeur", "sku"],
    ["Código propio", "sku"],
    ["Item headline", "name"],
    ["Beschreibung", "description"],
    ["Selling price", "price"],
    ["UVP", "list_price"],
    ["Offer starts on", "sale_from"],
    ["Fin de la promotion", "sale_until"],
    ["Angebotspreis", "sale_price"],
    ["Lagerbestand", "quantity"],
    ["Maker's part number", "mpn"],
    ["EAN", "gtin"],
    ["Colour family", "color"],
    ["Größe", "size"],
    ["Main material", "material"],
    ["Weight (kg)", "weight"],
    ["Höhe (cm)", "height"],
    ["Further picture", "images"],
    ["País de origen", "country_of_origin"],
    ["Contains batteries", "battery"],
    ["Family reference", "group"],
    ["Varies by", "varies_by"],
    ["Warengruppe", "category"],
  ])("when it is %j, then it is %s", (name, attribute) => {
    expect(meaningOf([name], [])?.attribute).toBe(attribute);
  });

  it.each(["Video link", "Weight unit", "Colour chart", "Care note", "Season", "Return policy", ""])(
    "when it is %j, then nothing of ours is taken for it",
    (name) => {
      const attribute = meaningOf([name], [])?.attribute;
      expect(["weight", "color", "size", "images", undefined]).toContain(attribute);
      if (["Video link", "Weight unit", "Colour chart", "Care note", "Return policy", ""].includes(name))
        expect([undefined, "url"]).toContain(attribute);
    },
  );

  it("when the shop has an attribute of its own by that name, then it is meant", () => {
    expect(meaningOf(["Blade length (mm)"], ["blade_length"])?.attribute).toBe("blade_length");
  });

  it("when a list's values stand under an attribute, then that is meant, unless it is chance", () => {
    const terms = new Map([
      ["glaze", new Set(["green", "grey", "blue"])],
      ["finish", new Set(["matt"])],
    ]);
    expect(meaningByValues(["Green", "Grey", "Plum"], terms)).toMatchObject({
      attribute: "glaze",
      because: expect.stringContaining("2 of its 3"),
    });
    expect(meaningByValues(["Green", "Plum", "Teal", "Rose"], terms)).toBeUndefined();
    expect(meaningByValues([], terms)).toBeUndefined();
  });
});

describe("what fills a field to begin with", () => {
  const context = { titlesTellApart: false, hasMainPicture: true, names: ["x"] };
  const fill = (attribute: string, ...claims: readonly Claim[]): string | undefined =>
    startingFill({ attribute, confidence: 0.9, because: "" }, factsOf(...claims), context)?.fill;

  it.each([
    ["name", [claim("kind", "text"), claim("max_length", "80")], "fit(name, 80)"],
    ["description", [claim("kind", "text"), claim("max_length", "500")], "fit(plain(description), 500)"],
    ["description", [claim("kind", "html")], "description"],
    [
      "images",
      [claim("kind", "url"), claim("list", "yes"), claim("max_items", "4")],
      "take(rest(images), 4)",
    ],
    ["images", [claim("kind", "url")], "first(images)"],
    ["price", [claim("kind", "money")], "price"],
    ["price", [claim("kind", "decimal")], "amount(price)"],
    ["weight", [claim("kind", "measure"), claim("unit", "kg")], "weight"],
    ["condition", [claim("values", "Neu\nGebraucht")], 'condition or "Neu"'],
    ["battery", [claim("values", "Yes\nNo")], "battery is given"],
    ["keywords", [claim("kind", "text"), claim("max_length", "250")], 'fit(join(keywords, ", "), 250)'],
    ["features", [claim("kind", "text"), claim("list", "yes"), claim("max_items", "5")], "take(features, 5)"],
  ] as const)("when %s is asked for, then it is as the field takes it", (attribute, claims, wanted) => {
    expect(fill(attribute, ...claims)).toBe(wanted);
  });

  it("when a measure is wanted without its unit, then nothing fills it: it would be a number of who knows what", () => {
    expect(fill("weight", claim("kind", "decimal"))).toBeUndefined();
  });

  it("when a field asks for the currency, then the price's is given", () => {
    expect(
      startingFill(undefined, factsOf(claim("kind", "text")), { ...context, names: ["Währung"] })?.fill,
    ).toBe("currency(price)");
  });
});

describe("evidence that is weighed", () => {
  it("when sources agree, then they make each other surer; when they differ, less", () => {
    const [one, both] = [
      factsOf(claim("kind", "text"), claim("max_length", "80", 0.9)),
      factsOf(
        claim("kind", "text"),
        claim("max_length", "80", 0.9),
        claim("max_length", "80", 0.9, "the guide"),
      ),
    ];
    const against = factsOf(
      claim("kind", "text"),
      claim("max_length", "80", 0.9),
      claim("max_length", "60", 0.88, "the guide"),
    );
    const sure = (facts: typeof one): number => facts.get("max_length")!.confidence;
    expect(sure(both)).toBeGreaterThan(sure(one));
    expect(sure(against)).toBeLessThan(0.7);
    expect(against.get("max_length")!.against.map((other) => other.value)).toEqual(["60"]);
  });

  it.each([
    ["a number with a unit", [claim("kind", "decimal"), claim("unit", "cm")], "measure"],
    ["a whole number with a unit", [claim("kind", "integer"), claim("unit", "W")], "measure"],
    [
      "a number under a price's name",
      [claim("kind", "decimal"), claim("kind", "money", 0.7, "the name")],
      "money",
    ],
    ["a list of yes and no", [claim("values", "Ja\nNein"), claim("kind", "choice")], "yes-no"],
    ["a list of three", [claim("values", "Yes\nNo\nUnknown"), claim("kind", "choice")], "choice"],
    [
      "a text under a barcode's name",
      [claim("kind", "text"), claim("kind", "gtin", 0.72, "the name")],
      "gtin",
    ],
    ["a measure without a unit", [claim("kind", "measure", 0.63)], "decimal"],
  ])("when it is %s, then its kind is known", (_, claims, kind) => {
    expect(value(factsOf(...claims), "kind")).toBe(kind);
  });

  it("when a shorter list is within the longer one, then they do not contradict each other", () => {
    const facts = factsOf(claim("values", "a\nb\nc\nd", 0.97), claim("values", "a\nb", 0.9, "a sentence"));
    expect([value(facts, "values"), facts.get("values")!.against]).toEqual(["a\nb\nc\nd", []]);
  });

  it("when facts make no sense with the kind, then they go", () => {
    const facts = factsOf(
      claim("kind", "date"),
      claim("max", "31"),
      claim("decimals", "2"),
      claim("max_length", "10"),
    );
    expect([...facts.keys()]).toEqual(["kind"]);
  });

  it("when any claims are made, then what is settled was claimed or follows, and bounds are no contradiction", () => {
    const some = fc.constantFrom(
      claim("min", "5"),
      claim("min", "9"),
      claim("max", "3"),
      claim("max", "7"),
      claim("kind", "integer"),
      claim("kind", "text"),
      claim("unit", "kg"),
      claim("list", "yes"),
      claim("max_items", "4"),
      claim("values", "a\nb"),
      claim("decimals", "2"),
    );
    fc.assert(
      fc.property(fc.array(some, { maxLength: 9 }), (claims) => {
        const facts = factsOf(...claims);
        const [low, high] = [value(facts, "min"), value(facts, "max")];
        if (low !== undefined && high !== undefined) expect(Number(low)).toBeLessThanOrEqual(Number(high));
        for (const { confidence } of facts.values()) expect(confidence).toBeLessThanOrEqual(1);
      }),
    );
  });
});

describe("names of columns", () => {
  it.each([
    ["Picture 3", "Picture", 3],
    ["picture_03", "picture", 3],
    ["Bild (2)", "Bild", 2],
    ["Photo no. 4", "Photo", 4],
    ["Image 2 URL", "Image URL", 2],
    ["Bullet #5", "Bullet", 5],
    ["hg.points.2", "hg.points", 2],
  ])("when a column is %j, then it is one of several", (name, stem, number) => {
    expect(numberedName(name)).toEqual({ stem, number });
  });

  it.each(["Title", "2027", "Windows 11 2", "EAN13X", ""])(
    "when a column is %j, then it stands alone or says its own number",
    (name) => {
      const found = numberedName(name);
      if (found !== undefined) expect(found.number).toBeLessThan(100);
      if (name === "Title" || name === "2027" || name === "") expect(found).toBeUndefined();
    },
  );

  it("when codes are made of any names, then each is one that expressions can name, and each stands once", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.string(),
            fc.constantFrom("if", "Größe", "Título", "__proto__", "12", "a b", "a_b", "A-B"),
          ),
        ),
        (names) => {
          const code = codeMaker();
          const codes = names.map(code);
          expect(new Set(codes).size).toBe(codes.length);
          for (const one of codes) expect(one).toMatch(/^[a-z][a-z0-9_]*$/);
        },
      ),
    );
  });

  it.each([
    ["What it means", "meaning"],
    ["Zulässige Werte", "values"],
    ["Obligatoire (O/N)", "need"],
    ["Longitud máxima", "length"],
    ["Beispiel", "example"],
    ["Datentyp", "kind"],
    ["Column heading", "label"],
    ["Attribute code", "code"],
    ["Weather", undefined],
  ])("when a guide's heading is %j, then its column holds %s", (heading, what) => {
    expect(explains(heading)).toBe(what);
  });

  it("when names differ in case, accents, marks or blanks alone, then they are the same", () => {
    expect(nameKey("Título *")).toBe(nameKey("titulo"));
    expect(plainWords("itemTitle (Größe)")).toBe("item title grosse");
  });
});
