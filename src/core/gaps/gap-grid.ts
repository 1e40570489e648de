/** A gap sheet as cells: which stands where, and what each says. How it looks is `formats/form-workbook.ts`'s. */
import { ownOf } from "../own.js";
import type { CategoryField } from "../channel/category-rules.js";
import type { GapRow, GapSheet, OpenCell, Question } from "./gap-collector.js";
import { targetKey } from "./question.js";
import { factsText, FOR_ALL, markText, rowText, SAME_AS, type SheetFacts } from "./sheet-marks.js";
import type { CellRole, FormCell, FormChoice, FormSheet } from "./form.js";
import { limitWords } from "../channel/limit-words.js";

/** The title of a workbook by which a gap sheet is known. */
export const GAP_TITLE = "Lexicant gap sheet";

/** What a sheet says of itself, and how its channels are called. */
export interface GapFacts extends SheetFacts {
  /** The channels' names as people write them. */
  readonly labels: Readonly<Record<string, string>>;
}

interface GridColumn {
  readonly key: string;
  readonly title: string;
  readonly rule: string;
  readonly width: number;
  readonly note?: string;
  readonly isHidden?: boolean;
  readonly forAll: FormCell;
  cell(row: GapRow): FormCell;
}

const cell = (text: string, role: CellRole): FormCell => ({ text, role });

function fixedColumns(facts: GapFacts, { questions }: GapSheet): readonly GridColumn[] {
  const fixed = (
    key: string,
    title: string,
    width: number,
    textOf: (row: GapRow) => string,
    forAll = "",
  ): GridColumn => ({
    key,
    title,
    width,
    rule: "",
    forAll: cell(forAll, "fixed"),
    cell: (row) => cell(textOf(row), "fixed"),
  });
  return [
    fixed(factsText(facts), "SKU", 15, ({ sku }) => sku, FOR_ALL),
    { ...fixed("row", "Row", 4, (row) => rowText(row.sku, openNumbers(row, questions))), isHidden: true },
    fixed("name", "Name", 27, ({ name }) => name, "what stands here counts for every open cell below"),
    fixed("help", "What it is", 22, ({ help }) => help),
    fixed("category", "Our category", 22, ({ category }) => category),
    {
      ...fixed("image", "Picture", 7, () => ""),
      cell: ({ image }) => ({
        ...cell(image === "" ? "" : "see it", "fixed"),
        ...(/^https?:\/\//.test(image) ? { link: image } : {}),
      }),
    },
  ];
}

/** The questions that are open in a row, by their numbers in the sheet. */
const openNumbers = ({ cells }: GapRow, questions: readonly Question[]): readonly number[] =>
  questions.flatMap(({ target }, number) => {
    const open = cells.get(targetKey(target));
    return open !== undefined && open.sameAs === undefined ? [number] : [];
  });

function goesInto({ target }: Question, { labels }: GapFacts): string {
  switch (target.kind) {
    case "attribute":
      return `Goes into the catalogue as ${target.attribute}, for all channels.`;
    case "field":
      return `Goes to ${ownOf(labels, target.channel) ?? target.channel} alone.`;
    case "term":
      return `Goes into the lexicon of ${ownOf(labels, target.channel) ?? target.channel}: what is chosen for a term counts for all products that have it.`;
  }
}

function noteFor(question: Question, facts: GapFacts): string {
  const { rule, askers } = question;
  const { help, example } = rule.field;
  return [
    `${question.label}: ${limitWords(rule).join(", ")}.`,
    ...(example === "" ? [] : [`Such as: ${example}`]),
    ...(help === "" ? [] : [help]),
    goesInto(question, facts),
    `Asked by ${askers.map(({ channel, field }) => `${ownOf(facts.labels, channel) ?? channel} (${field})`).join(", ")}.`,
  ].join("\n");
}

const brief = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text);

/** The rule in the few words that fit below a title. */
function shortRule({ rule: { field, limits } }: Question): string {
  const { values, maxLength, maxItems } = limits;
  if (values !== undefined) return `one of ${values.values.length.toLocaleString("en")} values`;
  if (field.unit !== undefined) return `in ${field.unit.code}, such as ${brief(field.example)}`;
  const like = field.example === "" ? "" : `such as ${brief(field.example)}`;
  const most =
    maxLength === undefined
      ? ""
      : `at most ${maxLength}${maxItems === undefined ? "" : ` each, ${maxItems} of them`}`;
  return [like, most].filter(Boolean).join("; ");
}

function openText(open: OpenCell | undefined): FormCell {
  if (open === undefined) return cell("", "idle");
  return open.sameAs === undefined ? cell("", "open") : cell(`${SAME_AS}${open.sameAs}`, "idle");
}

