/** RSS 2.0, and what it shares with Atom. */
import type { Field } from "../core/channel/field.js";
import type { FeedLayout } from "../core/channel/layout-definition.js";
import { rowsOf, type FileRow } from "../core/listing/shape/file-family.js";
import { canonicalText } from "../core/values/show.js";
import { xmlText } from "../formats/xml-text.js";
import { cellTexts } from "./cell-text.js";
import { unparted, type FileFacts, type LayoutWriter } from "./layout.js";

/** The channel's own elements of one row, each in its namespace. */
export function feedElements({ columns, prefix, style }: FeedLayout, indent: string) {
  const tags = columns.map((column) => ({
    column,
    open: `${indent}<${prefix}:${column.name}>`,
    close: `</${prefix}:${column.name}>\n`,
  }));
  return (row: FileRow): string => {
    let xml = "";
    for (const { column, open, close } of tags) {
      const value = row.value(column.field);
      if (value === undefined) continue;
      for (const text of cellTexts(value, column, style)) xml += open + xmlText(text) + close;
    }
    return xml;
  };
}

/** A field's text for a standard element. */
export const feedText = (row: FileRow, field: Field): string => xmlText(canonicalText(row.value(field)));

/** RSS 2.0 with the channel's own namespace; without dates of the run, so that the same listings give the same bytes. */
export function rssWriter(layout: FeedLayout, { account }: FileFacts): LayoutWriter {
  const { prefix, namespace, item } = layout;
  const elements = feedElements(layout, "      ");
  const itemOf = (row: FileRow): string =>
    `    <item>\n      <title>${feedText(row, item.title)}</title>\n      <link>${feedText(row, item.link)}</link>\n` +
    `      <description>${feedText(row, item.description)}</description>\n` +
    `      <guid isPermaLink="false">${feedText(row, item.guid)}</guid>\n${elements(row)}    </item>\n`;
  return {
    head: () =>
      `<?xml version="1.0" encoding="UTF-8"?>\n<rss version="2.0" xmlns:${prefix}="${xmlText(namespace)}">\n  <channel>\n` +
      `    <title>${xmlText(account.title)}</title>\n    <link>${xmlText(account.shopUrl)}</link>\n` +
      `    <description>${xmlText(account.description)}</description>\n`,
    family: (family) => rowsOf(family).map(itemOf).join(""),
    apart: unparted,
    tail: () => "  </channel>\n</rss>\n",
  };
}
