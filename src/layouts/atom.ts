import type { FeedLayout } from "../core/channel/layout-definition.js";
import { rowsOf, type FileRow } from "../core/listing/shape/file-family.js";
import { xmlText } from "../formats/xml-text.js";
import { unparted, type FileFacts, type LayoutWriter } from "./layout.js";
import { feedElements, feedText } from "./rss.js";

/** Atom asks for a time of change; one that never moves keeps the same listings the same bytes. */
const UPDATED = "2000-01-01T00:00:00Z";

/** Atom 1.0 (RFC 4287) with the channel's own namespace. */
export function atomWriter(layout: FeedLayout, { account }: FileFacts): LayoutWriter {
  const { prefix, namespace, item } = layout;
  const elements = feedElements(layout, "    ");
  const entry = (row: FileRow): string =>
    `  <entry>\n    <id>${xmlText(account.shopUrl)}#${feedText(row, item.guid)}</id>\n    <title>${feedText(row, item.title)}</title>\n` +
    `    <updated>${UPDATED}</updated>\n    <link href="${feedText(row, item.link)}"/>\n` +
    `    <summary>${feedText(row, item.description)}</summary>\n${elements(row)}  </entry>\n`;
  return {
    head: () =>
      `<?xml version="1.0" encoding="UTF-8"?>\n<feed xmlns="http://www.w3.org/2005/Atom" xmlns:${prefix}="${xmlText(namespace)}">\n` +
      `  <id>${xmlText(account.shopUrl)}</id>\n  <title>${xmlText(account.title)}</title>\n  <updated>${UPDATED}</updated>\n` +
      `  <author><name>${xmlText(account.title)}</name></author>\n`,
    family: (family) => rowsOf(family).map(entry).join(""),
    apart: unparted,
    tail: () => "</feed>\n",
  };
}
