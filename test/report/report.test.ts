import { Readable } from "node:stream";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { causeCollector } from "../../src/core/diagnostics/causes.js";
import { diagnostic } from "../../src/core/diagnostics/diagnostic.js";
import { asSku } from "../../src/core/ids.js";
import { causeLines, findingLines } from "../../src/report/findings.js";
import { countText } from "../../src/core/diagnostics/phrases.js";
import type { Io } from "../../src/io/io.js";
import { findingJson } from "../../src/report/json.js";
import { tableLines } from "../../src/report/table.js";
import { fitWidth, textWidth, wrapText } from "../../src/report/text-width.js";

const io: Io = {
  out: () => undefined,
  err: () => undefined,
  columns: 60,
  isTerminal: false,
  colors: false,
  errorColors: false,
  page: undefined,
  isAttended: false,
  ask: () => Promise.resolve(""),
  untilEnded: () => new Promise(() => undefined),
  input: Readable.from([]),
  now: () => new Date("2026-11-25"),
  environment: {},
  cwd: "/",
};

const text = fc.string({
  unit: fc.constantFrom("a", "é", "字", "🐝", " ", "long-word", "e\u0301"),
  maxLength: 30,
});

describe("tables and lines for a terminal", () => {
  it("when any table is drawn, then no line is wider than the terminal while its columns can give way", () => {
    const rows = fc.array(fc.tuple(text, text), { maxLength: 6 });
    fc.assert(
      fc.property(rows, fc.integer({ min: 24, max: 80 }), (cells, width) => {
        const lines = tableLines(
          [
            { title: "one", flexible: true },
            { title: "two", flexible: true },
          ],
          cells,
          { columns: width, isTerminal: true },
        );
        expect(lines).toHaveLength(cells.length + 1);
        for (const line of lines) expect(textWidth(line)).toBeLessThanOrEqual(width);
      }),
    );
  });

  it("when a column is numbers, then they stand at the right, and what may not be cut is whole", () => {
    expect(
      tableLines(
        [{ title: "sku" }, { title: "name", flexible: true }, { title: "price", align: "right" }],
        [
          ["A-1", "A very long name of a stool", "9.50"],
          ["B", "Bench", "119.00"],
        ],
        { columns: 30, isTerminal: true },
      ),
    ).toEqual([
      "sku  name                price",
      "A-1  A very long name…    9.50",
      "B    Bench              119.00",
    ]);
  });

  it("when any table has more columns than fit, then headings and texts give way, and no number does", () => {
    const column = fc.record({
      title: fc.constantFrom("sku", "recommended", "category"),
      align: fc.constantFrom("left" as const, "right" as const),
      flexible: fc.boolean(),
    });
    const table = fc.array(column, { minLength: 1, maxLength: 7 }).chain((columns) =>
      fc.record({
        columns: fc.constant(columns),
        cells: fc.array(
          fc.tuple(
            ...columns.map(({ align }) => (align === "right" ? fc.constantFrom("1,234.50", "7") : text)),
          ),
          { maxLength: 5 },
        ),
      }),
    );
    fc.assert(
      fc.property(table, ({ columns, cells }) => {
        const room = { columns: 80, isTerminal: true };
        for (const line of tableLines(columns, cells, room)) expect(textWidth(line)).toBeLessThanOrEqual(80);
        const numbers = cells.flatMap((row) => row.filter((_, index) => columns[index]?.align === "right"));
        const shown = tableLines(columns, cells, room).slice(1).join(" ");
        expect(shown.match(/1,234\.50/g)?.length ?? 0).toBe(
          numbers.filter((one) => one === "1,234.50").length,
        );
      }),
    );
  });

  it("when a table goes into a pipe, then every cell is whole, however wide", () => {
    const wide = "word ".repeat(60).trim();
    const lines = tableLines([{ title: "a", flexible: true }, { title: "b" }], [[wide, wide]], {
      columns: 40,
      isTerminal: false,
    });
    expect(lines[1]).toBe(`${wide}  ${wide}`);
  });

  it("when any text is wrapped, then every word is there, and no line is too wide unless a word is", () => {
    fc.assert(
      fc.property(text, fc.integer({ min: 5, max: 40 }), (given, width) => {
        const lines = wrapText(given, width);
        expect(lines.join(" ").split(/ +/).filter(Boolean)).toEqual(given.split(/ +/).filter(Boolean));
        for (const line of lines) if (textWidth(line) > width) expect(line.trim()).not.toContain(" ");
      }),
    );
  });

  it("when any text is fitted, then it is at most as wide, and whole where it fits", () => {
    fc.assert(
      fc.property(text, fc.integer({ min: 1, max: 30 }), (given, width) => {
        expect(textWidth(fitWidth(given, width))).toBeLessThanOrEqual(width);
      }),
    );
  });

  it.each([
    [1, "1 row"],
    [2, "2 rows"],
    [1200, "1,200 rows"],
  ])("when there are %i, then it reads %s", (count, expected) => {
    expect(countText(count, "row")).toBe(expected);
  });
});

describe("findings for people and programs", () => {
  const wrong = (row: number, column = "EAN") =>
    diagnostic(
      "unreadable-value",
      { attribute: "gtin", value: String(row), problem: "gtin-check-digit" },
      { place: { file: "a.csv", row, column } },
      "warning",
    );

  it("when a cause has one finding, then all of its place is told; when several, then their rows", () => {
    const one = causeCollector();
    one.add(wrong(2));
    expect(causeLines(one.causes(), io)).toEqual([
      'warning  1 row: gtin "2": its check digit is wrong: compare',
      "         it with the packaging",
      '         a.csv, row 2, column "EAN"',
    ]);
    const many = causeCollector();
    for (const row of [2, 3, 5, 8]) many.add(wrong(row));
    expect(causeLines(many.causes(), io)).toEqual([
      "warning  4 rows: gtin: its check digit is wrong: compare it",
      "         with the packaging",
      "         a.csv, rows 2, 3, 5 and 1 more",
    ]);
  });

  it("when there are more causes than are shown, then that is said", () => {
    const causes = causeCollector();
    for (const sku of ["A", "B"])
      causes.add(diagnostic("rule-broken", { rule: sku, says: `rule ${sku}` }, { product: asSku(sku) }));
    expect(causeLines(causes.causes(), io, 1).at(-1)).toContain("and 1 more cause (see them with --all)");
  });

  it("when a refusal is shown, then severity, sentence and place stand below each other", () => {
    expect(
      findingLines(
        diagnostic(
          "wrong-setting",
          { key: "currency", reason: "is a code" },
          { place: { file: "lexicant.yaml", line: 4, position: 1 } },
        ),
        io,
      ),
    ).toEqual(["error    currency: is a code", "         at lexicant.yaml:4:1"]);
  });

  it("when a finding is a line of JSON, then it holds the sentence, the facts and the places", () => {
    expect(JSON.parse(findingJson(wrong(7)))).toMatchObject({
      type: "finding",
      severity: "warning",
      code: "unreadable-value",
      message: 'gtin "7": its check digit is wrong: compare it with the packaging',
      facts: { attribute: "gtin" },
      place: { file: "a.csv", row: 7, column: "EAN" },
    });
  });
});
