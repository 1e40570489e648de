import { describe, expect, it } from "vitest";
import { fillCircles } from "../../../src/core/listing/fill/fill-circles.js";
import { fillTally } from "../../../src/core/listing/fill/fill-tally.js";
import { definitionOf } from "../../kit/definition.js";
import { filled, filledAs, listingsOf, outcomesOf, setupOf, told } from "../../kit/listing.js";

const { definition } = definitionOf();

const spade = {
  sku: "spade",
  name: "Border Spade",
  category: "Tools > Spades",
  price: "44.50 GBP",
  weight: "2.1 kg",
};

const inTools = { scope: "our-category", path: "Tools" } as const;
const inSpades = { scope: "our-category", path: "Tools > Spades" } as const;
const inGarden = { scope: "channel-category", code: "g.t" } as const;

describe("the nearest fill", () => {
  it.each([
    ["all", [], "Border Spade"],
    ["one of our categories", [{ ...inTools, texts: { title: '"a tool"' } }], "a tool"],
    [
      "a deeper one of ours, whatever the order in the file",
      [
        { ...inSpades, texts: { title: '"a spade"' } },
        { ...inTools, texts: { title: '"a tool"' } },
      ],
      "a spade",
    ],
    [
      "one of the channel's categories over all of ours",
      [
        { ...inGarden, texts: { title: '"for the garden"' } },
        { ...inSpades, texts: { title: '"a spade"' } },
      ],
      "for the garden",
    ],
    [
      "a product that is named over all",
      [
        { scope: "products" as const, skus: new Set(["spade"]), texts: { title: '"this very one"' } },
        { ...inGarden, texts: { title: '"for the garden"' } },
      ],
      "this very one",
    ],
    [
      "not a product of another name",
      [{ scope: "products" as const, skus: new Set(["fork"]), texts: { title: '"another"' } }],
      "Border Spade",
    ],
    [
      "not a category beside it",
      [{ scope: "our-category" as const, path: "Tool", texts: { title: '"x"' } }],
      "Border Spade",
    ],
  ])("when it is that of %s, then it wins", (_, blocks, expected) => {
    expect(filledAs(setupOf(definition, { blocks }), spade, "title")).toBe(expected);
  });

  it("when it says usual, then that is what the next farther one gives, and so on outwards", () => {
    const setup = setupOf(definition, {
      fills: { title: "name" },
      blocks: [
        { ...inTools, texts: { title: '"{usual}, tool"' } },
        { ...inSpades, texts: { title: '"{usual}!"' } },
      ],
    });
    expect(filledAs(setup, spade, "title")).toBe("Border Spade, tool!");
  });

  it("when nothing lies below it, then usual is blank", () => {
    expect(filledAs(setupOf(definition, { fills: { title: 'usual or "none"' } }), spade, "title")).toBe(
      "none",
    );
  });
});

describe("what fills can ask", () => {
  it("when a fill asks another field, then it sees the value as the field takes it", () => {
    const setup = setupOf(definition, {
      fills: { title: '"weighs {field("heft")}"', heft: "weight" },
    });
    expect(filledAs(setup, { ...spade, weight: "2100 g" }, "title")).toBe("weighs 2.1 kg");
  });

  it("when a fill asks the field that the placement fills, then it sees the category's path", () => {
    const placed = definitionOf({ source: { categoryField: "hue" } }).definition;
    const setup = setupOf(placed, { fills: { title: 'leaf(field("hue"))', hue: '"green"' } });
    expect([filledAs(setup, spade, "hue"), filledAs(setup, spade, "title")]).toEqual([
      "Garden > Tools > Spades",
      "Spades",
    ]);
  });

  it("when a fill asks for the most allowed, then it is the field's own limit in that category", () => {
    const setup = setupOf(definition, {
      fills: { title: "fit(name, most_allowed)", shots: "take(images, most_allowed)" },
    });
    const long = {
      ...spade,
      name: "Border Spade with an ash handle",
      images: "https://a.example/1\u001ehttps://a.example/2",
    };
    expect(filledAs(setup, long, "title")).toBe("Border Spade with an");
  });

  it("when a member has no pictures, then the group's own serve, and the channel's first goes before all", () => {
    const setup = setupOf(definition, {
      fills: { shots: "take(picture_list(first_image, images, group_images), most_allowed)" },
    });
    const shotsOf = (member: Record<string, string>): string => {
      const [listing] = listingsOf(setup, [{ ...spade, ...member }], {
        record: { sku: "", images: "https://a.example/group.jpg" },
      });
      return listing === undefined ? "" : filled(listing, "shots");
    };
    expect(shotsOf({})).toBe("https://a.example/group.jpg");
    expect(shotsOf({ first_image: "http://a.example/first.jpg?w=90" })).toBe(
      "https://a.example/first.jpg, https://a.example/group.jpg",
    );
    expect(shotsOf({ images: "https://a.example/own.jpg" })).toBe(
      "https://a.example/own.jpg, https://a.example/group.jpg",
    );
  });

  it("when the group has no record, then the pictures of all its members are the group's", () => {
    const setup = setupOf(definition, { fills: { shots: "group_images" } });
    const listings = listingsOf(setup, [
      { ...spade, sku: "a", images: "https://a.example/a.jpg" },
      { ...spade, sku: "b", images: "https://a.example/b.jpg" },
    ]);
    expect(listings.map((listing) => filled(listing, "shots"))).toEqual(
      Array<string>(2).fill("https://a.example/a.jpg, https://a.example/b.jpg"),
    );
  });

  it("when a title names what a member differs in, then members are told apart", () => {
    const setup = setupOf(definition, {
      fills: { title: 'fit_before(name, join(axis_values, " "), most_allowed)' },
    });
    const outcomes = outcomesOf(
      setup,
      ...["green", "red"].map((color) => ({
        ...spade,
        sku: color,
        name: "Border Spade of ash and steel",
        varies_by: "color",
        color,
      })),
    );
    expect(outcomes.map(({ kind }) => kind)).toEqual(["ready", "ready"]);
  });
});

