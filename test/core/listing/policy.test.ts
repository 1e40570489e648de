import { describe, expect, it } from "vitest";
import { decimal, whole } from "../../../src/core/values/decimal.js";
import { definitionOf } from "../../kit/definition.js";
import { filled, listingsOf, outcomesOf, setupOf, told } from "../../kit/listing.js";

const { definition } = definitionOf();

const spade = {
  sku: "spade",
  name: "Spade",
  category: "Tools > Spades",
  price: "44.50 GBP",
  weight: "2.1 kg",
};

type Options = Parameters<typeof setupOf>[1];

const toldOf = (options: Options, texts: Readonly<Record<string, string>> = {}): string =>
  told(outcomesOf(setupOf(definition, options), { ...spade, ...texts })[0]);

describe("which products go to a channel", () => {
  it.each<readonly [string, Options, Readonly<Record<string, string>>, string]>([
    ["it is marked off this channel", {}, { keep_off: "Stall" }, "keep_off says"],
    ["it is marked off all", {}, { keep_off: "all" }, "keep_off says"],
    ["it is listed on others only", {}, { list_on: "quay, hall" }, "list_on says"],
    [
      "it is digital and the channel takes none",
      { selection: { takesDigital: false } },
      { digital: "yes" },
      "digital good",
    ],
    [
      "it burns and the channel takes nothing that does",
      { selection: { hazards: [] } },
      { hazard: "flammable" },
      "takes no hazardous goods",
    ],
    [
      "its hazard is not among those taken",
      { selection: { hazards: ["corrosive"] } },
      { hazard: "flammable" },
      'takes only "corrosive"',
    ],
    [
      "it may not be sold where the channel sells",
      { selection: { countries: ["NO"] } },
      { sell_in: "GB, IE" },
      "sold in",
    ],
    [
      "it costs too little",
      { selection: { leastPrice: { kind: "money", amount: price("50"), currency: "GBP" } } },
      {},
      "below 50.00 GBP",
    ],
    ["the condition does not hold", { select: "quantity > 0" }, { quantity: "0" }, "condition: quantity > 0"],
  ])("when %s, then it is left out and says so", (_, options, texts, expected) => {
    expect(toldOf(options, texts)).toMatch(/^left-out: /);
    expect(toldOf(options, texts)).toContain(expected);
  });

  it.each<readonly [string, Options, Readonly<Record<string, string>>]>([
    ["it is listed on this channel among others", {}, { list_on: "quay; STALL" }],
    [
      "it is marked for this channel and the condition alone is against it",
      { select: "quantity > 0" },
      { list_on: "stall", quantity: "0" },
    ],
    ["it is marked off another channel", {}, { keep_off: "quay" }],
    ["its hazard is one of those taken", { selection: { hazards: ["Flammable"] } }, { hazard: "flammable" }],
    ["it may be sold in one of the countries", { selection: { countries: ["NO", "GB"] } }, { sell_in: "gb" }],
    [
      "it costs the least exactly",
      { selection: { leastPrice: { kind: "money", amount: price("44.50"), currency: "GBP" } } },
      {},
    ],
  ])("when %s, then it goes", (_, options, texts) => {
    expect(toldOf(options, texts)).toMatch(/^ready: /);
  });

  it("when a mark to stay off and one to go disagree, then it stays off", () => {
    expect(toldOf({}, { keep_off: "stall", list_on: "stall" })).toMatch(/^left-out/);
  });

  it("when a listing has less than the channel's least of what is asked, then it is left out with the share", () => {
    const bare = { ...spade, category: "Tools", weight: "" };
    expect(told(outcomesOf(setupOf(definition, { selection: { leastReadiness: 90 } }), bare)[0])).toContain(
      "it has 75% of what the channel requires and recommends",
    );
    expect(told(outcomesOf(setupOf(definition, { selection: { leastReadiness: 75 } }), bare)[0])).toMatch(
      /^ready/,
    );
  });
});

const priced = (
  options: Options,
  texts: Readonly<Record<string, string>> = {},
  onChannel?: Readonly<Record<string, string>>,
): string => {
  const [listing] = listingsOf(
    setupOf(definition, { fills: { price: "sale_price or price", was: "price" }, ...options }),
    [{ ...spade, ...texts }],
    onChannel === undefined ? {} : { onChannel: [{ ...spade, ...texts, ...onChannel }] },
  );
  return listing === undefined ? "none" : `${filled(listing, "price")} was ${filled(listing, "was")}`;
};

