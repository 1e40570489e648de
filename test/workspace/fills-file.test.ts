import { describe, expect, it } from "vitest";
import { attributeIndex } from "../../src/core/catalogue/attribute-index.js";
import { sentence } from "../../src/workspace/wording.js";
import { fillNames } from "../../src/core/listing/fill/fill-names.js";
import { loadFills } from "../../src/workspace/fills-file.js";
import { definitionOf } from "../kit/definition.js";
import { surroundings } from "../kit/evaluate.js";
import { temporaryFolder, write } from "../kit/run.js";

const { definition } = definitionOf();
const names = fillNames(attributeIndex(["sku", "name", "price", "color", "weight"]), definition);

const load = async (text: string, lists: Readonly<Record<string, string>> = {}) => {
  const root = temporaryFolder();
  for (const [file, content] of Object.entries(lists)) write(root, file, content);
  const path = write(root, "fills.yaml", text);
  return loadFills(path, "fills.yaml", { root, definition, names, surroundings });
};

const told = async (text: string, lists?: Readonly<Record<string, string>>): Promise<readonly string[]> =>
  (await load(text, lists)).findings.map(
    (finding) =>
      `${finding.place?.line ?? ""}:${finding.place?.position ?? ""} ${sentence(finding).split("\n")[0] ?? ""}`,
  );

describe("fills.yaml", () => {
  it("when it has blocks of each kind, then each is read with what it speaks of", async () => {
    const { blocks, findings } = await load(
      [
        "# ours",
        "all:",
        "  title: name",
        "our_categories:",
        "  Tools > Spades:",
        '    title: "{name}, spade"',
        "channel_categories:",
        "  Garden > Tools:",
        "    heft: weight",
        "  g.t.s:",
        "    hue: blank",
        "products:",
        "  A-1, A-2:",
        "    title: usual",
        '  "@lists/few.txt":',
        "    ref: sku",
        "",
      ].join("\n"),
      { "lists/few.txt": "B-1\r\n\r\n B-2 \n" },
    );
    expect(findings).toEqual([]);
    expect(
      blocks.map((block) => {
        const fields = block.fills.map(({ field }) => field.code).join(" ");
        switch (block.scope) {
          case "all":
            return `all: ${fields}`;
          case "our-category":
            return `${block.path}: ${fields}`;
          case "channel-category":
            return `${block.code}: ${fields}`;
          case "products":
            return `${[...block.skus].join("+")}: ${fields}`;
        }
      }),
    ).toEqual([
      "all: title",
      "Tools > Spades: title",
      "g.t: heft",
      "g.t.s: hue",
      "A-1+A-2: title",
      "B-1+B-2: ref",
    ]);
  });

  it("when it is missing or empty, then there are no fills and nothing is wrong", async () => {
    expect(await load("")).toEqual({ blocks: [], findings: [], advice: [] });
    expect(await load("all:\n")).toMatchObject({ findings: [] });
    const nowhere = { root: "", definition, names, surroundings };
    expect(await loadFills("/nowhere/fills.yaml", "fills.yaml", nowhere)).toEqual({
      blocks: [],
      findings: [],
      advice: [],
    });
  });

  it("when many lines are wrong, then each is told with its line and position", async () => {
    expect(
      await told(
        [
          "all:",
          "  titel: name",
          "  title: nmae",
          "  hue: [a, b]",
          "  heft: weight in cmm",
          "  price: price + 1",
          '  ref: field("titel")',
          "chanel_categories:",
          "  x: y",
          "channel_categories:",
          "  Garden > Toolz:",
          "    title: name",
          "products:",
          '  "@none.txt":',
          "    title: name",
          '  "@/etc/hosts":',
          "    title: name",
        ].join("\n"),
      ),
    ).toEqual([
      '2:3 "titel" is no field of the channel; nearest: "title"',
      '3:10 there is no attribute "nmae"; nearest: "name"',
      '4:3 hue: an expression is wanted, such as name or "{brand} {name}"; to leave the field blank write blank',
      '5:19 "cmm" is no unit or currency that is known; nearest: cm',
      '6:10 "+" of an amount of money and a number; write money(2.50, "GBP") for an amount',
      '7:8 the channel has no field "titel"; nearest: "title"',
      '8:1 "chanel_categories" is no setting here; nearest: "channel_categories"',
      '11:3 "Garden > Toolz" is no category of the channel; nearest: "Garden > Tools", "Garden"',
      "14:3 @none.txt: there is no file none.txt with one SKU a line",
      "16:3 @/etc/hosts: the list lies outside the workspace; name a file in its folder",
    ]);
  });

  it("when a fill is folded over lines, then it reads as one, and its faults have the places where they stand", async () => {
    const folded = (fill: string) =>
      `all:\n  title: >-\n    if color is given\n    then ${fill}\n    else name\n  hue: color\n`;
    expect(await told(folded('"{name},\n      {color}"'))).toEqual([]);
    expect(await told(folded("nmae"))).toEqual(['4:10 there is no attribute "nmae"; nearest: "name"']);
    expect(await told("all:\n  title: |\n    fit(name,\n      4O)\n")).toEqual([
      expect.stringMatching(/^4:8 /),
    ]);
  });

  it("when fills wait for each other, then the circle is told where it closes", async () => {
    expect(await told('all:\n  title: field("ref")\n  ref: \'"{field("title")}-{sku}"\'\n')).toEqual([
      expect.stringContaining("fills wait for each other: title → ref → title"),
    ]);
  });

  it("when a nearer block breaks the circle of all, then that of all is told still: other products have it", async () => {
    expect(
      await told(
        'all:\n  title: field("ref")\n  ref: field("title")\nour_categories:\n  Tools:\n    ref: sku\n',
      ),
    ).toHaveLength(1);
  });
});