describe("fills that wait for each other", () => {
  it("when two ask each other, then the circle is found before any product is", () => {
    const setup = setupOf(definition, {
      fills: { title: 'field("ref")', ref: 'field("title") or sku' },
    });
    expect(fillCircles(setup.fills).map(({ fields }) => fields.join(" "))).toEqual(["ref title ref"]);
  });

  it("when the circle closes only in one category, then it is told there at the latest, on the product", () => {
    const setup = setupOf(definition, {
      fills: { title: 'field("ref")' },
      blocks: [{ ...inSpades, texts: { ref: 'field("title")' } }],
    });
    expect(told(outcomesOf(setup, spade)[0])).toContain("fills wait for each other");
  });

  it("when a nearer fill uses the usual one that asks it, then that is a circle as well", () => {
    const setup = setupOf(definition, {
      fills: { title: 'field("ref")', ref: "sku" },
      blocks: [{ ...inSpades, texts: { ref: '"{field("title")}"' } }],
    });
    expect(fillCircles(setup.fills)).toHaveLength(1);
  });
});

describe("what could not be worked out", () => {
  it("when a required field waits for it, then the listing is held and the reason told", () => {
    const setup = setupOf(definition, { fills: { price: "price in SEK" } });
    expect(told(outcomesOf(setup, spade)[0])).toMatch(
      /^held: Price could not be converted: there is no rate from GBP to SEK/,
    );
  });

  it("when the field has a value all the same, then it is a warning and the listing goes out", () => {
    const setup = setupOf(definition, { fills: { title: '"{name} {price in SEK}"' } });
    expect(told(outcomesOf(setup, spade)[0])).toMatch(/^ready: Title could not be converted/);
  });
});

describe("a field of several values", () => {
  const several = definitionOf({
    fields: `field | scope | label | kind | list | need | values
ref   | *     | Ref   | text   |      | required |
hues  | *     | Hues  | choice | yes  | optional | hue`,
    source: {
      groups: { model: "separate", toldApartBy: "ref", groupField: undefined, place: { file: "" } },
      crossRules: [],
      layouts: [],
    },
  }).definition;

  it.each([
    ["green / red", "green, red"],
    ["moss and RED, green", "green, red"],
    ["green", "green"],
  ])("when our term is %s, then its parts are taken apart", (color, expected) => {
    expect(filledAs(setupOf(several, { fills: { hues: "color" } }), { ...spade, color }, "hues")).toBe(
      expected,
    );
  });

  it("when one of the parts is unknown, then the whole term is told", () => {
    expect(
      told(
        outcomesOf(setupOf(several, { fills: { hues: "color" } }), { ...spade, color: "green / lilac" })[0],
      ),
    ).toContain('"green / lilac" is not a value of Hues');
  });
});

describe("how fills fare", () => {
  it("when listings are counted, then each fill of a field has its own count of filled, blank and wrong", () => {
    const setup = setupOf(definition, {
      fills: { hue: "color", title: "blank" },
      blocks: [{ ...inSpades, texts: { title: "name" } }],
    });
    const tally = fillTally();
    for (const texts of [
      { ...spade, color: "green" },
      { ...spade, sku: "b", color: "lilac" },
      { ...spade, sku: "c", category: "Tools" },
    ])
      outcomesOf(setup, texts).forEach((outcome) => {
        if (outcome.kind === "ready" || outcome.kind === "held")
          tally.take(outcome.listing, setup, outcome.findings);
      });
    const rows = tally
      .rows()
      .map(({ field, listings, required, filled: full, blank, missing, wrong }) =>
        [field.code, listings, required, full, blank, missing, wrong].join(" "),
      );
    expect(rows).toContain("hue 3 0 1 2 0 1");
    expect(rows).toContain("title 2 2 2 0 0 0");
    expect(rows).toContain("title 1 1 0 1 1 0");
  });
});
