import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { noGlossary } from "../../../src/core/goods/glossary-data.js";
import { growGlossary } from "../../../src/core/goods/grow-glossary.js";
import { openGlossary } from "../../../src/core/goods/glossary.js";
import { kindsOfThings } from "../../../src/core/goods/kinds-of-things.js";
import { nameReader } from "../../../src/core/goods/read-name.js";
import { tokensOf } from "../../../src/core/goods/tokens.js";
import { families, formOf } from "../../../src/core/goods/word-forms.js";
import { companyOf, headsOf } from "../../../src/core/placement/company.js";
import { kinshipOf } from "../../../src/core/placement/kinship.js";
import { goodRows, smallData, smallGlossary } from "./small-glossary.js";

const reader = nameReader(smallGlossary);

/** What a name says a thing is, heard in the company of others. */
const headOfName = (name: string, others: readonly string[] = []): string | undefined => {
  const readings = [name, ...others].map((text) => ({ reading: reader.read(text), weight: 1 }));
  const [reading] = readings;
  if (reading === undefined) return undefined;
  const [head] = headsOf(reading.reading, companyOf(readings, smallGlossary), smallGlossary);
  const [best] = [...(head?.goods ?? [])].sort((a, b) => b[1] - a[1]);
  return best === undefined ? undefined : smallGlossary.goods[best[0]]?.name;
};

const qualitiesIn = (name: string): readonly string[] =>
  reader.read(name).qualities.map((quality) => quality.name);

describe("names cut into words", () => {
  it.each([
    ["Children's Gloves, size 4 (leather)", ["children:0", "gloves:0", "size:1", "leather:2"]],
    ["Bean 'Cottager's Purple'", ["bean:0"]],
    ["Cup and Saucer for the girl", ["cup:0", "saucer:1", "girl:2"]],
    ["Räucherofen & Glas – groß", ["raucherofen:0", "glas:1", "gross:2"]],
  ])("when a name is %j, then its words and their parts are %j", (name, expected) =>
    expect(tokensOf(name).map(({ word, part }) => `${word}:${part}`)).toEqual(expected),
  );

  it("when a name is any text, then its words are letters alone and its parts only grow", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 120 }), (name) => {
        const tokens = tokensOf(name);
        expect(tokens.every(({ word }) => /^[\p{L}\p{N}]+$/u.test(word))).toBe(true);
        expect(tokens.every(({ part }, at) => part >= (tokens[at - 1]?.part ?? 0))).toBe(true);
      }),
    );
  });
});

describe("forms of words", () => {
  it.each([
    ["english", "vases", "vase"],
    ["english", "knives", "knife"],
    ["english", "gloves", "glove"],
    ["english", "axes", "axe"],
    ["english", "cookies", "cookie"],
    ["english", "glasses", "glass"],
    ["english", "houses", "house"],
    ["germanic", "topfe", "topf"],
    ["germanic", "lampen", "lampe"],
    ["germanic", "kekse", "keks"],
    ["germanic", "kleider", "kleid"],
    ["romance", "casseroles", "casserole"],
    ["romance", "rideaux", "rideau"],
  ] as const)("when a word of the %s family is %s, then it is the same as %s", (family, one, other) =>
    expect(formOf(one, family)).toBe(formOf(other, family)),
  );

  it("when any two words are apart by their ending alone, then no form is empty", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z]{1,12}$/), fc.constantFrom(...families), (word, family) => {
        expect(formOf(word, family).length).toBeGreaterThan(0);
        expect(word.length - formOf(word, family).length).toBeLessThanOrEqual(3);
      }),
    );
  });
});

describe("what a name says a thing is", () => {
  it.each([
    ["Scarlet digging spade, ash", [], "spade"],
    ["Pants, leather", [], "trousers"],
    ["Wine-red sweater for men", [], "jumper"],
    ["Pulli Lederhandschuhe", [], "gloves"],
    ["Leselampe", [], "lamp"],
    ["Headtorch", [], "head torch"],
    ["secatuers", [], "secateurs"],
    ["Cups and saucers", [], "cup and saucer"],
    ["Honey jar with lid", [], "jar"],
    ["Coat for girls", [], "girls' coat"],
    ["Lampe de table en cuir", ["sécateur", "pantalon", "gants"], "table lamp"],
    ["Smoker", ["Complete hive", "Bee gloves"], "smoker"],
    ["Smoker", ["Jar", "Cup and saucer"], "food smoker"],
    ["Boar bristle brush", ["Shampoo"], "hair brush"],
    ["Flat brush", ["Paint"], "paint brush"],
    ["Runner bean", ["Seeds"], "bean seed"],
    ["Shovel", [], "tool"],
    ["Zzz", [], undefined],
  ])("when it is %j beside %j, then it is %s", (name, others, expected) =>
    expect(headOfName(name, others)).toBe(expected),
  );

  it.each([
    ["Damen Handschuh weinrot", ["burgundy"]],
    ["Kinderhandschuhe aus Leder", ["leather", "child"]],
  ])("when a name is %j, then it tells %j", (name, expected) =>
    expect([...qualitiesIn(name)].sort()).toEqual([...expected].sort()),
  );

  it("when any of its words is written with one slip, then it is the same thing, or nothing", () => {
    const word = fc.constantFrom("secateurs", "trousers", "pullover", "beehive", "shampoo");
    fc.assert(
      fc.property(word, fc.nat(20), fc.constantFrom("drop", "double", "swap"), (name, seed, slip) => {
        const at = 1 + (seed % (name.length - 2));
        const [before, here, after] = [name.slice(0, at), name.slice(at, at + 1), name.slice(at + 1)];
        const written =
          slip === "drop"
            ? before + after
            : slip === "double"
              ? before + here + here + after
              : before + after.slice(0, 1) + here + after.slice(1);
        expect([headOfName(name), undefined]).toContain(headOfName(written));
      }),
    );
  });
});

