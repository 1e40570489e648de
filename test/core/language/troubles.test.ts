import { describe, expect, it } from "vitest";
import { namesOf } from "../../../src/core/language/names.js";
import { program } from "../../../src/core/language/program.js";
import { factsOf, type Troubles } from "../../../src/core/language/trouble.js";
import { troubleText } from "../../../src/workspace/wording.js";
import { whole } from "../../../src/core/values/decimal.js";
import { measure } from "../../../src/core/values/measure.js";
import { money } from "../../../src/core/values/money.js";
import { shownText } from "../../../src/core/values/show.js";
import { unitOf } from "../../../src/core/values/units.js";
import type { MaybeBlank } from "../../../src/core/values/value.js";
import { surroundings } from "../../kit/evaluate.js";

const kilogram = unitOf("kg");
if (kilogram === undefined) throw new Error("no kilogram");

const product: Readonly<Record<string, MaybeBlank>> = {
  name: "Hive",
  size: "10 frames",
  colour: "moss green",
  odd: "cerise",
  nothing: whole(0),
  huge: whole(10).pow(29),
  price: money(whole(20), "GBP"),
  abroad: money(whole(20), "SEK"),
  weight: measure(whole(12), kilogram),
  table: "colours",
  wrong: "colors",
};

/** What an expression over the product comes to, and all that could not be worked out on the way. */
const tried = (text: string): readonly [string, readonly string[]] => {
  const ready = program(
    { text, place: { file: "fills.yaml" } },
    namesOf(
      "attribute",
      Object.keys(product).map((name) => ({ name, kind: "any" })),
    ),
    surroundings,
  );
  if (ready.kind === "faulty") throw new Error(`${text} is faulty`);
  const troubles: Troubles = [];
  const values = Object.values(product);
  const value = ready.run({ value: (slot) => values[slot] }, troubles);
  return [shownText(value), troubles.map((trouble) => troubleText(factsOf(trouble)))];
};

describe("what cannot be worked out for one product", () => {
  it.each([
    ["price / nothing", "it is divided by 0"],
    ["1 / (nothing * 2)", "it is divided by 0"],
    ["huge * huge", "the number has more than 30 digits before the point"],
    ["price + weight", "GBP and a measure in kg cannot be calculated together"],
    ["price - abroad", "GBP and SEK cannot be calculated together"],
    ["name * 2", 'the text "Hive" and a number cannot be calculated together'],
    ["price in SEK", "there is no rate from GBP to SEK on 2026-03-01; add a row to tables/rates.csv"],
    [
      'exchange(price, "EUR", date("2025-01-01"))',
      "there is no rate from GBP to EUR on 2025-01-01; add a row to tables/rates.csv",
    ],
    [
      'from_table("colours", "german", odd)',
      'the table "colours" has no row for "cerise"; add one to tables/colours.csv',
    ],
    [
      'from_band("parcels", "cost", weight, "GB")',
      'the table "parcels" has no row for 12 kg, GB; add one to tables/parcels.csv',
    ],
    ['from_table(wrong, "german", colour)', 'there is no table tables/colors.csv; nearest: "colours"'],
    ["from_table(table, name, colour)", 'the table "colours" has no column "Hive"'],
    ['measure(size, "cm")', '"10 frames" cannot be read as a measure'],
    ["number(name) + 1", '"Hive" cannot be read as a number'],
    ["date(name)", '"Hive" cannot be read as a day'],
  ])("when %s is run, then it is blank and says why", (text, expected) => {
    const [value, troubles] = tried(text);
    expect(value).toBe("");
    expect(troubles[0]).toContain(expected);
  });

  it.each([
    ["price / nothing or price", "20.00 GBP"],
    ['measure(size, "cm") or blank', ""],
    ['from_table("colours", "german", odd) or odd', "cerise"],
    ['if nothing = 0 then "none" else price / nothing', "none"],
    ["(price in SEK) or (price in EUR)", "23.40 EUR"],
  ])("when %s is run, then what stands behind makes up for it and nothing is told", (text, expected) => {
    expect(tried(text)).toEqual([expected, []]);
  });

  it("when both sides of or fail, then both are told", () => {
    expect(tried("price / nothing or price in SEK")[1]).toHaveLength(2);
  });

  it("when a part of a text fails, then the rest stands and the trouble is told", () => {
    expect(tried('"{name} {price in SEK}"')).toEqual([
      "Hive",
      ["there is no rate from GBP to SEK on 2026-03-01; add a row to tables/rates.csv"],
    ]);
  });
});

describe("each step of an expression", () => {
  const steps = (text: string): readonly string[] => {
    const seen: string[] = [];
    const ready = program(
      { text, place: { file: "try" } },
      namesOf("attribute", [{ name: "name", kind: "text" }]),
      surroundings,
      "any",
      ({ span }, value) => seen.push(`${text.slice(span.start, span.end)} = ${shownText(value)}`),
    );
    if (ready.kind === "program") ready.run({ value: () => "Cedar hive" });
    return seen;
  };

  it("when it is watched, then parts are told before the whole, and what is not taken is not worked out", () => {
    expect(steps('if contains(name, "hive") then upper(name) else "other"')).toEqual([
      "name = Cedar hive",
      '"hive" = hive',
      'contains(name, "hive") = yes',
      "name = Cedar hive",
      "upper(name) = CEDAR HIVE",
      'if contains(name, "hive") then upper(name) else "other" = CEDAR HIVE',
    ]);
  });
});