describe("a channel's prices", () => {
  it("when a rule makes the price, then fills read what it makes, in pence", () => {
    expect(priced({ prices: { rules: { price: "price * 1.037" } } })).toBe("46.15 GBP was 46.15 GBP");
  });

  it("when a rule makes a price in another currency, then the catalogue needs none", () => {
    const setup = setupOf(definition, {
      fills: { price: "price@EUR" },
      prices: { rules: { "price@EUR": "price in EUR" } },
    });
    const [listing] = listingsOf(setup, [spade]);
    expect(listing === undefined ? "" : filled(listing, "price")).toBe("52.07 EUR");
  });

  it("when the channel has its own price for a product, then no rule changes it", () => {
    expect(priced({ prices: { rules: { price: "price * 2" } } }, {}, { price: "39.00 GBP" })).toBe(
      "39.00 GBP was 39.00 GBP",
    );
  });

  it.each<readonly [string, NonNullable<Options>["prices"], string, string]>([
    [
      "below the lowest, held",
      { lowest: "cost * 1.5" },
      "held",
      "price 44.50 GBP is below 45.00 GBP, the lowest",
    ],
    [
      "below the lowest, moved",
      { lowest: "cost * 1.5", outside: "move" },
      "ready",
      "was raised to 45.00 GBP",
    ],
    [
      "above the highest, held",
      { highest: "cost" },
      "held",
      "price 44.50 GBP is above 30.00 GBP, the highest",
    ],
    ["above the highest, moved", { highest: "cost", outside: "move" }, "ready", "was lowered to 30.00 GBP"],
  ])("when a price is %s, then that is told", (_, prices, kind, expected) => {
    const said = toldOf(prices === undefined ? {} : { prices }, { cost: "30 GBP" });
    expect(said).toMatch(new RegExp(`^${kind}: `));
    expect(said).toContain(expected);
  });

  it("when the bound cannot be worked out for a product, then there is none for it", () => {
    expect(toldOf({ prices: { lowest: "cost * 1.5" } })).toBe("ready: ");
  });

  it("when a rule cannot be worked out, then the product is held with the reason", () => {
    expect(toldOf({ prices: { rules: { price: "price in SEK" } } })).toContain(
      "there is no rate from GBP to SEK",
    );
  });

  it("when a price beside the usual ones cannot be worked out, then only a field that asks for it is missing", () => {
    const prices = { rules: { "price@EUR": "price in SEK" } };
    expect(toldOf({ prices })).toMatch(/^ready: price@EUR could not be converted/);
    const asked = toldOf({ prices, fills: { price: "price@EUR" } });
    expect(asked).toMatch(/^held: /);
    expect(asked).toContain("price@EUR could not be converted");
    expect(asked).toContain("Price");
  });

  it.each([
    ["all", "2026-02-01", "2026-02-15", "40.00 GBP"],
    ["coming", "2026-02-01", "2026-02-15", "44.50 GBP"],
    ["coming", "2026-04-01", "2026-04-15", "40.00 GBP"],
    ["running", "2026-04-01", "2026-04-15", "44.50 GBP"],
    ["running", "2026-02-20", "2026-03-01", "40.00 GBP"],
    ["running", "2026-03-01", "", "40.00 GBP"],
  ] as const)(
    "when sales are wished %s and one runs from %s to %s, then the price is %s",
    (sales, from, until, expected) => {
      const sale = { sale_price: "40 GBP", sale_from: from, sale_until: until };
      expect(priced({ prices: { sales } }, sale)).toContain(`${expected} was`);
    },
  );

  it.each([
    ["40.00 GBP", "ready: "],
    ["34.24 GBP", "ready: "],
    ["34.23 GBP", "held"],
    ["80.00 GBP", "held"],
    ["20.00 EUR", "ready: "],
    ["", "ready: "],
  ])("when %s was sent last and 30%% is allowed, then it is %s", (sent, expected) => {
    const said = toldOf({ prices: { greatestChange: 30 }, sent: { spade: sent } });
    expect(said.startsWith(expected)).toBe(true);
    if (expected === "held") expect(said).toContain("--confirm-prices");
  });
});