describe("a glossary that grows", () => {
  it("when a shop adds words to a good, then both are known, and the shipped ones stay as they were", () => {
    const { data, findings } = growGlossary(
      smallData,
      goodRows(`
        spade | graft | Stichel | | | | | own
        sky lantern | | Himmelslaterne | | lamp | | | own
      `),
    );
    const grown = openGlossary(data);
    expect(findings).toEqual([]);
    expect(grown.goods.length).toBe(smallGlossary.goods.length + 1);
    const meant = (word: string) =>
      families
        .flatMap((family) => grown.meanings(formOf(word, family), family))
        .map(({ good }) => grown.goods[good]?.name);
    expect([meant("graft"), meant("stichel"), meant("himmelslaterne")]).toEqual([
      ["spade"],
      ["spade"],
      ["sky lantern"],
    ]);
    const added = grown.goods.find(({ name }) => name === "sky lantern");
    expect(added?.kindOf.map((id) => grown.goods[id]?.name)).toEqual(["lamp"]);
    expect(smallGlossary.meanings("graft", "english")).toEqual([]);
  });

  it("when a row names a kind that nobody knows, then it is told with its row", () => {
    const { findings } = growGlossary(noGlossary, goodRows("grail | | | | relic | | | own"));
    expect(findings).toMatchObject([
      {
        code: "unknown-good",
        facts: { name: "relic", good: "grail" },
        place: { file: "tables/goods.csv", row: 2 },
      },
    ]);
  });

  it("when rows are added at once or one after the other, then the glossary is the same", () => {
    const rows = goodRows(`
      pail | bucket | Eimer | | | | | own
      fire pail | | Löscheimer | | pail | | | own
      pail | tub | | | | | | own
    `);
    const atOnce = growGlossary(smallData, rows).data;
    const oneByOne = rows.reduce((data, row) => growGlossary(data, [row]).data, smallData);
    expect(new Map(oneByOne.terms.english)).toEqual(new Map(atOnce.terms.english));
    expect(oneByOne.goods).toEqual(atOnce.goods);
  });
});

describe("kinds of things", () => {
  it("when any list of nouns is searched as it lies, then each is found and no other", () => {
    const noun = fc.stringMatching(/^[a-z]{1,6}( [a-z]{1,4})?$/);
    fc.assert(
      fc.property(fc.uniqueArray(noun, { maxLength: 30 }), noun, (nouns, other) => {
        const sorted = [...nouns].sort((a, b) => (a < b ? -1 : 1));
        const list = kindsOfThings(sorted.map((one) => `${one}\t0>${one}>thing`).join("\n"));
        for (const one of nouns) expect(list.sensesOf(one)).toEqual([{ rank: 0, steps: [[one], ["thing"]] }]);
        expect(list.sensesOf(other).length).toBe(nouns.includes(other) ? 1 : 0);
      }),
    );
  });
});

describe("how goods stand to each other", () => {
  const idOf = (name: string): number => smallGlossary.goods.find((good) => good.name === name)?.id ?? -1;
  const kin = (one: string, other: string) => kinshipOf(smallGlossary).of(idOf(one)).get(idOf(other))?.kin;

  it.each([
    ["spade", "spade", "same"],
    ["spade", "tool", "wider"],
    ["secateurs", "tool", "wider"],
    ["tool", "secateurs", "narrower"],
    ["secateurs", "secateurs holster", "with"],
    ["spade", "lamp", undefined],
  ])("when one is a %s and the other a %s, then they are %s", (one, other, expected) =>
    expect(kin(one, other)).toBe(expected),
  );

  it("when two goods are the nearer, then a step up or down never makes them nearer still", () => {
    const kinship = kinshipOf(smallGlossary);
    for (const { id, kindOf } of smallGlossary.goods)
      for (const parent of kindOf)
        for (const [other, { kin: way, near }] of kinship.of(parent))
          if (way === "wider") expect(kinship.of(id).get(other)?.near ?? 0).toBeLessThanOrEqual(near);
  });
});
