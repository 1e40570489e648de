import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, whole } from "../../../src/core/values/decimal.js";
import { weekOf } from "../../../src/core/values/date.js";
import { htmlText, plainText } from "../../../src/core/values/html.js";
import { money } from "../../../src/core/values/money.js";
import { evaluate, faultsOf, shown } from "../../kit/evaluate.js";

const amount = (text: string) => decimal(text) ?? whole(0);
const goods = {
  quantity: ["number", whole(5)],
  cost: ["money", money(amount("6.00"), "GBP")],
  rate: ["number", undefined],
  most: ["number", undefined],
  color: ["text", undefined],
  size: ["text", "M"],
  brand: ["text", "Tarnbeck"],
  name: ["text", "Cedar hive with a flat roof"],
  images: ["list", ["a.jpg", "b.jpg"]],
  day: ["date", undefined],
} as const;

describe("braces hold expressions", () => {
  it.each([
    ['"{(quantity + 1) * 2}"', "12"],
    ['"{-quantity + 10}"', "5"],
    ['"{(color or size) or brand}"', "M"],
    ['"{, (quantity + 1) * 2 pcs}"', ", 12 pcs"],
    ['"{((quantity + 1) * 2) * 3}"', "36"],
    ['"{-round(quantity, 1) + 2}"', "-3"],
    ['"a{ (size)}"', "a (M)"],
    ['"a{-size}"', "a-M"],
    ['"a{ - size}"', "a - M"],
    ['"a{ (color)}"', "a"],
  ])("when a template is %s, then it gives %s", (text, expected) => {
    expect(shown(text, goods)).toBe(expected);
  });

  // A number is a name, a number, or a bracket around a sum of two.
  const leaf = fc.constantFrom("quantity", "3", "round(quantity)", "2.5");
  const operator = fc.constantFrom("+", "-", "*");
  const bracket = fc.tuple(leaf, operator, leaf).map(([a, sign, b]) => `(${a} ${sign} ${b})`);
  const operand = fc.oneof(leaf, bracket);
  const sum = fc
    .tuple(
      fc.constantFrom("", "-"),
      operand,
      fc.array(fc.tuple(operator, operand), { minLength: 1, maxLength: 4 }),
    )
    .map(([minus, first, rest]) => minus + first + rest.map(([sign, one]) => ` ${sign} ${one}`).join(""));

  it("when any sum stands in a brace, then it is worked out as it is outside of one", () => {
    fc.assert(
      fc.property(sum, (text) => {
        expect(shown(`"{${text}}"`, goods)).toBe(shown(text, goods));
        expect(shown(`"of {, ${text}} x"`, goods)).toBe(`of , ${shown(text, goods)} x`);
      }),
      { numRuns: 500 },
    );
  });
});

describe("a limit that is not there", () => {
  it.each([
    ["take(images, most)", "a.jpg, b.jpg"],
    ["fit(name, most)", "Cedar hive with a flat roof"],
    ['fit(name, most, "…")', "Cedar hive with a flat roof"],
    ["fit_bytes(name, most)", "Cedar hive with a flat roof"],
    ['fit_before(name, "M", most)', "Cedar hive with a flat roof, M"],
    ["first_words(name, most)", "Cedar hive with a flat roof"],
    ["fit_bytes(name, 0)", ""],
    ['fit_bytes(name, 0, "…")', ""],
    ["fit(name, 0)", ""],
    ["take(images, 0)", ""],
    ['fit_before(size, brand, 20, "")', "MTarnbeck"],
  ])("when %s is asked, then it gives %j", (text, expected) => {
    expect(shown(text, goods)).toBe(expected);
  });

  it("when bytes are counted with an ending, then both are within the limit", () => {
    const words = fc
      .array(fc.constantFrom("Größe", "ö", "zehn", "👩‍🌾", "moosgrün"), { maxLength: 12 })
      .map((all) => all.join(" "));
    fc.assert(
      fc.property(
        words,
        fc.integer({ min: 0, max: 60 }),
        fc.constantFrom("…", ".....", " (mehr)"),
        (text, most, ending) => {
          const fitted = shown(`fit_bytes(text, most, "${ending}")`, {
            text: ["text", text],
            most: ["number", whole(most)],
          });
          const isWhole = Buffer.byteLength(text) <= most;
          if (isWhole) expect(fitted).toBe(text);
          else expect(Buffer.byteLength(fitted)).toBeLessThanOrEqual(most);
        },
      ),
    );
  });
});

