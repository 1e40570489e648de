import { describe, expect, it } from "vitest";
import { demoShop } from "../kit/demo-shop.js";
import { copyOf, jsonLines, lexicant } from "../kit/run.js";

const shop = demoShop();
const explain = (...args: readonly string[]) => lexicant(shop, ["explain", ...args]);

describe("how a value came about", () => {
  it("when a field is explained, then its fill, its steps, each attribute's cell and the rule are shown", () => {
    const { exit, out } = explain("BC-1301-WHITE-M", "merrowgate", "item_title");
    expect(exit).toBe(0);
    expect(out).toContain("value  Orchard Bee Suit, Sallowfield, white, M");
    expect(out).toMatch(/^fill {2}if name is given then fit_before\("\{name\}, \{brand\}"/m);
    expect(out).toContain("channels/merrowgate/fills.yaml:6:15");
    expect(out).toMatch(/^color +white +shop +shop-export\.csv, row 51, column "Colour"$/m);
    expect(out).toMatch(/^ *"\{color\}\{, size\}" +white, M$/m);
    expect(out).toMatch(/rule {3}required; text, at least 4 bytes, at most 140 bytes/);
    expect(out).toContain("asked by shipped definitions/merrowgate/fields.csv, row 10");
  });

  it("when a nearer fill stands in for another, or the lexicon changed the word, then both are shown", () => {
    const hue = explain("BC-1102-MOSS", "merrowgate", "shade_family").out;
    expect(hue).toContain("value  green");
    expect(hue).toMatch(/gives moss green, which the channel has as the value above/);
    expect(explain("BC-3601-45", "merrowgate", "power_source").out).toMatch(/^fill {2}"battery"/m);
  });

  it("when prices are the channel's own, then that is said", () => {
    expect(explain("BC-1402", "merrowgate", "sell_price").out).toMatch(
      /^price +\S+ GBP .*made by channel\.yaml$/m,
    );
  });

  it("when a field is blank, then the sources that could give it are named, and what to type", () => {
    const { exit, out } = explain("BC-1106-GREY", "fjordhandel", "material");
    expect(exit).toBe(0);
    expect(out).toContain("value  blank");
    expect(out).toMatch(
      /material: source shop-export reads it from Material \(sources\/shop-export\.yaml:\d+:\d+\)/,
    );
    expect(out).toContain("→ lexicant set BC-1106-GREY material=…");
    const own = copyOf(shop);
    lexicant(own, ["set", "BC-1106-GREY", "material=polystyrene"]);
    expect(lexicant(own, ["explain", "BC-1106-GREY", "fjordhandel", "material"]).out).toContain("edit of ");
    expect(lexicant(own, ["explain", "BC-1106-GREEN", "merrowgate", "stuff"]).out).toContain(
      'a member of its group has it: BC-1106-GREY says "polystyrene"',
    );
    // Where the channel takes the field from the group, what one member says and no other denies is the group's.
    const group = lexicant(own, ["explain", "BC-1106-GREEN", "fjordhandel", "material"]).out;
    expect(group).toMatch(/^value {2}plastic$/m);
    expect(group).toMatch(/^material +polystyrene +edits +edit of /m);
  });
});

describe("what is to be done for a product", () => {
  it("when it is held, then each step is told in order, with what to open or type", () => {
    const { exit, out } = explain("BC-5203", "gavelstead");
    expect(exit).toBe(0);
    expect(out).toMatch(/^Gavelstead 26\.2: held, \d+% of what is required/m);
    expect(out).toMatch(/^ 1\. Weight of the parcel .* is missing and required/m);
    expect(out.match(/→ lexicant set BC-5203 package_weight=…/g)?.length).toBeGreaterThan(1);
    const steps = jsonLines(explain("BC-5203", "gavelstead", "--json").out)[0]?.["acts"] as unknown[];
    expect(steps.length).toBe(out.match(/^ *\d+\. /gm)?.length);
  });

  it("when each step is done, then the product is ready", () => {
    const own = copyOf(shop);
    lexicant(own, ["set", "BC-5203", "package_weight=0.05 kg"]);
    expect(lexicant(own, ["explain", "BC-5203", "gavelstead"]).out).toMatch(
      /: ready, 100% of what is required/,
    );
  });

  it("when it has no place or is left out, then that is the answer", () => {
    expect(explain("BC-9101", "lanternlist").out).toContain("→ lexicant place lanternlist");
    const { exit, out } = explain("BC-7201", "fjordhandel");
    expect([exit, out]).toEqual([0, expect.stringMatching(/left out/)]);
  });

  it("when SKU, channel or field is mistyped, then the nearest is named", () => {
    expect(explain("BC-14O2", "merrowgate").err).toContain('nearest: "BC-1402"');
    expect(explain("BC-1402", "merowgate").err).toContain('nearest: "merrowgate"');
    expect(explain("BC-1402", "merrowgate", "item_titel").err).toContain('nearest: "item_title"');
  });
});
