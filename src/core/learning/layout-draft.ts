import { columnLetter } from "../diagnostics/place.js";
import { fold } from "../values/text.js";
import { readYesNo } from "../values/yes-no.js";
import { valuesOf } from "./claim.js";
import type { LearnedChannel, LearnedField } from "./learned.js";
import { textAt } from "./paper.js";
import { schemaLayout } from "./schema-layout.js";
import type { Template } from "./sort-papers.js";

type Data = Readonly<Record<string, unknown>>;

/** How the channel's files write what has several forms. */
export interface StyleDraft {
  readonly settings: Data;
  isYesNo(values: readonly string[]): boolean;
}

const mostOf = (texts: readonly string[]): string | undefined => {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
};

export const styleDraft = ({ fields, guesses, schema }: LearnedChannel): StyleDraft => {
  const facts = fields.map((field) => field.facts);
  const lists = facts
    .filter((own) => own.get("kind")?.value === "yes-no")
    .map((own) => own.get("values")?.value ?? "")
    .filter(Boolean);
  const words = valuesOf(mostOf(lists) ?? "");
  const [yes, no] = [
    words.find((word) => readYesNo(word) === true),
    words.find((word) => readYesNo(word) === false),
  ];
  const date = mostOf(facts.flatMap((own) => own.get("date")?.value ?? []));
  const mark = guesses.get("decimal_mark")?.value;
  const isXml = schema?.format === "xml";
  return {
    settings: {
      ...(mark === undefined ? {} : { decimal_mark: mark }),
      ...(yes === undefined || no === undefined ? (isXml ? { yes: "true", no: "false" } : {}) : { yes, no }),
      ...(date === undefined || date === "YYYY-MM-DD" ? {} : { date }),
    },
    isYesNo: (values) =>
      values.length === 2 &&
      yes !== undefined &&
      no !== undefined &&
      values.includes(yes) &&
      values.includes(no),
  };
};

/** How much of a price or measure a column shows. */
export const partOf = ({ facts }: LearnedField): Data => {
  const kind = facts.get("kind")?.value ?? "text";
  if (kind !== "money" && kind !== "measure") return {};
  const example = facts.get("example")?.value ?? "";
  // "49.00 GBP" and "1.4 kg" show the whole; bare numbers, whose unit the heading says, a part.
  return /\d\s*\p{L}{1,3}$/u.test(example) ? {} : { part: "amount" };
};

interface TableColumn extends Data {
  readonly name: string;
}

/** The columns of one template in their order. */
const columnsOf = (learned: LearnedChannel, template: Template, told: string[]): readonly TableColumn[] => {
  const { sheet, head } = template;
  const isBook = sheet.sheet !== "";
  const headings = Array.from({ length: head.width }, (_, at) => textAt(sheet, head.named, at));
  const twice = new Set(
    headings
      .filter((heading, at) => headings.some((other, where) => where !== at && fold(other) === fold(heading)))
      .map(fold),
  );
  const columns: TableColumn[] = [];
  for (let at = 0; at < head.width; at++) {
    const found = learned.fields
      .flatMap((field) => field.columns.map((one) => ({ field, one })))
      .find(({ one }) => one.template === template && one.column.at === at);
    const heading = headings[at] ?? "";
    if (found === undefined) {
      if (!isBook) columns.push({ name: heading || `column ${columnLetter(at)}`, says: "nothing" });
      continue;
    }
    const { field, one } = found;
    const joined = field.facts.get("joined_by")?.value;
    columns.push({
      name: heading || one.column.heading,
      field: field.code,
      ...(one.item === undefined ? {} : { item: one.item + 1 }),
      ...partOf(field),
      ...(joined === undefined || one.item !== undefined ? {} : { joined_by: joined }),
      ...(isBook && (heading === "" || twice.has(fold(heading))) ? { at: columnLetter(at) } : {}),
    });
  }
  if (head.examples > 0 && isBook)
    told.push(
      `${sheet.file}, sheet "${sheet.sheet}": ${head.examples === 1 ? "the filled row" : `${head.examples} filled rows`} from row ${head.firstRow + 1} on ${head.examples === 1 ? "is an example" : "are examples"}, and cleared when it is filled`,
    );
  return columns;
};

