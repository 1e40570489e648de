import { describe, expect, it } from "vitest";
import { termParts } from "../../../src/core/channel/term-forms.js";
import { valueList } from "../../../src/core/channel/value-list.js";
import { functions } from "../../../src/core/language/functions/functions.js";
import { readValue } from "../../../src/core/values/read.js";
import { evaluate } from "../../kit/evaluate.js";

const LONG = 100_000;

// What makes patterns that try again at each place take for ever: long runs with something else behind them.
const hostile: readonly string[] = [
  " ",
  ",",
  "1",
  "a",
  "-",
  "<",
  "&",
  "\n",
  "x ",
  "1 %",
  "1/",
  '"',
  "ß",
  ".",
].map((piece) => `start${piece.repeat(LONG / piece.length)}!`);

describe("texts of a supplier who means harm", () => {
  const all = functions.filter(({ parameters: [first] }) => first?.kind === "text" || first?.kind === "any");

  it.each(all.map(({ name }) => name))("when %s is given long runs of one sign, then it ends", (name) => {
    const called = all.find((one) => one.name === name);
    const rest = (called?.parameters ?? [])
      .slice(1)
      .filter(({ optional }) => optional !== true)
      .map(({ kind }) => (kind === "number" ? "200000" : kind === "list" ? "list(1)" : '"kg"'));
    for (const text of hostile)
      expect(() =>
        evaluate(`${name}(${["long", ...rest].join(", ")})`, { long: ["any", text] }),
      ).not.toThrow();
  });

  it("when values are read from them, then that ends, too", () => {
    for (const kind of [
      "integer",
      "decimal",
      "money",
      "measure",
      "date",
      "url",
      "gtin",
      "isbn",
      "yes-no",
    ] as const)
      for (const text of hostile) expect(readValue(kind, text)).toHaveProperty("problem");
  });

  it("when terms are looked for among values, then that ends, too", () => {
    const list = valueList("any", { file: "" }, [{ value: "green", label: "", synonyms: [] }]);
    for (const text of hostile) {
      expect(list.match(text)).toBeUndefined();
      expect(termParts(text)).toEqual([]);
    }
  });
});
