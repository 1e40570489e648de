import { describe, expect, it } from "vitest";
import { sentence } from "../../../src/workspace/wording.js";
import { patternCompiler } from "../../../src/workspace/patterns.js";
import { definitionOf, rowsOf } from "../../kit/definition.js";
import { outcomesOf, setupOf, told } from "../../kit/listing.js";

const spade = {
  sku: "spade",
  name: "Spade",
  category: "Tools > Spades",
  price: "44.50 GBP",
  weight: "2.1 kg",
};

const banning = (lines: string) =>
  definitionOf({
    source: { banned: rowsOf("banned.csv", `field|kind|value|says|severity\n${lines}`) },
  });

const titled = (name: string, lines: string): string =>
  told(outcomesOf(setupOf(banning(lines).definition), { ...spade, name })[0]);

describe("what a full file would take from a live listing", () => {
  const place = { file: "definition.yaml", line: 1 };
  const { definition } = definitionOf({
    fields:
      "field|scope|label|kind|list|need|level\nref|*|Ref|text||required|\nled|*|Led|text||optional|group\ntitle|*|Title|text||required|\nprice|*|Price|money||required|\nhue|*|Hue|text||optional|",
    source: {
      crossRules: [],
      roles: { name: "title", price: "price" },
      groups: { model: "leading-member", toldApartBy: undefined, groupField: "led", place },
      purposes: [{ purpose: "full", blank: "erase", place }],
    },
  });
  const live = (values: Readonly<Record<string, string>>) => (sku: string) =>
    sku === "spade"
      ? ({ category: "g.t.s", group: undefined, axes: "", name: "Spade", gtin: undefined, values } as never)
      : undefined;

  it("when a field is blank now, then that is told; the reference to its group is the file's own to make", () => {
    const setup = {
      ...setupOf(definition, { fills: { led: "blank", hue: "color" } }),
      live: live({ ref: "spade", led: "rake", title: "Spade", hue: "green" }),
    };
    const said = told(outcomesOf(setup, spade)[0]);
    expect(said).toBe(
      'ready: Hue is blank now, and the channel has "green": a full file would take it away; fill it, or leave it to an amend file',
    );
    expect(told(outcomesOf(setup, { ...spade, color: "red" })[0])).toBe("ready: ");
  });
});

describe("what texts must not hold", () => {
  it.each([
    ["word", "bargain", "Spade, BARGAIN!", "Bargains Spade"],
    ["word", "best buy", "Best-buy spade", "Best spade buy"],
    ["list", "hue", "Moss spade", "Mossy spade"],
    ["link", "", "See www.spades.example", "See the page"],
    ["phone", "", "Ring 01632 960 123", "Size 400 x 300"],
    ["capitals", "1", "BEST BLADE spade", "BEST blade spade"],
    ["repeats", "2", "spade spade spade", "spade and spade"],
    ["pattern", ".*!!+.*", "Spade!!", "Spade!"],
  ])("when the ban is %s %j, then %j is held and %j is not", (kind, value, wrong, right) => {
    const ban = `title|${kind}|${value}|it is banned|error`;
    expect(titled(wrong, ban)).toContain("it is banned");
    expect(titled(wrong, ban)).toMatch(/^held/);
    expect(titled(right, ban)).toBe("ready: ");
  });

  it("when a pattern is banned, then it is found anywhere in a text, by the engine that the program has", async () => {
    const compile = await patternCompiler(true);
    const ban = (pattern: string, name: string): boolean => {
      const compiled = compile(pattern);
      if (!("find" in compiled)) throw new Error(compiled.reason);
      return compiled.find(name) !== undefined;
    };
    expect(["now!!", "!!", "a\n!! b", "one!"].map((name) => ban("!!+", name))).toEqual([
      true,
      true,
      true,
      false,
    ]);
    expect([ban("^Spade$", "A Spade"), ban("^Spade$", "Spade"), ban("[0-9]+%", "at 20% less")]).toEqual([
      false,
      true,
      true,
    ]);
  });

  it("when a ban is a warning, then the listing is ready all the same", () =>
    expect(titled("Spade, bargain", "*|word|bargain|not praised|warning")).toMatch(/^ready: .*not praised/));

  it("when rows of bans are wrong, then each is told by row", () => {
    const said = banning(
      [
        "title|wurd|x|s|error",
        "title|capitals|many|s|error",
        "title|list|firms|s|error",
        "title|pattern|(|s|error",
        "titel|word|x|s|error",
      ].join("\n"),
    )
      .findings.map((found) => `${found.place?.row ?? ""} ${sentence(found)}`)
      .join("\n");
    for (const part of [
      '2 kind is "wurd"',
      '3 value is "many"',
      '4 the value list "values/firms.csv" does not exist',
      '5 the pattern "(" cannot be used',
      '6 "titel" is no field of the channel; nearest: "title"',
    ])
      expect(said).toContain(part);
  });
});

