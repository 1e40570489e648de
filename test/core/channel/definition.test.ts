import { describe, expect, it } from "vitest";
import { categoryRules } from "../../../src/core/channel/category-rules.js";
import { sentence } from "../../../src/workspace/wording.js";
import { definitionOf } from "../../kit/definition.js";

const { definition, findings } = definitionOf();
const rulesAt = (code: string) => {
  const category = definition.tree.find(code);
  if (category === undefined) throw new Error(`no category ${code}`);
  return new Map(categoryRules(definition, category).fields.map((rule) => [rule.field.code as string, rule]));
};

describe("a definition", () => {
  it("when nothing is wrong with it, then it has no findings", () => expect(findings).toEqual([]));

  it("when a choice's first row names its list, then it holds where further rows name none; without one it is refused", () => {
    const fields = (lists: readonly string[]): string =>
      [
        "field | scope | label | kind | need | values | max_length",
        "ref | * | Ref | text | required | | 10",
        "title | * | Title | text | required | | 20",
        "price | * | Price | money | required | |",
        "was | * | Was | money | optional | |",
        `hue | g.t | Hue | choice | optional | ${lists[0] ?? ""} |`,
        `hue | w |  |  | required | ${lists[1] ?? ""} |`,
      ].join("\n");
    const first = definitionOf({ fields: fields(["hue"]) });
    expect(first.findings).toEqual([]);
    const wear = first.definition.tree.find("w.t");
    if (wear === undefined) throw new Error("no category");
    const hue = categoryRules(first.definition, wear).fields.find(({ field }) => field.code === "hue");
    expect([hue?.need, hue?.limits.values?.name]).toEqual(["required", "hue"]);
    expect(definitionOf({ fields: fields(["", "hue"]) }).findings.map(sentence)).toEqual([
      expect.stringContaining('"hue" is a choice and has no list of values in "g.t"'),
    ]);
    expect(definitionOf({ fields: fields(["hue", "hue"]) }).findings).toEqual([]);
  });

  it("when a category is named by path in another case, then it is found; a leaf alone is not", () => {
    expect(definition.tree.named("garden>TOOLS > spades")?.code).toBe("g.t.s");
    expect(definition.tree.named("Spades")).toBeUndefined();
    expect(definition.tree.find("g.t.s")?.path).toBe("Garden > Tools > Spades");
  });

  it("when scopes lie within each other, then the nearest decides, and conditions of nearer scopes add to it", () => {
    expect(rulesAt("g").get("heft")?.need).toBe("optional");
    expect(rulesAt("g.t").get("heft")?.need).toBe("recommended");
    expect(
      rulesAt("g.t.s")
        .get("heft")
        ?.conditionalNeeds.map(({ need }) => need),
    ).toEqual(["required"]);
    expect(rulesAt("w.t").get("hue")?.need).toBe("required");
    expect(rulesAt("w.t").get("hue")?.limits.values?.name).toBe("hue");
  });

  it("when a finding speaks of a need, then it names the row that decides it, be it of the category above", () => {
    const placeOf = (code: string, field: string) => rulesAt(code).get(field)?.place.row;
    expect([placeOf("g", "heft"), placeOf("g.t", "heft"), placeOf("w", "hue")]).toEqual([8, 9, 7]);
    expect([placeOf("g", "ref"), placeOf("w.t", "hue")]).toEqual([2, 7]);
  });

  it("when a category has no rows of its own, then it has the very rules of the one above it, and is itself", () => {
    const [above, below] = [definition.tree.find("w"), definition.tree.find("w.t")];
    if (above === undefined || below === undefined) throw new Error("no such category");
    expect(categoryRules(definition, below).fields).toBe(categoryRules(definition, above).fields);
    expect(categoryRules(definition, below).category).toBe(below);
  });

  it("when a value is an own value, a label or a synonym in any case, then it is matched; else not", () => {
    const hue = rulesAt("g").get("hue")?.limits.values;
    expect([hue?.match("green"), hue?.match("FOREST"), hue?.match("Red "), hue?.match("blue")]).toEqual([
      "green",
      "green",
      "red",
      undefined,
    ]);
  });
});

