import { addAll } from "../many.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { layoutCells, type Cell, type FindField } from "./layout-columns.js";
import { orNearest } from "../diagnostics/phrases.js";
import { nearest } from "../values/nearest.js";
import type { Place } from "../diagnostics/place.js";
import type { DefinitionSource, LayoutSource } from "./definition-source.js";
import type { Field } from "./field.js";
import {
  layoutFormats,
  type ChannelBook,
  type HeadRow,
  type LayoutColumn,
  type LayoutDefinition,
  type ValueStyle,
} from "./layout-definition.js";
import { layoutSettings, type LayoutSettings } from "./layout-settings.js";

interface BuiltLayouts {
  readonly layouts: readonly LayoutDefinition[];
  readonly findings: readonly Diagnostic[];
}

const encodings = ["utf-8", "utf-16le", "windows-1252", "iso-8859-1", "iso-8859-15"] as const;

/** Ties each layout's columns and elements to the fields they show. */
export const buildLayouts = (
  sources: DefinitionSource["layouts"],
  fields: readonly Field[],
): BuiltLayouts => {
  const findings: Diagnostic[] = [];
  const byCode = new Map<string, Field>(fields.map((field) => [field.code, field]));
  const find: FindField = (code, place) => {
    const field = byCode.get(code);
    if (field === undefined)
      findings.push(
        diagnostic("unknown-field", { field: code, nearest: nearest(code, byCode.keys()) }, { place }),
      );
    return field;
  };
  const layouts = sources.flatMap((source) => {
    const settings = layoutSettings(source.settings ?? {}, source.place, findings);
    const built = layoutOf(source, settings, fields, find, findings);
    settings.end();
    addAll(findings, pricesApart(built, source.place));
    if (built === undefined && findings.length === 0)
      findings.push(
        diagnostic(
          "wrong-setting",
          { key: "layouts", reason: `"${source.format}" is no layout: ${layoutFormats.join(", ")}` },
          { place: source.place },
        ),
      );
    return built === undefined ? [] : [built];
  });
  return { layouts, findings };
};

/** In JSON-LD the terms for money are an offer's: on a product a price would say nothing to who reads it. */
const pricesApart = (layout: LayoutDefinition | undefined, place: Place): readonly Diagnostic[] => {
  if (layout?.format !== "jsonld") return [];
  const { columns, offer, listPrice } = layout;
  return columns
    .filter(({ field }) => field.kind === "money" && !offer.includes(field) && field !== listPrice)
    .map(({ name }) =>
      diagnostic(
        "wrong-setting",
        {
          key: "settings.offer",
          reason: `lists the money column "${name}", or settings.list_price names it`,
        },
        { place },
      ),
    );
};

const isField = (cell: Cell): cell is LayoutColumn => "field" in cell;

const styleOf = (settings: LayoutSettings): ValueStyle => ({
  decimalMark: settings.oneOf("decimal_mark", [".", ","], "."),
  yes: settings.text("yes", "yes"),
  no: settings.text("no", "no"),
  date: settings.text("date", "YYYY-MM-DD"),
});

const ITEM_KEYS = ["title", "link", "description", "guid"] as const;
const HEAD_WORDS = ["codes", "labels"] as const;

/** Rows above those of listings: the columns' names, their labels, or texts of the channel's own. */
const headOf = (settings: LayoutSettings): readonly HeadRow[] => {
  const head = settings.raw("head");
  if (head === undefined) return ["codes"];
  const isTexts = (row: unknown): row is readonly string[] =>
    Array.isArray(row) && row.every((cell) => typeof cell === "string");
  if (!Array.isArray(head)) {
    settings.wrong("head", "is a list of rows");
    return ["codes"];
  }
  return head.flatMap((row: unknown): readonly HeadRow[] => {
    const word = HEAD_WORDS.find((known) => known === row);
    if (word !== undefined) return [word];
    if (isTexts(row)) return [row];
    const near = typeof row === "string" ? orNearest(nearest(row, HEAD_WORDS)) : "";
    settings.wrong("head", `has rows that are codes, labels or lists of texts${near}`);
    return [];
  });
};

const tableOf = (cells: readonly Cell[], settings: LayoutSettings, joinedBy: string) => ({
  cells,
  head: headOf(settings),
  joinedBy: settings.text("joined_by", joinedBy),
  escape: settings.text("escape", ""),
  kinds: {
    single: settings.text("single_row", ""),
    group: settings.text("group_row", "group"),
    member: settings.text("member_row", "member"),
  },
});

const bookKeys = ["file", "sheet", "header_row", "first_row", "examples"];

/** The channel's own workbooks, each with where its listings go. */
const booksOf = (settings: LayoutSettings): Readonly<Record<string, ChannelBook>> => {
  const raw = settings.raw("books");
  if (raw === undefined) return {};
  if (typeof raw !== "object" || raw === null || Array.isArray(raw)) {
    settings.wrong("books", "gives each branch's code, or *, its workbook");
    return {};
  }
  return Object.fromEntries(
    Object.entries(raw).flatMap(([branch, book]: [string, unknown]) => {
      const inner: Diagnostic[] = [];
      if (typeof book !== "object" || book === null) {
        settings.wrong(`books.${branch}`, `holds ${bookKeys.join(", ")}`);
        return [];
      }
      const own = layoutSettings(
        book as Readonly<Record<string, unknown>>,
        settings.place,
        inner,
        `settings.books.${branch}.`,
      );
      const headerRow = own.count("header_row", 1);
      const found: ChannelBook = {
        file: own.text("file", ""),
        sheet: own.text("sheet", "Sheet1"),
        headerRow,
        firstRow: own.count("first_row", headerRow + 1),
        examples: own.raw("examples") === undefined ? 0 : own.count("examples", 1),
      };
      if (!/^[^/\\.][^/\\]*(?:\/[^/\\.][^/\\]*)*\.xls[xm]$/i.test(found.file))
        own.wrong("file", "is a workbook in the definition's folder, such as published/items.xlsx");
      if (found.firstRow <= headerRow) own.wrong("first_row", "stands below header_row");
      own.end();
      settings.tell(inner);
      return [[branch, found] as const];
    }),
  );
};