/** A column that several templates have stands once. */
const withoutRepeats = (columns: readonly TableColumn[]): readonly TableColumn[] => {
  const seen = new Set<string>();
  return columns.filter((column) => {
    const key = JSON.stringify(column);
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
};

const bookOf = ({ sheet, head }: Template): Data => ({
  file: `published/${fileName(sheet.file)}`,
  sheet: sheet.sheet,
  header_row: head.named + 1,
  first_row: head.firstRow + 1,
  ...(head.examples > 0 ? { examples: head.examples } : {}),
});

/** The last part of a path, without what a file name of ours must not have. */
export const fileName = (file: string): string =>
  file
    .replace(/^.*[\\/]/, "")
    .normalize("NFC")
    .replace(/[^\p{L}\p{N} ._()-]+/gu, "-")
    .replace(/^\.+/, "") || "file";

const tableLayout = (
  learned: LearnedChannel,
  template: Template,
  channel: string,
  style: StyleDraft,
  told: string[],
): Data => {
  const { sheet, head } = template;
  const { separator = ",", encoding = "utf-8", startsWithMark = false, lineEnd = "\r\n" } = sheet.form ?? {};
  const rows = Array.from({ length: head.firstRow }, (_, row) => {
    const texts = (sheet.rows[row] ?? []).map(({ text }) => text);
    return Array.from({ length: Math.max(head.width, 1) }, (_unused, at) => texts[at] ?? "");
  });
  const ending = separator === "\t" ? "tsv" : "csv";
  return {
    layout: "table",
    format: "csv",
    file: `${channel}.${ending}`,
    settings: {
      separator,
      ...(encoding === "utf-8" ? {} : { encoding }),
      ...(startsWithMark ? { byte_order_mark: true } : {}),
      line_end: lineEnd === "\n" ? "lf" : "crlf",
      ...style.settings,
      head: rows,
    },
    columns: columnsOf(learned, template, told),
  };
};

const bookLayout = (learned: LearnedChannel, channel: string, style: StyleDraft, told: string[]): Data => {
  const { branches, papers } = learned;
  const [first] = papers.templates;
  const ending = /\.xlsm$/i.test(first?.sheet.file ?? "") ? "xlsm" : "xlsx";
  const books =
    branches.length === 0
      ? papers.templates.slice(0, 1).map((template) => ["*", bookOf(template)] as const)
      : branches.map(({ code, template }) => [code, bookOf(template)] as const);
  return {
    layout: "workbook",
    format: "xlsx",
    file: `${channel}.${ending}`,
    settings: {
      ...(branches.length === 0 ? {} : { by_branch: true }),
      ...style.settings,
      head: ["labels"],
      books: Object.fromEntries(books),
    },
    columns: withoutRepeats(papers.templates.flatMap((template) => columnsOf(learned, template, told))),
  };
};

/** The layout that fills that very workbook, or writes such a file. */
export const layoutDraft = (
  learned: LearnedChannel,
  channel: string,
  style: StyleDraft,
  told: string[],
): Data => {
  const { schema, papers, fields } = learned;
  if (schema !== undefined) return schemaLayout(learned, schema, channel, style, told);
  const [first] = papers.templates;
  if (first === undefined)
    return {
      layout: "table",
      format: "csv",
      file: `${channel}.csv`,
      settings: style.settings,
      columns: fields.map((field) => ({ name: field.name, field: field.code, ...partOf(field) })),
    };
  const isBook = first.sheet.sheet !== "";
  if (isBook) return bookLayout(learned, channel, style, told);
  if (papers.templates.length > 1)
    told.push(`of ${papers.templates.length} tables, files are written like ${first.sheet.file}`);
  return tableLayout(learned, first, channel, style, told);
};