describe("a faulty definition tells all its faults in one go", () => {
  const said = (parts: Parameters<typeof definitionOf>[0]): string =>
    definitionOf(parts)
      .findings.map((finding) => `${finding.place?.file}:${finding.place?.row ?? ""} ${sentence(finding)}`)
      .join("\n");

  it("when the tree has a double code, an orphan and a circle, then each is told by row", () => {
    const text = said({
      categories: "code|parent|name\na||A\na||B\nb|nowhere|C\nc|d|D\nd|c|E\ng||G\ng.t|g|H\ng.t.s|g.t|S\nw||W",
    });
    expect(text).toContain('categories.csv:3 two categories have the code "a"');
    expect(text).toContain('categories.csv:4 the parent "nowhere" of "b" does not exist');
    expect(text).toContain("categories stand in a circle: c > d > c");
  });

  it("when field rows are wrong in kind, need, scope, unit, list, pattern, condition and number, then each is told", () => {
    const text = said({
      fields: [
        "field|scope|kind|need|when|unit|values|pattern|max",
        "ref|*||required|||||",
        "title|*|texd|must|||||",
        "price|g.x|money|required|prise > 3||||ten",
        "was|*|money||||missing||",
        "heft|*|measure|||stone|||",
        "hue|*|text|||||(|",
        "hue|*|text|required|||||",
        "hue|*|text|optional|||||",
      ].join("\n"),
    });
    for (const part of [
      'fields.csv:2 the field "ref" has no kind in its first row',
      'fields.csv:3 kind is "texd"',
      'fields.csv:3 need is "must"',
      'fields.csv:4 "g.x" is no category of the channel; nearest:',
      'fields.csv:4 there is no field "prise"; nearest: "price"',
      'fields.csv:4 max is "ten"',
      'fields.csv:5 the value list "values/missing.csv" does not exist',
      'fields.csv:6 unit is "stone"',
      'fields.csv:7 the pattern "(" cannot be used',
      'fields.csv:9 two rows decide the need of "hue" in "*"; the first is row 8',
    ])
      expect(text).toContain(part);
  });

  it("when a value list is empty and a layout or rule names what does not exist, then each is told", () => {
    const place = { file: "definition.yaml" };
    const text = said({
      source: {
        valueLists: [{ name: "hue", place: { file: "values/hue.csv" }, values: [] }],
        layouts: [{ name: "t", format: "tsv", file: "t.tsv", columns: ["reff"], place }],
        identifiedBy: "sku",
      },
    });
    expect(text).toContain('the value list "hue" has no values');
    expect(text).toContain('"reff" is no field of the channel; nearest: "ref"');
    expect(text).toContain('"sku" is no field of the channel');
  });

  const layout = {
    name: "t",
    format: "csv",
    file: "t.csv",
    columns: ["ref"],
    place: { file: "definition.yaml" },
  };

  it.each([
    [
      { columns: [{ name: "a", field: "price", part: "curency" }] },
      'columns, a: part: is one of whole, amount, currency, unit; nearest: "currency"',
    ],
    [
      { columns: [{ name: "a", field: "price", repeat: "three" }] },
      "columns, a: repeat: is a whole number from 1 to 200",
    ],
    [
      { columns: [{ name: "a", field: "price", repeat: 0 }] },
      "columns, a: repeat: is a whole number from 1 to 200",
    ],
    [{ columns: [{ name: "a", feild: "price" }] }, 'columns, a: feild: is no setting here; nearest: "field"'],
    [
      { columns: [{ name: "a", says: "acton" }] },
      'columns, a: says: is one of action, row-kind, nothing; nearest: "action"',
    ],
    [{ columns: [{ field: "price" }] }, "columns, one without a name: name: is the column's name"],
    [{ columns: ["prise"] }, '"prise" is no field of the channel; nearest: "price"'],
    [{ settings: { quote: "allways" } }, 'settings.quote: is one of needed, always; nearest: "always"'],
    [{ settings: { seperator: ";" } }, '"settings.seperator" is no setting here; nearest: "separator"'],
    [
      { settings: { head: ["lables"] } },
      'settings.head: has rows that are codes, labels or lists of texts; nearest: "labels"',
    ],
    [{ settings: { head: "labels" } }, "settings.head: is a list of rows"],
    [{ format: "xlsx", settings: { header_row: "four" } }, "settings.header_row: is a whole number from 1"],
    [
      { format: "xml", settings: { paths: { reff: "@id" } } },
      'settings.paths: names a column that is not there: "reff"; nearest: "ref"',
    ],
    [
      {
        format: "rss",
        item: { title: "title", link: "ref", description: "title", guid: "ref", titel: "title" },
      },
      '"item.titel" is no setting here; nearest: "title"',
    ],
    [
      { purposes: ["stock"] },
      "layouts, t: purposes: the channel takes no stock files; its purposes are full",
    ],
    [{ purposes: ["stock"] }, "no layout is for full files, which the channel takes"],
  ])("when a layout has %j, then what is wrong with it is told: %s", (own, expected) => {
    expect(said({ source: { layouts: [{ ...layout, ...own } as never] } })).toContain(expected);
  });

  it("when a layout says all that it can, then nothing is wrong with it", () => {
    const columns = [
      "ref",
      { name: "pounds", field: "price", part: "amount" },
      { name: "todo", says: "action" },
      { name: "tint", field: "hue", repeat: 3, joined_by: "/" },
    ];
    const whole = {
      ...{
        purposes: ["full"],
        file_limits: { rows: 5 },
        settings: { head: ["labels", "codes", ["a", "b"]], quote: "always" },
      },
      columns,
    };
    expect(said({ source: { layouts: [{ ...layout, ...whole } as never] } })).toBe("");
  });
});
