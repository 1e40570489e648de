// The sandbox reads definitions by itself and knows nothing of core/: what both get wrong alike would be found by neither.
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import papaparse from "papaparse";
import { parse } from "yaml";
import { at } from "./named.js";

/** Rows of a definition's table. */
export type TableRows = readonly Readonly<Record<string, string>>[];

/** A column of a channel's files, as its definition lists it. */
export interface FileColumn {
  readonly name: string;
  readonly label: string;
  readonly field: string;
  readonly part: string;
  readonly joinedBy: string | undefined;
  /** Where it stands in a tree, where not under its own name. */
  readonly path: string;
  /** The element of one item of a list. */
  readonly item: string | undefined;
}

/** A layout, as the definition's file says it. */
export interface Layout {
  readonly name: string;
  readonly format: string;
  readonly file: string;
  readonly columns: readonly FileColumn[];
  readonly settings: Readonly<Record<string, unknown>>;
}

/** An exchange, as the definition's file says it. */
export interface Exchange {
  readonly send: Readonly<Record<string, string>> & { readonly parts?: Readonly<Record<string, string>> };
  readonly trial?: string;
  readonly token?: { readonly header: string; readonly says: string };
  readonly progress?: Readonly<Record<string, string>> & {
    readonly done: readonly string[];
    readonly thrown_out?: readonly string[];
  };
  readonly find?: { readonly from: string; readonly job?: string };
  readonly report?: string;
  readonly live?: Readonly<Record<string, string>>;
  readonly categories?: string;
}

/** A report's layout, as the definition's file says it. */
export interface Results {
  readonly format: string;
  readonly ref: string;
  readonly state: string;
  readonly code: string;
  readonly message: string;
  readonly row?: string;
  readonly id?: string;
  readonly field?: string;
  readonly accepted: readonly string[];
}

/** A purpose, as the definition's file says it. */
export interface Purpose {
  readonly purpose: string;
  readonly blank: string;
  readonly may: readonly string[];
  readonly must: readonly string[];
  readonly opens: boolean;
  readonly action: string;
}

/** What a played channel goes by: its definition's data. */
export interface ChannelData {
  readonly channel: string;
  readonly version: string;
  readonly identifiedBy: string;
  readonly categoryField: string;
  readonly categoryBy: string;
  readonly groupModel: string;
  readonly groupField: string;
  readonly nameOnce: boolean;
  readonly purposes: readonly Purpose[];
  readonly exchange: Exchange;
  readonly results: Results | undefined;
  readonly layout: Layout;
  readonly live: Layout;
  readonly categories: TableRows;
  readonly fields: TableRows;
  readonly lists: ReadonlyMap<string, ReadonlySet<string>>;
  readonly currencies: readonly string[];
}

const table = (path: string): TableRows =>
  existsSync(path)
    ? papaparse
        .parse<Record<string, string>>(readFileSync(path, "utf8").replace(/^\ufeff/, ""), {
          header: true,
          skipEmptyLines: true,
        })
        .data.filter((row) => !(Object.values(row)[0] ?? "").startsWith("#"))
    : [];

type WrittenDefinition = Readonly<Record<string, unknown>>;

const textOf = (value: unknown): string =>
  typeof value === "string" || typeof value === "number" ? String(value) : "";

function layoutOf(
  { layout, format, file, settings = {}, columns }: Readonly<Record<string, unknown>>,
  fields: TableRows,
): Layout {
  const own = settings as Readonly<Record<string, Readonly<Record<string, string>>>>;
  const labelOf = (code: string): string => fields.find((row) => row["field"] === code)?.["label"] ?? code;
  const codes = [...new Set(fields.map((row) => row["field"] ?? ""))];
  const listed = (columns ?? codes) as readonly (string | Readonly<Record<string, string>>)[];
  return {
    name: textOf(layout),
    format: textOf(format),
    file: textOf(file),
    settings: settings as Layout["settings"],
    columns: listed.map((column): FileColumn => {
      const written = typeof column === "string" ? { name: column } : column;
      const name = written["name"] ?? "";
      const field = "says" in written ? "" : "field" in written ? (written["field"] ?? "") : name;
      return {
        name,
        field,
        label: labelOf(field),
        part: ("part" in written ? written["part"] : undefined) ?? "whole",
        joinedBy: "joined_by" in written ? written["joined_by"] : undefined,
        path: at(own["paths"] ?? {}, name) ?? name,
        item: at(own["lists"] ?? {}, name),
      };
    }),
  };
}

/** Reads the definition that lies in a folder; undefined for a channel that takes no files by itself. */
export function channelData(folder: string): ChannelData | undefined {
  const written = parse(readFileSync(join(folder, "definition.yaml"), "utf8")) as WrittenDefinition;
  const { exchange, results } = written as { readonly exchange?: Exchange; readonly results?: Results };
  if (exchange === undefined) return undefined;
  const fields = table(join(folder, "fields.csv"));
  const layouts = (written["layouts"] as readonly Readonly<Record<string, unknown>>[]).map((one) =>
    layoutOf(one, fields),
  );
  const named = (name: string | undefined): Layout => {
    const found = name === undefined ? layouts[0] : layouts.find((one) => one.name === name);
    if (found === undefined) throw new Error(`${folder} has no layout ${name ?? ""}`);
    return found;
  };
  const lists = new Map<string, ReadonlySet<string>>();
  const values = join(folder, "values");
  for (const file of existsSync(values) ? readdirSync(values) : [])
    lists.set(
      file.replace(/\.csv$/, ""),
      new Set(table(join(values, file)).map((row) => row["value"] ?? "")),
    );
  const groups = written["groups"] as Readonly<Record<string, string>>;
  const limits = written["file_limits"] as { readonly name_once?: boolean } | undefined;
  const purposes = written["purposes"] as readonly (string | Partial<Purpose>)[];
  return {
    channel: textOf(written["channel"]),
    version: textOf(written["version"]),
    identifiedBy: textOf(written["identified_by"]),
    categoryField: textOf(written["category_field"]),
    categoryBy: textOf(written["category_by"]) || "path",
    groupModel: groups["model"] ?? "",
    groupField: groups["group_field"] ?? "",
    nameOnce: limits?.name_once === true,
    purposes: purposes.map((one) => ({
      purpose: "",
      blank: "leave",
      may: [],
      must: [],
      opens: false,
      action: "",
      ...(typeof one === "string" ? { purpose: one } : one),
    })),
    exchange,
    results,
    layout: named(exchange.send["layout"]),
    live: named(exchange.live?.["layout"] ?? exchange.send["layout"]),
    categories: table(join(folder, "categories.csv")),
    fields,
    lists,
    currencies: written["currencies"] as readonly string[],
  };
}
