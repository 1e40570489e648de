import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sentence } from "../../../src/workspace/wording.js";
import { checkAnswer, type AskingField } from "../../../src/core/gaps/check-answer.js";
import { gapCollector, type Gaps } from "../../../src/core/gaps/gap-collector.js";
import { readAsker, readTarget, targetKey, type Target } from "../../../src/core/gaps/question.js";
import {
  isGapSheet,
  readGapSheet,
  type SheetAnswer,
  type SheetRow,
} from "../../../src/core/gaps/read-sheet.js";
import { factsText, readFacts, readMark, readRow, rowText } from "../../../src/core/gaps/sheet-marks.js";
import { LIST_SEPARATOR } from "../../../src/core/catalogue/record.js";
import type { ChannelSetup } from "../../../src/core/listing/channel-setup.js";
import type { FormSheet } from "../../../src/core/gaps/form.js";
import { gapGrid } from "../../../src/core/gaps/gap-grid.js";
import { definitionOf } from "../../kit/definition.js";
import { familyOf, listingsOf, outcomesOf, setupOf } from "../../kit/listing.js";

const definition = definitionOf({
  fields: `
field | scope | label  | kind    | list | need     | unit | max_length | max_items | values | fill | example
ref   | *     | Ref    | text    |      | required |      | 20         |           |        |      |
title | *     | Title  | text    |      | required |      | 12         |           |        |      | Border spade
hue   | *     | Hue    | choice  |      | required |      |            |           | hue    |      |
stuff | *     | Stuff  | text    |      | required |      |            |           |        |      | oak
heft  | *     | Heft   | measure |      | required | kg   |            |           |        |      | 1.4 kg
marks | *     | Marks  | text    | yes  | required |      | 10         | 2         |        |      |
`,
  source: { crossRules: [], roles: {} },
}).definition;

const stall = setupOf(definition, { fills: { stuff: "material", marks: "blank", heft: "weight" } });

const spade = (sku: string, texts: Readonly<Record<string, string>> = {}) => ({
  sku,
  name: "Spade",
  category: "Tools",
  color: "green",
  material: "ash",
  weight: "2 kg",
  ...texts,
});

const without = (texts: Readonly<Record<string, string>>, attribute: string) =>
  Object.fromEntries(Object.entries(texts).filter(([name]) => name !== attribute));

const gapsOf = (products: readonly Readonly<Record<string, string>>[], setup: ChannelSetup = stall): Gaps => {
  const collector = gapCollector({ merged: false, recommended: false, single: false });
  for (const outcome of outcomesOf(setup, ...products)) collector.take(setup, familyOf(products), outcome);
  return collector.gaps();
};

const columnsOf = (gaps: Gaps): readonly string[] =>
  gaps.sheets.flatMap(({ questions }) =>
    questions.map(({ target, open }) => `${targetKey(target)}: ${open}`),
  );

describe("what a sheet asks", () => {
  it("when an attribute would fill the field, then it is asked for; where none could, the field itself is", () => {
    const bare = without(spade("a"), "material");
    expect([...columnsOf(gapsOf([bare]))].sort()).toEqual(["attribute material: 1", "field stall marks: 1"]);
  });

  it("when a term has no value, then it is asked for once, and the others say whose row asks", () => {
    const gaps = gapsOf([
      spade("a", { color: "beige" }),
      spade("b", { color: "beige" }),
      spade("c", { color: "sand" }),
    ]);
    expect(columnsOf(gaps)).toContain("term stall hue: 2");
    expect(gaps.sheets[0]?.rows.map(({ cells }) => cells.get("term stall hue")?.sameAs)).toEqual([
      undefined,
      "a",
      undefined,
    ]);
  });

  it("when a text is too long, then a shorter one is proposed; when the siblings agree, theirs is", () => {
    const bare = without(spade("b", { name: "Long border spade, forged" }), "material");
    const [sheet] = gapsOf([spade("a"), bare]).sheets;
    const cells = sheet?.rows.find(({ sku }) => sku === "b")?.cells;
    expect(cells?.get("field stall title")).toMatchObject({
      now: "Long border spade, forged, green",
      proposal: { value: "Long border" },
    });
    expect(cells?.get("attribute material")?.proposal?.value).toBe("ash");
  });

  it("when the same attribute keeps most from being ready, then its column comes first", () => {
    const filled = { answer_hue: "green" };
    const setup = setupOf(definition, {
      fills: { title: "name", stuff: "material", marks: '"new"', heft: "weight" },
    });
    const lacking = (sku: string, attribute: string) =>
      without({ ...spade(sku, { name: `Spade ${sku}` }), ...filled }, attribute);
    const gaps = gapsOf([lacking("a", "weight"), lacking("b", "material"), lacking("c", "material")], setup);
    expect(columnsOf(gaps)).toEqual(["attribute material: 2", "attribute weight: 1"]);
    expect([gaps.held, gaps.answerable]).toEqual([3, 3]);
  });
});