function questionColumns(
  question: Question,
  number: number,
  { rows }: GapSheet,
  facts: GapFacts,
): readonly GridColumn[] {
  const key = targetKey(question.target);
  const mark = { question: number, target: question.target };
  const cells = rows.map((row) => row.cells.get(key));
  const hasNow = cells.some((open) => (open?.now ?? "") !== "");
  const hasProposal = cells.some((open) => open?.proposal !== undefined && open.sameAs === undefined);
  const asked = (row: GapRow): OpenCell | undefined => row.cells.get(key);
  const isTerm = question.target.kind === "term";
  const own = (row: GapRow): OpenCell | undefined => {
    const open = asked(row);
    return open?.sameAs === undefined ? open : undefined;
  };
  return [
    ...(hasNow
      ? [
          {
            key: markText({ column: "now", ...mark }),
            title: isTerm ? `${question.label}: our term` : `${question.label}, now`,
            rule: "",
            width: 22,
            forAll: cell("", "fixed"),
            cell: (row: GapRow) => cell(asked(row)?.now ?? "", asked(row) === undefined ? "idle" : "now"),
          },
        ]
      : []),
    {
      key: markText({ column: "ask", ...mark, askers: question.askers }),
      title: `${question.label}${question.target.kind === "attribute" ? "" : ` (${ownOf(facts.labels, question.target.channel) ?? question.target.channel})`}`,
      rule: shortRule(question),
      width: 21,
      note: noteFor(question, facts),
      // One of our terms is not another: what counts for one has no meaning for all.
      forAll: isTerm ? cell("", "idle") : cell("", "for-all"),
      cell: (row) => openText(asked(row)),
    },
    ...(hasProposal
      ? [
          {
            key: markText({ column: "offer", ...mark }),
            title: "our proposal",
            rule: "",
            width: 20,
            forAll: cell("", "fixed"),
            cell: (row: GapRow) => ({
              ...cell(
                own(row)?.proposal?.value ?? "",
                own(row)?.proposal === undefined ? "idle" : "proposal",
              ),
              ...(own(row)?.proposal === undefined ? {} : { note: own(row)?.proposal?.reason ?? "" }),
            }),
          } satisfies GridColumn,
          {
            key: markText({ column: "take", ...mark }),
            title: "take it?",
            rule: "yes",
            width: 8,
            forAll: cell("", "for-all"),
            cell: (row: GapRow) => cell("", own(row)?.proposal === undefined ? "idle" : "open"),
          } satisfies GridColumn,
        ]
      : []),
  ];
}

/** Rows before the products: keys, titles, rules, and the row that counts for all. */
export const HEAD_ROWS = 4;
const FIXED_COLUMNS = 3;

const choicesFor = (sheet: GapSheet, columns: readonly GridColumn[]): readonly FormChoice[] =>
  columns.flatMap((column, index): readonly FormChoice[] => {
    if (column.key.startsWith("take "))
      return [
        {
          column: index,
          rows: [HEAD_ROWS - 1, ...sheet.rows.map((_, row) => row + HEAD_ROWS)],
          values: ["yes"],
          isClosed: true,
        },
      ];
    const question = sheet.questions.find((_, number) => column.key.startsWith(`ask ${number} `));
    return question === undefined ? [] : valueChoices(sheet, question, index);
  });

/** The list that a cell's answer is taken from: where several channels ask with lists of their own, none binds. */
function listOf({ rules }: OpenCell): CategoryField["limits"] | undefined {
  const [first] = rules;
  const lists = new Set(rules.map(({ rule }) => rule.limits.values));
  return lists.size === 1 && first?.rule.limits.values !== undefined && !first.rule.field.list
    ? first.rule.limits
    : undefined;
}

function valueChoices(sheet: GapSheet, question: Question, column: number): readonly FormChoice[] {
  const key = targetKey(question.target);
  const byList = new Map<string, { limits: CategoryField["limits"]; rows: number[] }>();
  sheet.rows.forEach((row, at) => {
    const open = row.cells.get(key);
    const limits = open === undefined || open.sameAs !== undefined ? undefined : listOf(open);
    if (limits?.values === undefined) return;
    const known = byList.get(limits.values.name) ?? { limits, rows: [] };
    byList.set(limits.values.name, known);
    known.rows.push(at + HEAD_ROWS);
  });
  const isOne = byList.size === 1 && question.target.kind !== "term";
  return [...byList.values()].map(({ limits, rows }) => ({
    column,
    rows: isOne ? [HEAD_ROWS - 1, ...rows] : rows,
    values: limits.values?.values.map(({ value }) => value) ?? [],
    isClosed: limits.isOpenList !== true,
  }));
}

const FORBIDDEN = /[[\]:*?/\\']/g;
const NAME_LENGTH = 31;

const cutAtWord = (text: string, length: number): string =>
  text.length <= length
    ? text
    : text
        .slice(0, length + 1)
        .replace(/[\s&]+\S*$/, "")
        .slice(0, length);

function sheetName({ channel, branch }: GapSheet, taken: Set<string>): string {
  const whole = [channel === "" ? "Catalogue" : channel, branch]
    .filter(Boolean)
    .join(" ")
    .replace(FORBIDDEN, " ");
  let name = cutAtWord(whole, NAME_LENGTH);
  for (let number = 2; taken.has(name.toLowerCase()); number++)
    name = `${cutAtWord(whole, NAME_LENGTH - 3)} ${number}`;
  taken.add(name.toLowerCase());
  return name;
}

/** A gap sheet as cells: what helps to decide to the left, then a column for each question. */
export function gapGrid(sheet: GapSheet, facts: GapFacts, taken: Set<string>): FormSheet {
  const columns = [
    ...fixedColumns(facts, sheet),
    ...sheet.questions.flatMap((question, number) => questionColumns(question, number, sheet, facts)),
  ];
  return {
    name: sheetName(sheet, taken),
    columns: columns.map(({ width, isHidden }) => ({ width, isHidden: isHidden === true })),
    rows: [
      columns.map(({ key }) => cell(key, "key")),
      columns.map(({ title, note }) => ({
        ...cell(title, "title"),
        ...(note === undefined ? {} : { note }),
      })),
      columns.map(({ rule }) => cell(rule, "rule")),
      columns.map(({ forAll }) => forAll),
      ...sheet.rows.map((row) => columns.map((column) => column.cell(row))),
    ],
    // Titles and rules take two lines where the columns are narrow.
    heights: new Map([
      [1, 28],
      [2, 26],
    ]),
    hiddenRows: [0],
    frozen: { rows: HEAD_ROWS, columns: FIXED_COLUMNS },
    choices: choicesFor(sheet, columns),
  };
}
