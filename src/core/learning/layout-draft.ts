/** The layout that fills the very workbook, or writes such a file. */
import { columnLetter } from "../diagnostics/place.js";
import { fold } from "../values/text.js";
import { partOf, type StyleDraft, type YamlData } from "./layout-style.js";
import type { LearnedChannel } from "./learned.js";
import { textAt } from "./paper.js";
import { schemaLayout } from "./schema-layout.js";
import type { Template } from "./sort-papers.js";

interface DraftColumn extends YamlData {
  readonly name: string;
}

/** The columns of one template in their order. */
function columnsOf(learned: LearnedChannel, template: Template, told: string[]): readonly DraftColumn[] {
  const { sheet, head } = template;
  const isBook = sheet.sheet !== "";
  const headings = Array.from({ length: head.width }, (_, at) => textAt(sheet, head.named, at));
  const twice = new Set(
    headings
      .filter((heading, at) => headings.some((other, where) => where !== at && fold(other) === fold(heading)))
      .map(fold),
  );
  const columns: DraftColumn[] = [];
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
}

/** A column that several templates have stands once. */
function withoutRepeats(columns: readonly DraftColumn[]): readonly DraftColumn[] {
  const seen = new Set<string>();
  return columns.filter((column) => {
    const key = JSON.stringify(column);
    if (seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

const bookOf = ({ sheet, head }: Template): YamlData => ({
  file: `published/${fileName(sheet.file)}`,
  sheet: sheet.sheet,
  header_row: head.named + 1,
  first_row: head.firstRow + 1,
  ...(head.examples > 0 ? { examples: head.examples } : {}),
});

/** The last part of a path, without what a file name of ours must not have. */
export function fileName(file: string): string {
  return (
    file
      .replace(/^.*[\\/]/, "")
      .normalize("NFC")
      .replace(/[^\p{L}\p{N} ._()-]+/gu, "-")
      .replace(/^\.+/, "") || "file"
  );
}

function tableLayout(
  learned: LearnedChannel,
  template: Template,
  channel: string,
  style: StyleDraft,
  told: string[],
): YamlData {
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
}

function bookLayout(learned: LearnedChannel, channel: string, style: StyleDraft, told: string[]): YamlData {
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
}

/** The layout that fills that very workbook, or writes such a file. */
export function layoutDraft(
  learned: LearnedChannel,
  channel: string,
  style: StyleDraft,
  told: string[],
): YamlData {
  const { schema, papers, fields } = learned;
  if (schema !== undefined) return schemaLayout({ learned, schema, channel, style, told });
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
}
