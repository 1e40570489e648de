import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { functions } from "../../../src/core/language/functions/functions.js";
import { functionsPage } from "../../../src/core/language/functions-page.js";
import { parse } from "../../../src/core/language/parser.js";
import { decimal } from "../../../src/core/values/decimal.js";
import { readValue } from "../../../src/core/values/read.js";
import { read } from "../../kit/run.js";
import { projectRoot } from "../../kit/run.js";
import { given } from "../../kit/catalogue.js";
import { evaluate, faultsOf, shown } from "../../kit/evaluate.js";

const product = {
  name: ["text", "Cedar Hive"],
  brand: ["text", "Tarnbeck"],
  color: ["text", undefined],
  size: ["text", "10 frames"],
  category: ["text", "Beekeeping > Hives > Complete hives"],
  price: ["money", valueOf("money", "219 GBP")],
  quantity: ["number", decimal("3")],
  weight: ["measure", valueOf("measure", "14.8 kg")],
  images: ["list", ["a.jpg", "b.jpg"]],
  digital: ["yes-no", false],
  "Maker's no": ["text", "T-1"],
} as const;

function valueOf(kind: "measure" | "money", text: string) {
  const reading = readValue(kind, text);
  return "value" in reading ? reading.value : undefined;
}

describe("what expressions mean", () => {
  it.each([
    ['"{brand} {name}{, color}{, size}"', "Tarnbeck Cedar Hive, 10 frames"],
    ['"{name} ({size})"', "Cedar Hive (10 frames)"],
    ['"{{not}} a brace"', "{not} a brace"],
    ["color or size", "10 frames"],
    ["`Maker's no`", "T-1"],
    ['if quantity > 0 then "now" else "gone"', "now"],
    ["if digital then 1 else 2", "2"],
    ["price * 1.1", "240.90 GBP"],
    ["(weight * 2) in g", "29600 g"],
    ["1 + 2 * 3", "7"],
    ["0.1 + 0.2", "0.3"],
    ['category under "Hives"', "yes"],
    ['category under "Hive"', "no"],
    ["color is given", "no"],
    ["color is not given and quantity >= 3", "yes"],
    ["-quantity", "-3"],
    ["price = price", "yes"],
  ])("when %s is run, then it gives %s", (text, expected) => {
    expect(shown(text, product)).toBe(expected);
  });

  it("when a side is blank, then comparing and calculating are blank or no, never a crash", () => {
    expect(evaluate("color = blank", product)).toBe(true);
    expect(evaluate('color < "x"', product)).toBe(false);
    expect(evaluate("fit(color, 3)", product)).toBeUndefined();
  });
});

describe("functions", () => {
  const examples = functions.flatMap(({ examples: own }) =>
    own.map(({ expression, gives }) => [expression, gives]),
  );
  it.each(examples)("when %s is run, then it gives %s as its page says", (expression, gives) => {
    expect(shown(expression ?? "")).toBe(gives);
  });

  it("when functions change, then the reference page is made anew", () => {
    expect(read(projectRoot, "docs/functions.md")).toBe(functionsPage());
  });
});

describe("what is wrong is said with place, fact and nearest name", () => {
  it.each([
    ["nmae", '3:10 there is no attribute "nmae"; nearest: "name"'],
    ['"{brand} {nmae}"', '3:20 there is no attribute "nmae"; nearest: "name"'],
    ["fitt(name, 3)", '3:10 there is no function "fitt"; nearest: "fit"'],
    ["fit(name)", "3:10 fit is used as fit(text, characters, [ending])"],
    ["price > weight", "3:10 an amount of money is compared with a weight"],
    ["1 / 0", "3:10 nothing can be divided by 0"],
    ["name + 1", '3:10 "+" calculates, and this is a text; texts are joined in a template'],
    ["weight in GBP", "3:10 only a price converts to GBP, this is a weight"],
    ["weight in kgg", '3:20 "kgg" is no unit or currency that is known; nearest: kg'],
    ['"never closed', "3:10 this text is never closed"],
    ['"{name"', "3:11 this brace is never closed"],
    ["name &", "3:15 texts are joined in a template"],
    ["1 < 2 < 3", "3:16 one comparison at a time"],
    ["if name then 1", '3:13 "if" wants yes or no, this is a text; ask with "is given" or a comparison'],
    ["", "3:10 a value is expected here"],
    ["'x'", "3:10 texts stand in straight double quotes"],
    ["name name", "3:15 something is missing behind name"],
  ])("when %s is checked, then it says %s", (text, expected) => {
    expect(faultsOf(text, product)[0]).toContain(expected);
  });

  it("when two names are wrong, then both are told", () => {
    expect(faultsOf("nmae or sise", product)).toHaveLength(2);
  });

  it("when brackets nest a thousand deep or a text has 10,001 characters, then it is a fault and no crash", () => {
    expect(faultsOf("(".repeat(1000) + "1" + ")".repeat(1000))[0]).toContain("nest deeper than 100");
    expect(faultsOf("1".padEnd(10_001, " "))[0]).toContain("at most 10000 characters");
  });

  it.each([
    ["1" + "+1".repeat(4999), "at most 1000 operators"],
    ["-".repeat(9000) + "1", "nest deeper than 100"],
    ["not ".repeat(2400) + "yes", "nest deeper than 100"],
    ['"{'.repeat(3000), "this brace is never closed"],
    ["if yes then 1 else ".repeat(500) + "1", "nest deeper than 100"],
  ])(
    "when an expression of %#. kind has almost 10,000 characters, then it is a fault and no crash",
    (text, expected) => {
      expect(faultsOf(text)[0]).toContain(expected);
    },
  );

  it.each([
    ["name" + " or name".repeat(999), "Hive"],
    ["1" + "+1".repeat(999), "1000"],
    [`count(list(${"1,".repeat(4900)}1))`, "4901"],
    ['"' + "{name}".repeat(1600) + '"', "Hive".repeat(1600)],
  ])("when a long expression is right, then it runs (%#)", (text, expected) => {
    expect(shown(text, { name: ["text", "Hive"] })).toBe(expected);
  });

  it("when any pieces of the language are put together, then they are told or run, and nothing crashes", () => {
    const piece = fc.constantFrom(
      ...'name|price|weight|quantity|images|digital|sale_from|color|"a {name}"|"{price}{, color}"|1.5|yes|blank|(|)|,|+|-|*|/|=|<|or|and|not|is given|is blank|under "Hives"|in kg|in EUR|if|then|else|fit(name, 5)|first(images)|round(|money(|measure(|from_band("parcels", "cost", |list(|price_ending(|whole_in('.split(
        "|",
      ),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 14 }), (pieces) => {
        const text = pieces.join(" ");
        const faults = faultsOf(text, given);
        if (faults.length === 0) expect(() => evaluate(text, given)).not.toThrow();
        else for (const fault of faults) expect(fault).toMatch(/^\d+:\d+ \S/);
      }),
      { numRuns: 3000 },
    );
  });

  it("when any text is parsed, then parsing ends with an expression or faults whose spans lie in the text", () => {
    const pieces = fc.constantFrom(
      "name",
      '"{',
      "}",
      '"',
      "(",
      ")",
      "if",
      "then",
      " ",
      "1.5",
      "in",
      "kg",
      ",",
      "`",
      "+",
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(pieces).map((all) => all.join("")),
        ),
        (text) => {
          const { expression, faults } = parse(text);
          expect(expression === undefined).toBe(faults.length > 0);
          for (const { span } of faults) expect(span.start >= 0 && span.end <= text.length + 1).toBe(true);
        },
      ),
    );
  });
});
