import "reflect-metadata";
import { describe, expect, it } from "vitest";
import { attributeIndex, withAttributes } from "../../src/core/catalogue/attribute-index.js";
import { sentence } from "../../src/workspace/wording.js";
import { attributeNames } from "../../src/core/listing/fill/fill-names.js";
import { shownText } from "../../src/core/values/show.js";
import { channelPolicy, ruledAttributes } from "../../src/workspace/channel-policy.js";
import { ChannelModel } from "../../src/workspace/models/channel-model.js";
import { validate } from "../../src/workspace/validate.js";
import { readYaml } from "../../src/workspace/yaml-file.js";
import { surroundings } from "../kit/evaluate.js";
import { temporaryFolder, write } from "../kit/run.js";

const catalogue = attributeIndex([
  "sku",
  "name",
  "price",
  "sale_price",
  "list_price",
  "cost",
  "quantity",
  "category",
]);

const policyOf = async (text: string) => {
  const yaml = await readYaml(
    write(temporaryFolder(), "channel.yaml", `definition: quay\n${text}`),
    "channel.yaml",
  );
  const { value, findings: wrong } = validate(ChannelModel, yaml.document.toJS(), (path) => yaml.place(path));
  if (wrong.length > 0) return { wrong: wrong.map(sentence) };
  const attributes = withAttributes(catalogue, ruledAttributes(value));
  const policy = channelPolicy(value, yaml, attributes, attributeNames(attributes), surroundings, "GBP");
  return { ...policy, attributes, wrong: policy.findings.map((one) => sentence(one).split("\n")[0]) };
};

describe("what channel.yaml decides", () => {
  it("when it says nothing, then all goes there as it is", async () => {
    expect(await policyOf("")).toMatchObject({
      wrong: [],
      prices: {
        rules: [],
        lowest: undefined,
        highest: undefined,
        sales: "running",
        greatestChange: undefined,
      },
      stock: undefined,
      selection: {
        condition: undefined,
        takesDigital: true,
        hazards: "all",
        countries: [],
        leastReadiness: undefined,
      },
    });
  });

  it("when it says all that can be said, then each is read", async () => {
    const policy = await policyOf(
      [
        "select: quantity > 0",
        "selection:",
        "  digital: no",
        "  hazards: [flammable]",
        "  countries: [GB, IE]",
        "  least_price: 2.50 EUR",
        "  least_readiness: 60",
        "prices:",
        "  rules:",
        "    price: price * 1.1",
        "    price@EUR: price in EUR",
        "  lowest: cost * 1.2",
        "  highest: list_price",
        "  outside: move",
        "  sales: running",
        "  greatest_change: 12.5",
        "stock: { held_back: 2, share: 50, at_most: 9 }",
      ].join("\n"),
    );
    expect(policy.wrong).toEqual([]);
    expect(policy).toMatchObject({
      selection: { takesDigital: false, hazards: ["flammable"], countries: ["GB", "IE"], leastReadiness: 60 },
      prices: { outside: "move", sales: "running", greatestChange: 12.5 },
      stock: { heldBack: 2, share: 50, atMost: 9 },
    });
    if (!("prices" in policy)) throw new Error("no policy");
    expect(policy.prices?.rules.map(({ attribute }) => attribute)).toEqual(["price", "price@EUR"]);
    expect(shownText(policy.selection.leastPrice)).toBe("2.50 EUR");
    // A price that only the rules make is an attribute for fills, too.
    expect(policy.attributes.slot("price@EUR")).toBeDefined();
  });

  it.each([
    ["hazards: no", []],
    ["hazards: yes", "all"],
  ])("when it says %s, then hazards are %j", async (line, hazards) => {
    expect(await policyOf(`selection:\n  ${line}`)).toMatchObject({ selection: { hazards } });
  });

  it("when a bare price is the least, then it is in the shop's currency", async () => {
    const policy = await policyOf("selection: { least_price: 2 }");
    expect("selection" in policy ? shownText(policy.selection.leastPrice) : "").toBe("2.00 GBP");
  });

  it.each([
    ["select: quantity", "yes or no is wanted here, this is a number"],
    ["select: stauts = 1", 'there is no attribute "stauts"'],
    ["prices: { rules: { name: price } }", "prices.rules.name: is a price of the catalogue"],
    ["prices: { rules: { price: quantity } }", "an amount of money is wanted here, this is a number"],
    ["prices: { lowest: price + }", "a value is expected here"],
    ["prices: { outside: perhaps }", "prices.outside: is hold or move"],
    ["prices: { sales: some }", "prices.sales: is one of all, coming, running"],
    ["prices: { greatest_change: -1 }", "prices.greatest_change: is at least 0"],
    ["selection: { countries: [Britain] }", "selection.countries: holds country codes"],
    ["selection: { least_price: cheap }", "selection.least_price: is a price"],
    ["selection: { hazards: 3 }", "selection.hazards: is yes, no, or a list"],
    ["stock: { share: 101 }", "stock.share: is at most 100"],
    ["stock: { held_back: 1.5 }", "stock.held_back: is a whole number"],
    ["stoc: { share: 1 }", '"stoc" is no setting here; nearest: "stock"'],
  ])("when it says %s, then that is told", async (text, expected) => {
    expect((await policyOf(text)).wrong.join("\n")).toContain(expected);
  });
});
