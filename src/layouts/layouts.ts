import type { LayoutDefinition, XlsxLayout } from "../core/channel/layout-definition.js";
import { assertNever } from "../core/assert-never.js";
import { atomWriter } from "./atom.js";
import { csvWriter } from "./csv.js";
import { jsonWriter } from "./json.js";
import { jsonLdWriter } from "./jsonld.js";
import type { FileFacts, LayoutWriter } from "./layout.js";
import { rssWriter } from "./rss.js";
import { tsvWriter } from "./tsv.js";
import { xmlWriter } from "./xml.js";

/** The writer for a layout that is text; workbooks are written by `xlsx.ts`. */
export const writerFor = (layout: Exclude<LayoutDefinition, XlsxLayout>, facts: FileFacts): LayoutWriter => {
  switch (layout.format) {
    case "rss":
      return rssWriter(layout, facts);
    case "atom":
      return atomWriter(layout, facts);
    case "csv":
      return csvWriter(layout, facts);
    case "tsv":
      return tsvWriter(layout, facts);
    case "xml":
      return xmlWriter(layout, facts);
    case "json":
    case "jsonl":
      return jsonWriter(layout);
    case "jsonld":
      return jsonLdWriter(layout);
    default:
      return assertNever(layout);
  }
};
