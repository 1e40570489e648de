import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { rowsOf } from "../../../src/core/listing/shape/file-family.js";
import { fillTally } from "../../../src/core/listing/fill/fill-tally.js";
import { sharesOf } from "../../../src/core/listing/readiness/readiness.js";
import { shape } from "../../../src/core/listing/shape/shape.js";
import { sentence } from "../../../src/workspace/wording.js";
import type { Outcome } from "../../../src/core/listing/listing.js";
import { shownText } from "../../../src/core/values/show.js";
import { definitionOf, rowsOf as tableRows } from "../../kit/definition.js";
import { familyOf, outcomesOf, setupOf } from "../../kit/listing.js";

const place = { file: "definition.yaml", line: 1 };
const fields = `
field  | scope | label  | kind  | need     | level
ref    | *     | Ref    | text  | required |
set    | *     | Set    | text  | required | group
title  | *     | Title  | text  | required | group
carry  | *     | Sent by| text  | required | group
stuff  | *     | Stuff  | text  | optional | group
hue    | *     | Hue    | text  | optional | member
price  | *     | Price  | money | required |
`;

type Model = "separate" | "shared-id" | "group-row" | "nested";
type Texts = Readonly<Record<string, string>>;
type Options = Parameters<typeof setupOf>[1] & object;

const setupFor = (model: Model, fills: Texts = {}, options: Options = {}) => {
  const { definition } = definitionOf({
    fields,
    source: {
      crossRules: [],
      roles: { name: "title", price: "price" },
      axes: tableRows("axes.csv", "scope|axes|most_axes|most_members\n*|size|1|20\n"),
      groups: { model, toldApartBy: "title", groupField: "set", place },
    },
  });
  return setupOf(definition, {
    ...options,
    fills: {
      ref: "sku",
      set: "group",
      title: "name",
      carry: '"cart"',
      stuff: "material",
      hue: "color",
      price: "price",
      ...fills,
    },
  });
};

const member = (sku: string, own: Texts = {}): Texts => ({
  ...{ sku, name: "Spade", category: "Tools", price: "9 GBP", group: "G", varies_by: "size", size: sku },
  ...own,
});

const said = (outcomes: readonly Outcome[]): readonly string[] =>
  outcomes.flatMap(({ findings }) =>
    findings.map(
      (finding) => `${finding.severity} ${finding.product ?? ""} ${finding.code} ${sentence(finding)}`,
    ),
  );

const byWeight = { carry: 'if weight > measure(10, "kg") then "pallet" else "parcel"' };
const byHeaviest = { carry: 'if group_greatest(weight) > measure(10, "kg") then "pallet" else "parcel"' };

describe("a field of the group", () => {
  it.each(["group-row", "nested"] as const)(
    "when its fill reads what members of a %s group differ in, then no member's value counts, and the values are told",
    (model) => {
      const members = [member("a", { weight: "2 kg" }), member("b", { weight: "20 kg" })];
      const outcomes = outcomesOf(setupFor(model, byWeight), ...members);
      expect(outcomes.map(({ kind }) => kind)).toEqual(["held", "held"]);
      expect(said(outcomes).join("\n")).toContain("differ in weight (2 kg, 20 kg)");
      // Those that agree, in whatever unit, have one value; so has a group of which one alone says it.
      for (const same of [{ weight: "2000 g" }, {}]) {
        const agreed = outcomesOf(setupFor(model, byWeight), members[0] as Texts, member("b", same));
        expect(said(agreed).filter((one) => one.startsWith("error"))).toEqual([]);
      }
    },
  );

  it("when it is optional, then it is left blank with a warning, and nobody is held", () => {
    const outcomes = outcomesOf(
      setupFor("group-row"),
      member("a", { material: "oak" }),
      member("b", { material: "ash" }),
    );
    expect(outcomes.map(({ kind }) => kind)).toEqual(["ready", "ready"]);
    expect(said(outcomes)[0]).toMatch(/^warning a members-differ Stuff is left blank/);
  });

  it("when its fill looks at all members, then the group's row says what came of it, whoever stands first", () => {
    const weights = fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 2, maxLength: 5 });
    fc.assert(
      fc.property(weights, fc.constantFrom<Model>("group-row", "nested"), (all, model) => {
        const members = all.map((weight, index) => member(`m${index}`, { weight: `${weight} kg` }));
        const setup = setupFor(model, byHeaviest);
        const [family] = shape(outcomesOf(setup, ...members), familyOf(members), setup);
        const field = setup.definition.fields.find(({ code }) => code === "carry");
        const carry =
          field === undefined || family?.group === undefined ? "none" : shownText(family.group.value(field));
        expect(carry).toBe(Math.max(...all) > 10 ? "pallet" : "parcel");
      }),
    );
  });

  it("when members' names begin alike, then the group has what they have in common, and never one's ending", () => {
    const setup = setupFor("group-row");
    const members = [
      member("a", { name: "Cedar hive, 10 frames" }),
      member("b", { name: "Cedar hive, 12 frames" }),
    ];
    const [family] = shape(outcomesOf(setup, ...members), familyOf(members), setup);
    const title = setup.definition.fields.find(({ code }) => code === "title");
    expect(title && shownText(family?.group?.value(title))).toBe("Cedar hive");
  });

  it("when each member shows its own, then it is told once that the channel takes one of them", () => {
    const outcomes = outcomesOf(
      setupFor("shared-id"),
      member("a", { material: "oak" }),
      member("b", { material: "ash" }),
    );
    expect(outcomes.map(({ kind }) => kind)).toEqual(["ready", "ready"]);
    expect(said(outcomes)).toEqual([
      expect.stringMatching(/^warning a members-apart Stuff .*"oak" \(a\), "ash" \(b\)/),
    ]);
  });
});