const facts = { shop: "Brindlecote", channels: { stall: "1" }, labels: { stall: "Stall" } };

/** A sheet as a spreadsheet gives it back, with some cells typed in. */
const filledIn = ({ rows }: FormSheet, typed: Readonly<Record<string, string>>): readonly SheetRow[] => {
  const titles = rows[1]?.map(({ text }) => text) ?? [];
  return rows.map((cells, at) => ({
    row: at + 1,
    cells: cells.map(({ text }, column) => ({
      text: typed[`${cells[0]?.text ?? ""}/${titles[column] ?? ""}`] ?? text,
      isDate: false,
    })),
  }));
};

const said = (answers: readonly SheetAnswer[] | undefined): readonly string[] =>
  (answers ?? []).map(({ sku, target, text, by }) => `${sku} ${targetKey(target)} = ${text} (${by})`).sort();

describe("a sheet that comes back", () => {
  const bare = without(spade("b", { name: "Long border spade, forged", color: "beige" }), "material");
  const [sheet] = gapsOf([spade("a", { color: "beige" }), bare, spade("c")]).sheets;
  if (sheet === undefined) throw new Error("nothing is asked");
  const grid = gapGrid(sheet, facts, new Set());
  const typed = {
    "a/Marks (Stall)": "sharp | new",
    "a/Hue (Stall)": "red",
    "b/Material": "oak",
    "b/take it?": "yes",
    "(same for all)/Marks (Stall)": "used",
  };
  const expected = [
    "a field stall marks = sharp | new (cell)",
    "a term stall hue = red (cell)",
    "b attribute material = oak (cell)",
    "b field stall marks = used (all)",
    "b field stall title = Long border (proposal)",
    "c field stall marks = used (all)",
  ];
  const rows = filledIn(grid, typed);

  it("when cells are typed in, proposals taken and one said for all, then each answer is read with its place", () => {
    const read = readGapSheet(rows, "gaps.xlsx");
    expect([isGapSheet(rows), isGapSheet(rows.slice(1))]).toEqual([true, false]);
    expect(said(read?.answers)).toEqual(expected);
    expect(read?.answers.find(({ text }) => text === "oak")?.place).toMatchObject({
      file: "gaps.xlsx",
      row: 6,
    });
    expect(read?.findings).toEqual([]);
  });

  it("when rows and columns are in any order, then the same answers are read", () =>
    fc.assert(
      fc.property(
        fc.shuffledSubarray([...rows.keys()], { minLength: rows.length }),
        fc.shuffledSubarray([...(rows[0]?.cells.keys() ?? [])], { minLength: rows[0]?.cells.length ?? 0 }),
        (order, columns) => {
          const moved = order.map((from, at) => ({
            row: at + 1,
            cells: columns.map((column) => rows[from]?.cells[column] ?? { text: "", isDate: false }),
          }));
          expect(said(readGapSheet(moved, "x")?.answers)).toEqual(expected);
        },
      ),
    ));

  it("when any columns are deleted, then the answers of the others are read, and nothing crashes", () =>
    fc.assert(
      fc.property(fc.subarray([...(rows[0]?.cells.keys() ?? [])].slice(2)), (kept) => {
        const left = rows.map(({ row, cells }) => ({
          row,
          cells: [0, 1, ...kept].map((column) => cells[column] ?? { text: "", isDate: false }),
        }));
        const answers = said(readGapSheet(left, "x")?.answers);
        for (const answer of answers)
          expect(expected.map((one) => one.split(" = ")[0])).toContain(answer.split(" = ")[0]);
      }),
    ));

  it("when a SKU was changed, doubled or added, then that row is told and no other answer is lost", () => {
    const changed = rows.map(({ row, cells }, at) => ({
      row,
      cells: at === 4 ? [{ text: "z", isDate: false }, ...cells.slice(1)] : cells,
    }));
    const read = readGapSheet(changed, "x");
    expect(said(read?.answers)).toEqual(expected.filter((one) => !one.startsWith("a ")));
    expect(read?.findings.map(sentence)).toEqual([
      'the SKU of this row was "a" and is "z" now; nothing was taken from the row: write the right one again',
    ]);
    const doubled = readGapSheet([...rows, { ...rows[4], row: 99 } as SheetRow], "x");
    expect(said(doubled?.answers)).toEqual(expected);
    expect(doubled?.findings.map(({ code, place }) => `${code} ${place?.row}`)).toEqual(["repeated-key 99"]);
    const added = rows.map(({ row, cells }, at) => ({
      row,
      cells:
        at === 5
          ? cells.map((cell, column) => (column < 2 ? { ...cell, text: ["new", ""][column] ?? "" } : cell))
          : cells,
    }));
    expect(said(readGapSheet(added, "x")?.answers)).toContain("new attribute material = oak (cell)");
  });

  it("when the rows are none of ours, then that is seen", () => {
    expect(readGapSheet([{ row: 1, cells: [{ text: "sku", isDate: false }] }], "x")).toBeUndefined();
    expect(readFacts('lexicant gap sheet 1 {"shop":')).toBeUndefined();
  });
});

