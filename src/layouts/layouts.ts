/** The writers of layouts that are text, one a format: the compiler says which is missing. Workbooks are written by `xlsx.ts`. */
import type { LayoutOfFormat } from "../core/channel/layout-formats/layout-format.js";
import type { LayoutDefinition, XlsxLayout } from "../core/channel/layout-definition.js";
import { atomWriter } from "./atom.js";
import { csvWriter } from "./csv.js";
import { jsonWriter } from "./json.js";
import { jsonLdWriter } from "./jsonld.js";
import type { FileFacts, LayoutWriter } from "./layout.js";
import { rssWriter } from "./rss.js";
import { tsvWriter } from "./tsv.js";
import { xmlWriter } from "./xml.js";

/** A layout that is text. */
export type TextLayout = Exclude<LayoutDefinition, XlsxLayout>;

type WriterOf<Layout> = (layout: Layout, facts: FileFacts) => LayoutWriter;

const writers: { readonly [Format in TextLayout["format"]]: WriterOf<LayoutOfFormat<Format>> } = {
  rss: rssWriter,
  atom: atomWriter,
  csv: csvWriter,
  tsv: tsvWriter,
  xml: xmlWriter,
  json: jsonWriter,
  jsonl: jsonWriter,
  jsonld: jsonLdWriter,
};

/** The writer for a layout. */
export const writerFor = (layout: TextLayout, facts: FileFacts): LayoutWriter =>
  (writers[layout.format] as WriterOf<TextLayout>)(layout, facts);