/** What speaks of a column that the layout does not have would be passed over. */
const refuseForeign = (
  key: string,
  entries: Readonly<Record<string, string>>,
  cells: readonly Cell[],
  settings: LayoutSettings,
): void => {
  const names = cells.map(({ name }) => name);
  for (const name of Object.keys(entries))
    if (!names.includes(name))
      settings.wrong(key, `names a column that is not there: "${name}"${orNearest(nearest(name, names))}`);
};

const layoutOf = (
  source: LayoutSource,
  settings: LayoutSettings,
  fields: readonly Field[],
  find: FindField,
  findings: Diagnostic[],
): LayoutDefinition | undefined => {
  const cells = layoutCells(source, fields, find, findings);
  const { name, file, place, namespace = "", prefix = "x" } = source;
  const named = (key: string, entries: Readonly<Record<string, string>>) => {
    refuseForeign(key, entries, cells, settings);
    return entries;
  };
  const common = {
    name,
    file,
    columns: cells.filter(isField),
    style: styleOf(settings),
    encoding: settings.oneOf("encoding", encodings, "utf-8"),
    packing: settings.oneOf("packing", ["none", "gzip", "zip"], "none"),
    purposes: source.purposes,
    fileLimits: source.file_limits,
  };
  const format = layoutFormats.find((known) => known === source.format);
  switch (format) {
    case undefined:
      return undefined;
    case "csv":
      return {
        ...common,
        ...tableOf(cells, settings, "|"),
        format,
        separator: settings.text("separator", ","),
        quote: settings.oneOf("quote", ["needed", "always"], "needed"),
        lineEnd: settings.oneOf("line_end", ["lf", "crlf"], "crlf") === "lf" ? "\n" : "\r\n",
        startsWithMark: settings.yesNo("byte_order_mark", false),
        formulas: settings.oneOf("formulas", ["keep", "apostrophe", "space"], "keep"),
      };
    case "tsv":
      return { ...common, ...tableOf(cells, settings, ","), format };
    case "xlsx":
      return {
        ...common,
        ...tableOf(cells, settings, "|"),
        format,
        sheet: settings.text("sheet", "Sheet1"),
        templates: settings.text("templates", ""),
        headerRow: settings.count("header_row", 1),
        books: booksOf(settings),
        byBranch: settings.yesNo("by_branch", false),
        rulesAsNotes: settings.yesNo("rules_as_notes", false),
        dropDowns: settings.yesNo("drop_downs", false),
      };
    case "xml":
      return {
        ...common,
        format,
        namespace,
        root: settings.text("root", "listings"),
        group: settings.text("group", "group"),
        member: settings.text("member", "listing"),
        lists: named("lists", settings.map("lists")),
        paths: named("paths", settings.map("paths")),
        actionAttribute: settings.text("action_attribute", ""),
      };
    case "json":
    case "jsonl":
      return {
        ...common,
        format,
        root: settings.text("root", ""),
        hasNumbers: settings.oneOf("amounts", ["texts", "numbers"], "texts") === "numbers",
      };
    case "jsonld": {
      const fieldAt = (key: string): Field | undefined => {
        const code = settings.text(key, "");
        return code === "" ? undefined : find(code, place);
      };
      const fieldsOf = (codes: readonly string[]): readonly Field[] =>
        codes.flatMap((code) => find(code, place) ?? []);
      return {
        ...common,
        format,
        context: settings.text("context", "https://schema.org"),
        groupType: settings.text("group_type", "ProductGroup"),
        memberType: settings.text("member_type", "Product"),
        members: settings.text("members", "hasVariant"),
        groupName: fieldAt("group_name"),
        offer: fieldsOf(settings.texts("offer")),
        listPrice: fieldAt("list_price"),
        priceFor: fieldAt("price_for"),
        audience: fieldsOf(settings.texts("audience")),
        also: Object.fromEntries(
          Object.entries(settings.lists("also")).map(([type, codes]) => [type, fieldsOf(codes)]),
        ),
      };
    }
    case "rss":
    case "atom": {
      const { item = {} } = source;
      for (const key of Object.keys(item))
        if (!ITEM_KEYS.some((known) => known === key))
          findings.push(
            diagnostic(
              "unknown-setting",
              { key: `item.${key}`, nearest: nearest(key, ITEM_KEYS) },
              { place },
            ),
          );
      const [title, link] = [find(item["title"] ?? "", place), find(item["link"] ?? "", place)];
      const [description, guid] = [find(item["description"] ?? "", place), find(item["guid"] ?? "", place)];
      if (title === undefined || link === undefined || description === undefined || guid === undefined)
        return undefined;
      return { ...common, format, prefix, namespace, item: { title, link, description, guid } };
    }
  }
};