describe("blanks", () => {
  it.each([
    ["with_tax(cost, rate)", "with_tax: its rate is blank"],
    ["without_tax(cost, rate)", "without_tax: its rate is blank"],
    ["marked_up(cost, rate)", "marked_up: its rate is blank"],
    ["with_margin(cost, rate)", "with_margin: its rate is blank"],
    ["percent(rate, cost)", "percent: its rate is blank"],
    ["price_ending(cost, rate)", "this is blank"],
  ])("when the rate of %s is blank, then so is the price, and the reason is told", (text) => {
    expect(evaluate(text, goods)).toBeUndefined();
    expect(shown(`${text} or cost`, goods)).toBe("6.00 GBP");
  });

  it.each([
    ['color = ""', true],
    ['size = ""', false],
    ['size != ""', true],
    ["color = blank", true],
    ["color != blank", false],
    ['color != "green"', false],
    ['color = "green"', false],
    ["color = size", false],
    ["color != size", false],
    ["not (color = size)", true],
    ['(if color is given then "x" else "") = blank', true],
    ["in_period(blank, today(), day)", false],
    ["in_period(blank, today())", true],
  ])("when %s is asked, then it is %s", (text, expected) => {
    expect(evaluate(text, goods)).toBe(expected);
  });

  it.each([
    ['before("abc", "")', "abc"],
    ['before("abc", color)', "abc"],
    ['after("abc", "")', ""],
    ['replace("a-b", "-", "")', "ab"],
    ['if color is blank then "" else "x"', ""],
  ])("when %s is asked, then it gives %j", (text, expected) => {
    expect(shown(text, goods)).toBe(expected);
  });
});

describe("signs count", () => {
  it.each([
    ['has(list("A", "B"), "A++")', false],
    ['has(list("A++", "B"), "a++")', true],
    ['has(list("moss green"), "Moss  Green")', true],
    ['has(list("C#"), "C")', false],
  ])("when %s is asked, then it is %s", (text, expected) => {
    expect(evaluate(text)).toBe(expected);
  });

  it("when a list loses values, then only those that are the same, signs included", () => {
    expect(shown('without(list("A", "A+", "<5", ">5"), list("a", "<5"))')).toBe("A+, >5");
  });
});

describe("prices that can be paid", () => {
  it.each([
    ['with_tax(money(9.99, "GBP"), 20)', "11.99 GBP"],
    ['without_tax(money(1000, "JPY"), 10)', "909 JPY"],
    ['with_margin(money(1000, "JPY"), 30)', "1429 JPY"],
    ['marked_up(money(999, "JPY"), 8)', "1079 JPY"],
    ['price_per(money(1000, "JPY"), measure(340, "g"), "g", 100)', "294 JPY"],
    ['percent(15, money(80.05, "GBP"))', "12.01 GBP"],
    ['without_tax(money(10, "KWD"), 5)', "9.524 KWD"],
    ['cash_step(money(12.43, "EUR"), 0.05)', "12.45 EUR"],
  ])("when %s is worked out, then it is %s", (text, expected) => {
    expect(shown(text)).toBe(expected);
  });

  it("when an ending has more decimals than the currency, then it is refused", () => {
    expect(evaluate('price_ending(money(1234, "JPY"), 0.99)')).toBeUndefined();
    expect(shown('price_ending(money(1234, "JPY"), 0)')).toBe("1234 JPY");
  });

  it.each([
    ["round(1234, -2)", "1200"],
    ["round(-1250, -2)", "-1300"],
    ["round_up(1201, -2)", "1300"],
    ["round_down(1299, -2)", "1200"],
    ['round(money(1249.99, "GBP"), -1)', "1250.00 GBP"],
    ["whole(-1.5)", "-2"],
    ["(1 / 3) * 3 = 1", "yes"],
  ])("when %s is worked out, then it is %s", (text, expected) => {
    expect(shown(text)).toBe(expected);
  });
});

