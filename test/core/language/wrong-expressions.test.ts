import { describe, expect, it } from "vitest";
import { caseText, updateCase } from "../../kit/cases.js";
import { given } from "../../kit/catalogue.js";
import { faultsOf } from "../../kit/evaluate.js";

const FILE = "language/wrong-expressions.txt";

/** Lines of the file: an expression, and indented below it what is said of it. */
const readCases = (text: string): readonly (readonly [string, readonly string[]])[] =>
  text
    .trimEnd()
    .split(/\n(?! {4})/)
    .map((one) => {
      const [expression = "", ...said] = one.split("\n");
      return [expression, said.map((line) => line.trim())];
    });

const said = (expression: string): readonly string[] =>
  faultsOf(expression, given).map((fault) => fault.split("\n")[0] ?? "");

describe("what spreadsheet users write at first", () => {
  const cases = readCases(caseText(FILE));
  updateCase(FILE, () =>
    cases.map(([expression]) => `${[expression, ...said(expression)].join("\n    ")}\n`).join(""),
  );

  it("when the cases are counted, then there are more than a hundred, each once", () => {
    expect(new Set(cases.map(([expression]) => expression)).size).toBe(cases.length);
    expect(cases.length).toBeGreaterThan(100);
  });

  it.each(cases)(
    "when %s is written, then it is told what is wrong and what to write",
    (expression, expected) => {
      expect(said(expression)).toEqual(expected);
      expect(expected).not.toEqual([]);
    },
  );

  it.each(cases)("when %s is cut anywhere, then it is told or runs, and nothing crashes", (expression) => {
    for (let end = 1; end < expression.length; end++)
      for (const cut of [expression.slice(0, end), expression.slice(end)])
        for (const fault of faultsOf(cut, given)) expect(fault).toMatch(/^\d+:\d+ \S/);
  });
});
