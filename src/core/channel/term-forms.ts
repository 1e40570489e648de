/**
 * Forms under which two spellings of one term are the same: without accents, plural, order, marks. For lexicon and
 * permitted values.
 */
import { fold, termKey } from "../values/text.js";
import { readYesNo } from "../values/yes-no.js";

/** Longer texts are no terms: they have no forms and no parts. */
export const TERM_LIMIT = 200;

/** A form under which two spellings of one thing are alike. */
export interface TermForm {
  /** Undefined where a text has no such form. */
  of(text: string): string | undefined;
  /** Forms that a list's values must have, all of them, for this one to mean anything there. */
  readonly wanted: readonly string[];
}

// spelling | the one it is held to be
const spellings = new Map(
  `gray grey;color colour;colored coloured;multicolor multicolour;multicolored multicoloured;aluminum aluminium;
fiber fibre;fiberglass fibreglass;center centre;liter litre;meter metre;millimeter millimetre;jewelry jewellery;
pajamas pyjamas;molded moulded;mold mould;sulfur sulphur;plow plough;tire tyre;odor odour;flavor flavour;
woolen woollen;armor armour;harbor harbour;vapor vapour;galvanized galvanised;oxidized oxidised;stainless-steel stainless;
yogurt yoghurt;catalog catalogue;mustache moustache;gage gauge;licorice liquorice;caliber calibre`
    .replaceAll("\n", "")
    .split(";")
    .map((pair) => pair.trim().split(" ") as [string, string]),
);

// A plural is the word with an s; short words and those in ss have none.
const singular = (word: string): string =>
  /[^s]s$/.test(word) && word.length > 3 ? word.slice(0, -1) : word;

// Signs that tell terms apart; a dash between two words does not: `off-white` is `off white`, `5-10` not `5 10`.
const apart = /[+<>#&/%]|-(?!\p{L})|(?<!\p{L})-/u;

/** Without spaces, in one spelling of the English-speaking countries, singular: `Off-White` and `offwhite`, `gray` and `grey`. */
function spelling(text: string): string | undefined {
  if (apart.test(termKey(text))) return undefined;
  const words = fold(text).split(" ").filter(Boolean);
  return words.length === 0 ? undefined : words.map((word) => singular(spellings.get(word) ?? word)).join("");
}

const letterSizes = new Map<string, string>(
  Object.entries({
    xxxs: "3xs",
    xxs: "2xs",
    xs: "xs",
    s: "s",
    m: "m",
    l: "l",
    xl: "xl",
    xxl: "2xl",
    xxxl: "3xl",
    xxxxl: "4xl",
    small: "s",
    medium: "m",
    med: "m",
    large: "l",
    klein: "s",
    mittel: "m",
    gross: "l",
    petit: "s",
    grand: "l",
    onesize: "one",
    onesizefitsall: "one",
    onesizefitsmost: "one",
    os: "one",
    unisize: "one",
    einheitsgrosse: "one",
    free: "one",
  }),
);

const extraSize = /^(?:(\d)(?:x|extra)?|(x{1,4})|((?:extra)+))(small|large|s|l)$/;

function letterSize(text: string): string | undefined {
  if (/[+<>#&/%]/.test(text)) return undefined;
  const compact = fold(text).replaceAll(" ", "");
  const known = letterSizes.get(compact);
  if (known !== undefined) return known;
  const found = extraSize.exec(compact);
  if (found === null) return undefined;
  const [, digit, crosses, extras = "", end = ""] = found;
  const times = digit === undefined ? (crosses?.length ?? extras.length / "extra".length) : Number(digit);
  return `${times === 1 ? "" : times}x${end[0] ?? ""}`;
}

const ages =
  /^(?:ages?|from|ab|alter)?\s*(\d{1,3})(?:\s*(?:-|–|to|bis|\/)\s*(\d{1,3}))?\s*(\+)?\s*(m|months?|mths?|monate?|y|yrs?|years?|jahren?)?\s*(\+|and (?:older|up|over)|plus)?$/i;

/** `3-4 years` for `3–4 Yrs`, `3+ years` for `from 3 years`; undefined where no unit of time shows that it is an age. */
function age(text: string): string | undefined {
  const found = ages.exec(text.trim());
  if (found === null) return undefined;
  const [, low = "", high, plus, unit, more] = found;
  const isOpen =
    plus !== undefined || more !== undefined || (high === undefined && /^(from|ab)/i.test(text.trim()));
  const saysAge = unit !== undefined || /^age/i.test(text.trim());
  if (!saysAge) return undefined;
  const months = /^m/i.test(unit ?? "");
  return `${low}${high === undefined ? "" : `-${high}`}${isOpen ? "+" : ""} ${months ? "months" : "years"}`;
}

const range = /^(.+?)\s*(?:-|–|\/|\bto\b|\bbis\b)\s*(.+)$/i;

function oneSize(text: string): string | undefined {
  const letters = letterSize(text);
  if (letters !== undefined) return letters;
  // The number of a size without the name of its system: it tells which is meant where the list has one such only.
  const number =
    /^(?:size|eu|uk|gr(?:össe|oesse|\.)?|taille|no\.?)?\s*(\d{1,3}(?:[.,]5| ?½)?)\s*(?:eu|uk)?$/i.exec(
      text.trim(),
    );
  return number?.[1]?.replace(/\s?½/, ".5").replace(",", ".");
}

/** A size in one notation: `2xl` for `XX-Large`, `38-40` for `38/40`, `3-4 years` for `3–4 Y`. */
function size(text: string): string | undefined {
  // "S (small)" says it twice.
  const bare = text.replace(/\s*\([^)]*\)\s*/g, " ").trim();
  const single = age(bare) ?? oneSize(bare);
  if (single !== undefined) return single;
  const ends = range.exec(bare);
  if (ends === null) return undefined;
  const [low, high] = [oneSize(ends[1] ?? ""), oneSize(ends[2] ?? "")];
  return low === undefined || high === undefined ? undefined : `${low}-${high}`;
}

/** `yes` or `no` for the usual words of both. */
function yesNo(text: string): string | undefined {
  const read = readYesNo(text.trim());
  return read === undefined ? undefined : read ? "yes" : "no";
}

/** In the order in which they are tried, after the letters themselves. */
export const termForms: readonly TermForm[] = [
  { of: spelling, wanted: [] },
  { of: size, wanted: [] },
  { of: yesNo, wanted: ["yes", "no"] },
];

const between = /\s*(?:\/|,|;|&|\+|\|)\s*|\s+(?:and|with|und|mit|et)\s+/i;
const share = /(\d{1,3}(?:[.,]\d+)?)\s*%\s*/;

/** The parts of a term that names several: colours side by side, materials with their shares; the largest share first. */
export function termParts(text: string): readonly string[] {
  return (
    (text.length > TERM_LIMIT ? "" : text)
      // Shares may stand side by side without a mark between: "98% cotton 2% elastane".
      .replace(/(?<=\S)\s+(?=\d{1,3}(?:[.,]\d+)?\s*%)/g, ", ")
      .split(between)
      .map((part, index) => {
        const found = share.exec(part);
        const percent = found === null ? -index : Number((found[1] ?? "0").replace(",", "."));
        return {
          word: part
            .replace(share, "")
            .replace(/[():.]/g, " ")
            .trim(),
          percent,
        };
      })
      .filter(({ word }) => word !== "")
      .sort((a, b) => b.percent - a.percent)
      .map(({ word }) => word)
  );
}