describe("marks of a sheet", () => {
  const word = fc.stringMatching(/^[a-z][a-z0-9_@-]{0,12}$/);
  const target: fc.Arbitrary<Target> = fc.oneof(
    word.map((attribute) => ({ kind: "attribute" as const, attribute })),
    fc
      .tuple(fc.constantFrom("field" as const, "term" as const), word, word)
      .map(([kind, channel, field]) => ({
        ...{ kind, channel, field },
      })),
  );

  it("when any target, shop or row is written, then it reads back", () =>
    fc.assert(
      fc.property(
        target,
        fc.string(),
        fc.string(),
        fc.uniqueArray(fc.nat(99)),
        (one, shop, sku, questions) => {
          expect(readTarget(targetKey(one))).toEqual(one);
          expect(readFacts(factsText({ shop, channels: { a: "1" } }))).toEqual({
            shop,
            channels: { a: "1" },
          });
          const row = readRow(rowText(sku, questions));
          expect(row?.sku).toBe(sku);
          for (const question of questions) expect(row?.questions.has(question)).toBe(true);
        },
      ),
    ));

  it("when any text stands in the first row, then it is a help column at worst", () =>
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(readMark(text).column).toBeDefined();
        expect(readAsker(text)?.channel).not.toBe("");
      }),
    ));
});

describe("an answer", () => {
  const listing = listingsOf(stall, [spade("a")])[0];
  const askingFor = (field: string): readonly AskingField[] => {
    const rule = listing?.plan.fields.find((planned) => planned.rule.field.code === field)?.rule;
    return listing === undefined || rule === undefined ? [] : [{ setup: stall, listing, rule }];
  };
  const check = (target: Target, field: string, text: string, isDate = false): string => {
    const place = { file: "gaps.xlsx", row: 5, column: "G: Hue" };
    const checked = checkAnswer(
      { sku: "a", row: 5, title: "Hue", place, target, askers: [], text, isDate, by: "cell" },
      askingFor(field),
      "GBP",
    );
    return "text" in checked ? checked.text : checked.findings.map(sentence).join("; ");
  };
  const field = (code: string): Target => ({ kind: "field", channel: "stall", field: code });
  const attribute = (name: string): Target => ({ kind: "attribute", attribute: name });

  it.each([
    [field("heft"), "heft", "1,5,0", "cannot be"],
    [field("heft"), "heft", "1.5", "1.5 kg"],
    [field("heft"), "heft", "1500 g", "1.5 kg"],
    [field("heft"), "heft", "heavy", 'Heft cannot be "heavy"'],
    [field("hue"), "hue", "Moss ", "green"],
    [field("hue"), "hue", "gren", '"gren" is not a value of Hue; nearest: "green"'],
    [field("title"), "title", "A border spade", "Title has 14 characters, at most 12 are allowed"],
    [field("marks"), "marks", "sharp | new", `sharp${LIST_SEPARATOR}new`],
    [field("marks"), "marks", "a|b|c", "Marks has 3 values, at most 2 are allowed"],
    [{ kind: "term", channel: "stall", field: "hue" } as Target, "hue", "forest", "green"],
    [
      { kind: "term", channel: "stall", field: "hue" } as Target,
      "hue",
      "beige",
      '"beige" is not a value of Hue',
    ],
    [attribute("weight"), "heft", "2", "2 kg"],
    [attribute("weight"), "heft", "2 lb", "2 lb"],
    [attribute("gtin"), "ref", "123", "a GTIN has 8, 12, 13 or 14 digits"],
    [attribute("material"), "stuff", "oak", "oak"],
    [attribute("color"), "ref", "(none)", "\u0018"],
  ])("when %j is answered for %s with %j, then it comes to %j", (target, code, text, result) =>
    expect(check(target, code, text)).toContain(result),
  );

  it("when a spreadsheet made a date of it, then it is taken only where a date is wanted", () => {
    expect(check(field("title"), "title", "2026-02-01", true)).toContain("a spreadsheet took it for a date");
    expect(check(attribute("sale_from"), "ref", "2026-02-01", true)).toBe("2026-02-01");
  });
});