describe("what members may differ in", () => {
  const axes = (lines: string) =>
    setupOf(
      definitionOf({
        source: { axes: rowsOf("axes.csv", `scope|axes|most_axes|most_members\n${lines}`) },
      }).definition,
    );
  const members = ["green", "red"].map((color) => ({
    ...spade,
    sku: color,
    group: "S",
    varies_by: "color",
    color,
  }));
  const saidOf = (lines: string): string => told(outcomesOf(axes(lines), ...members)[0]);

  it("when the nearest scope permits what they differ in, then they are ready", () => {
    expect(saidOf("*|size|1|9\ng.t|color; size|2|9")).toBe("ready: ");
    expect(saidOf("w|size|1|9")).toBe("ready: ");
  });

  it("when it does not, or sets fewer axes or members, then each of them is held", () => {
    expect(saidOf("*|color|2|9\ng.t.s|size|1|9")).toMatch(/^held: .*color/);
    expect(saidOf("*|color|0|9")).toMatch(/^held/);
    expect(saidOf("*|color|1|1")).toMatch(/^held: .*2/);
  });

  it("when axes are no attributes or a number is none, then that is told by row", () => {
    const { findings } = definitionOf({
      source: { axes: rowsOf("axes.csv", "scope|axes|most_axes|most_members\nx.y|Colour!|some|9") },
    });
    expect(findings.map(({ code }) => code)).toEqual(["unknown-category", "wrong-cell", "wrong-cell"]);
  });
});

describe("needs by case", () => {
  const byCase = definitionOf({
    fields: [
      "field|scope|kind|need|when|values",
      "ref|*|text|required||",
      "title|*|text|required||",
      "price|*|money|required||",
      'was|*|money|required|title = "Spade"|',
      'was|*|money|optional|title = "Fork"|',
      "was|*|money|not allowed||",
      "hue|*|choice|optional||hue",
    ].join("\n"),
    source: { crossRules: [] },
  }).definition;
  const saidOf = (name: string, list_price?: string): string =>
    told(
      outcomesOf(setupOf(byCase), { ...spade, name, ...(list_price === undefined ? {} : { list_price }) })[0],
    );

  it("when a case holds, then its need counts, stronger or weaker than that of all others", () => {
    expect(saidOf("Spade")).toContain("held: was is missing");
    expect(saidOf("Spade", "50.00 GBP")).toBe("ready: ");
    expect(saidOf("Fork")).toBe("ready: ");
    expect(saidOf("Fork", "50.00 GBP")).toBe("ready: ");
  });

  it("when no case holds, then the plain need counts", () => {
    expect(saidOf("Rake")).toBe("ready: ");
    expect(saidOf("Rake", "50.00 GBP")).toMatch(/^held: was is not allowed/);
  });
});

describe("an open list of values", () => {
  const open = definitionOf({
    fields:
      "field|scope|kind|need|values|open\nref|*|text|required||\ntitle|*|text|required||\nprice|*|money|required||\nwas|*|money|optional||\nhue|*|choice|optional|hue|yes",
    source: {
      crossRules: [],
    },
  }).definition;

  it("when a value is beside the list, then it is taken with advice that names the nearest", () => {
    const outcome = outcomesOf(setupOf(open), { ...spade, color: "greem" })[0];
    expect(told(outcome)).toMatch(/^ready: .*"greem".*"green"/);
  });

  it("when it means a listed one, then that is what is sent, without a word", () => {
    const outcome = outcomesOf(setupOf(open), { ...spade, color: "forest" })[0];
    expect(told(outcome)).toBe("ready: ");
    const slot = open.fields.find(({ code }) => code === "hue")?.slot ?? -1;
    expect(outcome?.kind === "ready" ? outcome.listing.value(slot) : undefined).toBe("green");
  });
});
