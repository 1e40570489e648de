/** Claims of a template's columns: heading, marks, colours, notes, rules of cells, rows of the head, filled cells. */
import { trust } from "./trust.js";
import { headFill } from "./colour-legend.js";
import { addAll } from "../many.js";
import { columnName } from "../catalogue/proposal/column-name.js";
import { attributeKind } from "../catalogue/vocabulary.js";
import { fold } from "../values/text.js";
import { decimal } from "../values/decimal.js";
import { cellOrigin, valuesText, type Claim } from "./claim.js";
import { groupOf, headText, isCode, type SheetHead } from "./head-of-sheet.js";
import { needMarks, needOf, needOnLabel, type NeedMarks, type NeedSaid } from "./need-words.js";
import { cellAt, textAt, type SheetPaper, type SheetRule } from "./paper.js";
import { needCell, needClaims, ruleClaims, saidClaims } from "./said-claims.js";
import { listedValues, readSentence, unitIn } from "./sentence.js";

/** A column of a template with all that the sheet says of it. */
export interface TemplateColumn {
  readonly sheet: SheetPaper;
  /** From 0. */
  readonly at: number;
  /** As its heading is written, by which a filled file is found again. */
  readonly heading: string;
  /** Without marks of need. */
  readonly label: string;
  readonly code: string;
  readonly group: string;
  readonly claims: readonly Claim[];
  readonly hangs: SheetRule["hangs"];
  /** Whether the sheet itself says if it must be filled. */
  readonly saysNeed: boolean;
}

/** What a paper says of marks and colours. */
export interface HeadContext {
  readonly legend: NeedMarks;
  readonly colours: ReadonlyMap<string, NeedSaid>;
}

/** A heading that is a code alone gives way to the name that a guide has for it. */
export const labelConfidence = (heading: string): number =>
  heading === "" || isCode(heading) ? trust.codeAsLabel : trust.label;

/** Reads every named column of a template. */
export function templateColumns(
  sheet: SheetPaper,
  head: SheetHead,
  context: HeadContext,
): readonly TemplateColumn[] {
  const rowsOf = (role: string): readonly number[] =>
    head.rows.filter((one) => one.role === role).map(({ row }) => row);
  const [codes] = rowsOf("codes");
  const needRows = rowsOf("needs").map((row) => ({
    row,
    marks: needMarks(
      Array.from({ length: head.width }, (_, column) => textAt(sheet, row, column)),
      context.legend,
    ),
  }));
  const columns: TemplateColumn[] = [];
  for (let at = 0; at < head.width; at++) {
    const heading = headText(sheet, head.named, at);
    const code = codes === undefined ? "" : textAt(sheet, codes, at);
    if (heading === "" && code === "") continue;
    const marked = needOnLabel(heading.replace(/\s+/g, " "), context.legend);
    const { said } = marked;
    const { label, ruled } = withoutRule(marked.label);
    const own = cellOrigin(sheet, head.named, at);
    const claims: Claim[] = [];
    const add = (more: readonly Claim[]): void => addAll(claims, more);
    add([
      {
        fact: "label",
        value: label || code,
        confidence: labelConfidence(label),
        from: own,
        because: "the heading",
      },
    ]);
    for (const { row, marks } of needRows)
      add(
        needCell(
          textAt(sheet, row, at),
          marks,
          trust.needRow,
          cellOrigin(sheet, row, at),
          "the row of needs",
        ),
      );
    if (ruled !== "") add(saidClaims(ruled, trust.headingRule, own, "the heading"));
    add(needClaims(said, trust.headingMark, own, "the mark on the heading"));
    const group = groupOf(sheet, head, at);
    if (group !== "" && group.length < 40)
      add(needClaims(needOf(group), trust.headingGroup, own, "the group that it stands under"));
    for (const colour of headFill(sheet, head, at))
      add(needClaims(context.colours.get(colour), trust.headingColour, own, "the heading's colour"));
    for (const { row, role } of head.rows) add(rowClaims(sheet, row, at, role));
    for (const row of new Set([...head.rows.map((one) => one.row), head.firstRow])) {
      const { note } = cellAt(sheet, row, at);
      const from = cellOrigin(sheet, row, at);
      if (note.trim() !== "" && !(row >= head.firstRow && aboutExamples.test(note)))
        add([
          ...ruleClaims(note, trust.ruleText, from, "the cell's note"),
          { fact: "help", value: note.trim(), confidence: trust.helpText, from, because: "the cell's note" },
        ]);
    }
    const rules = sheet.rules.filter(({ firstColumn, lastColumn }) => firstColumn <= at && at <= lastColumn);
    for (const rule of rules) add(sheetRuleClaims(rule, sheet, at));
    add(exampleClaims(sheet, head, at));
    add(nameClaims(label || code, own));
    columns.push({
      sheet,
      at,
      heading: heading === "" ? code : heading,
      label: label || code,
      code,
      group,
      claims,
      hangs: rules.find(({ hangs }) => hangs !== undefined)?.hangs,
      saysNeed: claims.some(({ fact }) => fact === "need"),
    });
  }
  return columns;
}