describe("texts", () => {
  const latin = /^\p{Script=Latin}$/u;
  // Signs of phonetics and of old scripts that stand for no letter of an alphabet in use.
  const beyond = (code: number): boolean => code > 0x24f && !(code >= 0x1e00 && code <= 0x1eff);

  it("when a slug is made of any letter of a Latin alphabet in use, then nothing is lost", () => {
    const letters = Array.from({ length: 0x1f00 }, (_, code) => code)
      .filter((code) => code > 0xbf && !beyond(code))
      .map((code) => String.fromCodePoint(code))
      .filter((letter) => latin.test(letter) && /^\p{L}$/u.test(letter));
    expect(letters.length).toBeGreaterThan(600);
    expect(letters.filter((letter) => shown(`slug("${letter}")`) === "")).toEqual([]);
    expect(shown('slug("Łódź Þingvellir Đakovo ışık ŒUVRE Ẽ ẞ")')).toBe(
      "lodz-thingvellir-dakovo-isik-oeuvre-e-ss",
    );
  });

  it.each([
    [
      "<table><tr><td>Width</td><td>30 cm</td></tr><tr><td>Depth</td><td>20 cm</td></tr></table>",
      "Width 30 cm\n\nDepth 20 cm",
    ],
    ["<p>One</p><hr>two", "One\n\ntwo"],
    ["<figure><img src='a.jpg'><figcaption>A hive</figcaption></figure>text", "A hive\ntext"],
  ])("when %s is made plain, then what stands apart stays apart", (html, expected) => {
    expect(plainText(html).replace(/\n+/g, "\n")).toBe(expected.replace(/\n+/g, "\n"));
  });

  it("when a text is made HTML once or more, escaped before or not, then each sign is escaped once", () => {
    const text = fc
      .array(fc.constantFrom("wool", "&", "&amp;", "<", "5 < 6", "\n", "\n\n", "- felt", "&eacute;"), {
        maxLength: 8,
      })
      .map((all) => all.join(" "));
    fc.assert(
      fc.property(text, (given) => {
        const once = htmlText(given);
        expect(htmlText(once)).toBe(once);
        expect(once).not.toContain("&amp;amp;");
      }),
    );
    expect(htmlText("Wool &amp; felt & silk")).toBe("<p>Wool &amp; felt &amp; silk</p>");
  });

  it.each([
    ['without_repeats("1.5 m 15 m")', "1.5 m 15"],
    ['without_repeats("A A+ a")', "A A+"],
    ['without_repeats("Wickenlow suit Wickenlow, white")', "Wickenlow suit white"],
  ])("when %s is asked, then it gives %s", (text, expected) => {
    expect(shown(text)).toBe(expected);
  });

  it("when a week and a day stand in one pattern, then each has its own year", () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date("1990-01-01"), max: new Date("2050-12-31"), noInvalidDate: true }),
        (date) => {
          const iso = date.toISOString().slice(0, 10);
          const { year, week } = weekOf(iso);
          expect(
            shown('date_text(day, "YYYY-MM-DD YYYY-Www")', { day: ["date", { kind: "date", iso }] }),
          ).toBe(`${iso} ${year}-W${String(week).padStart(2, "0")}`);
        },
      ),
    );
  });
});

describe("what all members of a group have", () => {
  it("when a function looks at the members, then it takes their attributes only", () => {
    expect(shown("group_greatest(quantity * 2)", goods)).toBe("10");
    expect(shown('join(group_values(size), "/")', goods)).toBe("M");
    expect(faultsOf("group_greatest(quantity, 2)", goods).join()).toContain("group_greatest");
  });
});
