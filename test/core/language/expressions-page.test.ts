import { describe, expect, it } from "vitest";
import { given } from "../../kit/catalogue.js";
import { shown } from "../../kit/evaluate.js";
import { projectRoot, read } from "../../kit/run.js";

/** Lines `expression → what it gives` of the page's examples; those about other catalogues say so in brackets. */
const examples = read(projectRoot, "docs/expressions.md")
  .split("```")
  .filter((_, index) => index % 2 === 1)
  .flatMap((block) => block.split("\n"))
  .flatMap((line): readonly (readonly [string, string])[] => {
    const [expression = "", gives] = line.split("→").map((part) => part.trim());
    return gives === undefined || gives.startsWith("(") ? [] : [[expression, gives]];
  });

describe("the page of the language", () => {
  it("when its examples are counted, then there are some for each section", () => {
    expect(examples.length).toBeGreaterThan(30);
  });

  it.each(examples)("when %s is run, then it gives %s as the page says", (expression, gives) => {
    const value = shown(expression, given);
    // A long fraction is cut on the page.
    if (gives.includes("…")) expect(value.startsWith(gives.split("…")[0] ?? "")).toBe(true);
    else expect(value).toBe(gives);
  });
});