/** A heading without the limit that stands in its brackets: `Title (max. 80 characters)`. */
function withoutRule(heading: string): { readonly label: string; readonly ruled: string } {
  const found = /^(.{2,60}?)\s*[([]([^()[\]]{5,80})[)\]]\s*$/u.exec(heading);
  if (found === null) return { label: heading, ruled: "" };
  const ruled = found[2] ?? "";
  const { maxLength, maxItems, decimals, date, min, max } = readSentence(ruled);
  const isRule = [maxLength, maxItems, decimals, date, min, max].some((one) => one !== undefined);
  return isRule ? { label: found[1] ?? heading, ruled } : { label: heading, ruled: "" };
}

/** A note that speaks of the filled row and not of the column. */
const aboutExamples =
  /^\s*(?:example|sample|beispiel|muster|exemple|ejemplo|delete|löschen|supprimer|borrar)/iu;

function rowClaims(
  sheet: SheetPaper,
  row: number,
  at: number,
  role: SheetHead["rows"][number]["role"],
): readonly Claim[] {
  const text = textAt(sheet, row, at);
  if (text === "") return [];
  const from = cellOrigin(sheet, row, at);
  switch (role) {
    case "kinds":
      return ruleClaims(text, trust.ruleText, from, "the row of kinds");
    case "guidance":
      return [
        ...ruleClaims(text, trust.ruleText, from, "the row of guidance"),
        { fact: "help", value: text, confidence: trust.helpText, from, because: "the row of guidance" },
      ];
    case "values": {
      const values = listedValues(text);
      if (values.length < 2) return [];
      return [
        {
          fact: "values",
          value: valuesText(values),
          confidence: trust.valueRow,
          from,
          because: "the row of values",
        },
        {
          fact: "kind",
          value: "choice",
          confidence: trust.choiceByValues,
          from,
          because: "the row of values",
        },
      ];
    }
    case "lengths":
      return /^\d+$/.test(text)
        ? [
            {
              fact: "max_length",
              value: text,
              confidence: trust.lengthRow,
              from,
              because: "the row of lengths",
            },
          ]
        : [];
    case "examples":
    case "labels":
    case "codes":
    case "needs":
    case "groups":
      return [];
  }
}

/** What a drop-down or another rule of the sheet's cells says. */
function sheetRuleClaims(rule: SheetRule, sheet: SheetPaper, at: number): readonly Claim[] {
  const from = cellOrigin(sheet, rule.firstRow, at);
  const because = "the cells' own rule";
  const claims: Claim[] = [];
  const claim = (fact: Claim["fact"], value: string, confidence: number = trust.cellRule): void =>
    void claims.push({ fact, value, confidence, from, because });
  if (rule.message !== "")
    addAll(claims, saidClaims(rule.message, trust.cellRuleMessage, from, "the message of the cells' rule"));
  const isNumber = (text: string): boolean => decimal(text) !== undefined;
  const least =
    rule.operator === "between" || rule.operator === "greaterThanOrEqual" || rule.operator === "equal"
      ? rule.first
      : "";
  const most =
    rule.operator === "between"
      ? rule.second
      : rule.operator === "lessThanOrEqual" || rule.operator === "equal"
        ? rule.first
        : "";
  switch (rule.kind) {
    case "list":
      if (rule.values.length === 0) return claims;
      claim("values", valuesText(rule.values), trust.cellRuleValues);
      claim("kind", "choice", trust.cellRuleChoice);
      if (rule.isOpen) claim("open", "yes", trust.cellRuleOpen);
      return claims;
    case "whole":
    case "decimal":
      claim("kind", rule.kind === "whole" ? "integer" : "decimal", trust.cellRuleNumber);
      if (isNumber(least)) claim("min", least);
      if (isNumber(most)) claim("max", most);
      return claims;
    case "date":
      claim("kind", "date");
      return claims;
    case "length":
      claim("kind", "text", trust.cellRuleText);
      if (isNumber(least) && least !== "0") claim("min_length", least);
      if (isNumber(most)) claim("max_length", most);
      return claims;
    case "other":
      return claims;
  }
}

const EXAMPLES_READ = 50;

