/** Claims of guides: tables that explain columns, one row a field. */
import { trust } from "./trust.js";
import { addAll } from "../many.js";
import { decimal } from "../values/decimal.js";
import { unitOf } from "../values/units.js";
import { cellOrigin, valuesText, type Claim, type Fact } from "./claim.js";
import type { GuideRow, GuideSheet } from "./guide-sheet.js";
import { nameKey, type Explains } from "./headings.js";
import { numberedName } from "./join-columns.js";
import { asksForMust, needMarks, type NeedMarks } from "./need-words.js";
import { needCell, ruleClaims, saidClaims } from "./said-claims.js";
import { listedValues } from "./sentence.js";

/** Rows of guides by the names that they explain. */
export interface GuideIndex {
  /** What the guides say of a field, by any of its names. */
  claimsFor(names: readonly string[]): readonly Claim[];
  /** Names that no field asked for. */
  unasked(): readonly string[];
}

/** Makes what guides say of each column ready to be asked for. */
export function guideIndex(guides: readonly GuideSheet[], legend: NeedMarks): GuideIndex {
  const byName = new Map<
    string,
    { readonly row: GuideRow; readonly marks: NeedMarks; readonly name: string }[]
  >();
  for (const guide of guides) {
    const asks = guide.rows.some((row) => asksForMust(row.cell("need")?.heading ?? ""));
    const marks = needMarks(guide.needs, asks ? new Map() : legend);
    for (const row of guide.rows)
      for (const what of ["code", "label"] as const) {
        const name = row.cell(what)?.text ?? "";
        const stem = numberedName(name)?.stem;
        for (const key of new Set([nameKey(name), stem === undefined ? "" : nameKey(stem)]))
          if (key !== "") byName.set(key, [...(byName.get(key) ?? []), { row, marks, name }]);
      }
  }
  const asked = new Set<GuideRow>();
  return {
    claimsFor(names) {
      const rows = new Map<GuideRow, NeedMarks>();
      for (const name of names)
        for (const { row, marks } of byName.get(nameKey(name)) ?? []) rows.set(row, marks);
      return [...rows].flatMap(([row, marks]) => {
        asked.add(row);
        return rowClaims(row, marks);
      });
    },
    unasked: () => [
      ...new Set(
        [...byName.values()]
          .flat()
          .filter(({ row }) => !asked.has(row))
          .map(({ name }) => name),
      ),
    ],
  };
}

function rowClaims(row: GuideRow, marks: NeedMarks): readonly Claim[] {
  const claims: Claim[] = [];
  const cell = (what: Explains) => {
    const found = row.cell(what);
    return found === undefined || found.text === ""
      ? undefined
      : { ...found, from: cellOrigin(row.sheet, row.row, found.column) };
  };
  const because = "the sheet that explains the columns";
  const add = (fact: Fact, value: string, confidence: number, from: Claim["from"]): void =>
    void claims.push({ fact, value, confidence, from, because });
  const label = cell("label");
  if (label !== undefined) add("label", label.text, trust.helpText, label.from);
  const need = cell("need");
  if (need !== undefined) addAll(claims, needCell(need.text, marks, trust.guideNeed, need.from, because));
  const kind = cell("kind");
  if (kind !== undefined) addAll(claims, ruleClaims(kind.text, trust.guideFact, kind.from, because));
  const values = cell("values");
  if (values !== undefined) addAll(claims, valueClaims(values.text, values.from, because));
  const meaning = cell("meaning");
  if (meaning !== undefined) {
    addAll(claims, ruleClaims(meaning.text, trust.ruleText, meaning.from, because));
    add("help", meaning.text, trust.helpText, meaning.from);
  }
  for (const { text, column } of row.further())
    addAll(claims, ruleClaims(text, trust.ruleText, cellOrigin(row.sheet, row.row, column), because));
  const example = cell("example");
  if (example !== undefined) add("example", example.text, trust.guideExample, example.from);
  for (const [what, fact] of numbers) {
    const found = cell(what);
    const number =
      found === undefined
        ? undefined
        : /^-?\d+(?:[.,]\d+)?/.exec(found.text.replace(/(\d)[.,](\d{3})\b/g, "$1$2"))?.[0].replace(",", ".");
    if (found === undefined || number === undefined || decimal(number) === undefined) continue;
    if (what === "items") {
      if (Number(number) > 1) {
        add("max_items", number, trust.guideFact, found.from);
        add("list", "yes", trust.guideList, found.from);
      }
    } else add(fact, number, trust.guideFact, found.from);
  }
  const unit = cell("unit");
  if (unit !== undefined && unitOf(unit.text) !== undefined)
    add("unit", unitOf(unit.text)?.code ?? "", trust.guideUnit, unit.from);
  return claims;
}

const numbers: readonly (readonly [Explains, Fact])[] = [
  ["length", "max_length"],
  ["min", "min"],
  ["max", "max"],
  ["items", "max_items"],
  ["decimals", "decimals"],
];

/** A cell for accepted values holds a list, or a sentence that says what else is accepted. */
function valueClaims(text: string, from: Claim["from"], because: string): readonly Claim[] {
  const said = saidClaims(text, trust.ruleText, from, because);
  if (
    said.some(
      ({ fact }) =>
        fact === "max_length" ||
        fact === "date" ||
        fact === "min" ||
        fact === "max" ||
        fact === "decimals" ||
        fact === "values",
    )
  )
    return said;
  const values = listedValues(text);
  const isList =
    values.length > 1 && values.every((value) => value.split(" ").length <= 6) && !/\.\s+\p{Lu}/u.test(text);
  if (!isList) return said;
  return [
    { fact: "values", value: valuesText(values), confidence: trust.guideFact, from, because },
    { fact: "kind", value: "choice", confidence: trust.guideChoice, from, because },
  ];
}
