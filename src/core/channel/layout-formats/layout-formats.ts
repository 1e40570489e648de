/** Every format of files that a channel can ask for. The compiler says which is missing. */
import type { Field } from "../field.js";
import type { LayoutColumn, LayoutDefinition } from "../layout-definition.js";
import type { ReadAs } from "../record-format.js";
import { csv } from "./csv.js";
import { feed } from "./feed.js";
import { json } from "./json.js";
import { jsonLd } from "./jsonld.js";
import type { LayoutFormat, LayoutOfFormat, LayoutParts } from "./layout-format.js";
import { tsv } from "./tsv.js";
import { xlsx } from "./xlsx.js";
import { xml } from "./xml.js";

type FormatName = LayoutDefinition["format"];

const formats: { readonly [Format in FormatName]: LayoutFormat<LayoutOfFormat<Format>> } = {
  rss: feed,
  atom: feed,
  csv,
  tsv,
  xlsx,
  xml,
  json,
  jsonl: json,
  jsonld: jsonLd,
};

/** Names of the formats, in the order in which messages list them. */
export const layoutFormats = Object.keys(formats) as readonly FormatName[];

/** The format of a layout; its type and the layout's belong together by its name. */
const formatOf = (format: FormatName): LayoutFormat<LayoutDefinition> => formats[format];

/** The layout that a definition's settings come to; undefined where what it needs is missing, which is told. */
export const buildLayout = (format: FormatName, parts: LayoutParts): LayoutDefinition | undefined =>
  formatOf(format).build(parts, format);

/** What is wrong between a layout's columns and settings. */
export function faultsOf(
  layout: LayoutDefinition,
): readonly { readonly key: string; readonly reason: string }[] {
  return formatOf(layout.format).faults?.(layout) ?? [];
}

/** How a file of a layout is read as a table again; undefined where its rows are not looked up. */
export const readBack = (layout: LayoutDefinition): ReadAs | undefined =>
  formatOf(layout.format).readBack(layout);

/** Where a column stands in a record of such a file: under its name, or at a path of a tree. */
export const columnPlace = (layout: LayoutDefinition, column: LayoutColumn): string =>
  formatOf(layout.format).placeOf?.(layout, column) ?? column.name;

/** Whether files of a layout show the shop's web address. */
export const showsShop = ({ format }: LayoutDefinition): boolean => formatOf(format).showsShop;

/** Fields that a layout shows of groups. */
export const groupFieldsOf = (layout: LayoutDefinition): readonly Field[] =>
  formatOf(layout.format).groupFields?.(layout) ?? [];