/** What filled rows show of a column's kind; never as sure as a rule. */
function exampleClaims(sheet: SheetPaper, head: SheetHead, at: number): readonly Claim[] {
  const texts: { readonly text: string; readonly row: number }[] = [];
  for (let row = head.firstRow; row < head.firstRow + Math.min(head.examples, EXAMPLES_READ); row++) {
    const text = textAt(sheet, row, at);
    if (text !== "") texts.push({ text, row });
  }
  const [first] = texts;
  if (first === undefined) return [];
  const from = cellOrigin(sheet, first.row, at);
  return [
    { fact: "example", value: first.text, confidence: trust.example, from, because: "the filled row" },
    ...shownKind(texts.map(({ text }) => text)).map(({ fact, value, confidence }) => ({
      fact,
      value,
      confidence,
      from,
      because: "what the filled rows show",
    })),
  ];
}

/** The kind that all of some values have. */
export function shownKind(texts: readonly string[]): readonly Pick<Claim, "fact" | "value" | "confidence">[] {
  const all = (pattern: RegExp): boolean => texts.length > 0 && texts.every((text) => pattern.test(text));
  const few = texts.length < 3 ? trust.fewExamples : 0;
  if (all(/^https?:\/\/\S+$/)) return [{ fact: "kind", value: "url", confidence: trust.looksLink }];
  const day = [
    ["YYYY-MM-DD", /^\d{4}-\d\d-\d\d$/],
    ["DD.MM.YYYY", /^\d\d\.\d\d\.\d{4}$/],
    ["DD/MM/YYYY", /^(?:[0-2]\d|3[01])\/(?:0\d|1[0-2])\/\d{4}$/],
  ] as const;
  for (const [form, pattern] of day)
    if (all(pattern))
      return [
        { fact: "kind", value: "date", confidence: trust.looksDate },
        {
          fact: "date",
          value: form,
          confidence: form === "DD/MM/YYYY" ? trust.doubtfulDateForm : trust.dateForm,
        },
      ];
  if (all(/^-?\d+[.,]\d+$/)) {
    const places = new Set(texts.map((text) => text.split(/[.,]/)[1]?.length ?? 0));
    const [only] = places;
    return [
      { fact: "kind", value: "decimal", confidence: trust.looksDecimal - few },
      ...(places.size === 1
        ? [{ fact: "decimals" as const, value: String(only), confidence: trust.looksPlaces - few }]
        : []),
    ];
  }
  if (all(/^\d{1,6}$/) && !texts.some((text) => text.startsWith("0") && text.length > 1))
    return [{ fact: "kind", value: "integer", confidence: trust.looksInteger - few }];
  if (texts.some((text) => /\p{L}/u.test(text)))
    return [{ fact: "kind", value: "text", confidence: trust.looksText }];
  return [];
}

/** What a column's name alone says of its kind and unit. */
export function nameClaims(label: string, from: Claim["from"]): readonly Claim[] {
  const name = columnName(label);
  const because = "the column's name";
  const claims: Claim[] = [];
  const unit = unitIn(label) ?? name.unit;
  if (unit !== undefined) {
    claims.push({ fact: "unit", value: unit, confidence: trust.nameUnit, from, because });
    claims.push({ fact: "kind", value: "measure", confidence: trust.nameMeasure, from, because });
  }
  const spelled = fold(label);
  const byWord = wordKinds.find(([pattern]) => pattern.test(spelled));
  if (byWord !== undefined)
    claims.push({ fact: "kind", value: byWord[1], confidence: trust.nameKind, from, because });
  if (name.attribute !== undefined && name.certainty >= trust.knownName) {
    const { kind, list } = attributeKind(name.attribute);
    // Free words of ours may be a choice of theirs: no more than a hint.
    if (kind !== "text" && kind !== "html")
      claims.push({
        fact: "kind",
        value: kind === "measure" && unit === undefined ? "measure" : kind,
        confidence: trust.nameAttribute * name.certainty,
        from,
        because,
      });
    else if (!list)
      claims.push({
        fact: "kind",
        value: "text",
        confidence: trust.nameFreeText * name.certainty,
        from,
        because,
      });
  }
  return claims;
}

const wordKinds: readonly (readonly [RegExp, string])[] = [
  [/(?:^| )(?:urls?|links?|lien|liens|enlaces?|web address|page address)(?: |$)/, "url"],
  [
    /(?:^| )(?:image|images|picture|pictures|photo|photos|bild|bilder|foto|fotos|imagen|imagenes|\p{L}*bild)(?: |$)/u,
    "url",
  ],
  [/(?:^| )(?:gtin|ean|upc|barcode|strichcode|code barres|codigo de barras)(?: |$)/, "gtin"],
  [/(?:^| )(?:date|datum|fecha|\p{L}+datum)(?: |$)/u, "date"],
  [/(?:^| )(?:price|preis|prix|precio|\p{L}+preis|uvp)(?: |$)/u, "money"],
  [
    /(?:^| )(?:quantity|stock|bestand|cantidad|quantite|lagerbestand|number of|anzahl|nombre de)(?: |$)/,
    "integer",
  ],
];