describe("prices in every currency that a channel is shown", () => {
  const fills = { price: "sale_price@EUR or price@EUR" };
  const both = { sale_price: "40 GBP", "sale_price@EUR": "46.80 EUR", "price@EUR": "52.00 EUR" };
  const shownIn = (
    prices: NonNullable<Options>["prices"],
    texts: Readonly<Record<string, string>>,
  ): string => {
    const [listing] = listingsOf(
      setupOf(definition, { fills, ...(prices === undefined ? {} : { prices }) }),
      [{ ...spade, ...texts }],
    );
    return listing === undefined ? "none" : filled(listing, "price");
  };

  it.each([
    [{ sale_until: "2026-02-15" }, "52.00 EUR"],
    [{ sale_from: "2026-04-01" }, "52.00 EUR"],
    [{ sale_until: "2026-03-01" }, "46.80 EUR"],
    [{ sale_until: "2026-02-15", "sale_until@EUR": "2026-03-20" }, "46.80 EUR"],
    [{ sale_until: "2026-03-20", "sale_until@EUR": "2026-02-15" }, "52.00 EUR"],
  ])("when a sale has %j and only those that run are wished, then euro follow as well", (days, expected) => {
    expect(shownIn({ sales: "running" }, { ...both, ...days })).toBe(expected);
  });

  it.each([
    [{ lowest: "cost" }, { "price@EUR": "5.20 EUR" }, "price@EUR 5.20 EUR is below 35.10 EUR"],
    [{ lowest: "cost" }, { "sale_price@EUR": "5.20 EUR" }, "sale_price@EUR 5.20 EUR is below 35.10 EUR"],
    [{ highest: "list_price" }, { "price@EUR": "520.00 EUR" }, "price@EUR 520.00 EUR is above 58.50 EUR"],
    [
      { rules: { "price@EUR": "price in EUR / 10" }, lowest: "cost" },
      {},
      "price@EUR 5.21 EUR is below 35.10 EUR",
    ],
  ])("when the bounds are %j and a product has %j, then it is held", (prices, texts, expected) => {
    const said = toldOf({ prices, fills }, { ...both, cost: "30 GBP", list_price: "50 GBP", ...texts });
    expect(said).toMatch(/^held: /);
    expect(said).toContain(expected);
  });

  it("when a price was sent in another currency than the shop's, then a jump of it is seen", () => {
    const euro = definitionOf({ source: { currencies: ["EUR"] } }).definition;
    const options = { fills, prices: { greatestChange: 30 }, sent: { spade: "52.00 EUR" } };
    const asked = (price: string): string =>
      told(outcomesOf(setupOf(euro, options), { ...spade, "price@EUR": price })[0]);
    expect([asked("50.00 EUR"), asked("5.20 EUR")]).toEqual([
      "ready: ",
      expect.stringContaining("Price goes from 52.00 EUR, which was sent last, to 5.20 EUR: 90%"),
    ]);
  });
});

describe("a channel's share of the stock", () => {
  const counted = (quantity: string, stock: NonNullable<Options>["stock"]): string => {
    const setup = setupOf(definition, {
      fills: { title: '"{quantity}"' },
      ...(stock === undefined ? {} : { stock }),
    });
    const [listing] = listingsOf(setup, [{ ...spade, quantity }]);
    return listing === undefined ? "none" : filled(listing, "title");
  };

  it.each([
    ["14", {}, "14"],
    ["14", { heldBack: 2 }, "12"],
    ["1", { heldBack: 2 }, "0"],
    ["15", { share: 50 }, "7"],
    ["15", { heldBack: 5, share: 33 }, "3"],
    ["900", { atMost: 50 }, "50"],
    ["0", { share: 50 }, "0"],
    ["-3", {}, "0"],
  ])(
    "when there are %s and the policy is %j, then the channel is told of %s",
    (quantity, stock, expected) => {
      expect(counted(quantity, stock)).toBe(expected);
    },
  );

  it("when the stock is not known, then nothing is made up", () => {
    expect(counted("", { heldBack: 2 })).toBe("");
  });
});

function price(text: string) {
  return decimal(text) ?? whole(0);
}