describe("members that a channel shows apart", () => {
  const jars = ["gold S", "gold M", "black S"].map((text) => {
    const [color = "", size = ""] = text.split(" ");
    return member(text.replace(" ", "-"), { color, size, varies_by: "color\u001esize", name: "Jar" });
  });
  const withAxes = { title: '"{name} {join(axis_values, ", ")}"' };

  it.each(["split", "alone"] as const)(
    "when they are %s, then their fills still know what sets them apart",
    (regrouping) => {
      const setup = setupFor("shared-id", withAxes, { regrouping });
      const rows = shape(outcomesOf(setup, ...jars), familyOf(jars), setup).flatMap(rowsOf);
      const title = setup.definition.fields.find(({ code }) => code === "title");
      expect(rows.map((row) => title && shownText(row.value(title)))).toEqual([
        "Jar gold, S",
        "Jar gold, M",
        "Jar black, S",
      ]);
    },
  );

  it("when they are split under group rows, then each group's title has what it was split by", () => {
    const setup = setupFor("group-row", withAxes, { regrouping: "split" });
    const shaped = shape(outcomesOf(setup, ...jars), familyOf(jars), setup);
    const title = setup.definition.fields.find(({ code }) => code === "title");
    expect(shaped[0]?.group && title && shownText(shaped[0].group.value(title))).toBe("Jar gold");
  });

  it.each(["split", "alone"] as const)(
    "when they are %s under one title, then that is an error",
    (regrouping) => {
      const outcomes = outcomesOf(setupFor("shared-id", {}, { regrouping }), ...jars);
      expect(said(outcomes).some((one) => one.startsWith("error") && one.includes("titles-alike"))).toBe(
        true,
      );
      expect(outcomes.filter(({ kind }) => kind === "ready").length).toBeLessThan(jars.length);
    },
  );

  it("when values differ by a sign alone, then the groups that they are split into are two", () => {
    const lamps = ["A", "A+"].flatMap((color) =>
      ["S", "M"].map((size) =>
        member(`${color}${size}`, { color, size, varies_by: "color\u001esize", name: "Lamp" }),
      ),
    );
    const setup = setupFor("shared-id", withAxes, { regrouping: "split" });
    const groups = outcomesOf(setup, ...lamps).map((outcome) =>
      outcome.kind === "ready" ? outcome.listing.product.group : "held",
    );
    expect(new Set(groups).size).toBe(2);
    expect(groups).not.toContain("held");
  });
});

describe("titles", () => {
  it("when a product has no name, then the brand alone is no title, and a fill that needs the name is blank", () => {
    const nameless = { ...member("a", { brand: "Tarnbeck", group: "", varies_by: "" }), name: "" };
    const loose = outcomesOf(setupFor("separate", { title: '"{brand} {name}"' }), nameless);
    expect(said(loose).join()).toContain("error a brand-as-title");
    const careful = outcomesOf(
      setupFor("separate", { title: 'if name is given then "{brand} {name}"' }),
      nameless,
    );
    expect(said(careful).join()).toContain("error a missing-required Title");
    const called = outcomesOf(setupFor("separate", { title: "name" }), { ...nameless, name: "Tarnbeck" });
    expect(said(called).join()).not.toContain("brand-as-title");
  });
});

describe("what is asked of a product without a group", () => {
  it("when the reference to a group is required, then it is asked of members only", () => {
    const alone = { ...member("a"), group: "", varies_by: "" };
    const [one] = outcomesOf(setupFor("shared-id"), alone);
    expect(one?.kind).toBe("ready");
    const [first] = outcomesOf(setupFor("shared-id", { set: "blank" }), member("a"), member("b"));
    expect(first?.kind).toBe("held");
  });
});

describe("what fills, readiness and check count", () => {
  const text = fc.constantFrom("", "x", "far too long a text for any such field to take");
  const product = fc.record({
    name: text,
    price: fc.constantFrom("", "9 GBP", "9 EUR", "600 GBP", "cheap"),
    material: text,
  });

  it("when any products are counted, then what is required and there is the same number for fills and readiness, and missing only where held", () => {
    const { definition } = definitionOf({ source: { crossRules: [] } });
    fc.assert(
      fc.property(fc.array(product, { minLength: 1, maxLength: 6 }), (all) => {
        const setup = setupOf(definition, { fills: { title: "name", price: "price" } });
        const tally = fillTally();
        let [asked, filled] = [0, 0];
        let held = 0;
        all.forEach((texts, index) => {
          for (const outcome of outcomesOf(setup, { ...texts, sku: `s-${index}`, category: "Tools" })) {
            if (outcome.kind !== "ready" && outcome.kind !== "held") continue;
            tally.take(outcome.listing, setup, outcome.findings);
            const { required } = sharesOf(outcome.listing, definition, outcome.findings);
            [asked, filled] = [asked + required.asked, filled + required.filled];
            if (required.filled < required.asked) {
              held++;
              expect(outcome.kind).toBe("held");
            }
          }
        });
        const rows = tally.rows();
        const sum = (key: "required" | "missing"): number => rows.reduce((total, row) => total + row[key], 0);
        expect([sum("required"), sum("required") - sum("missing")]).toEqual([asked, filled]);
        expect(sum("missing") > 0).toBe(held > 0);
      }),
    );
  });
});
