import type { Field } from "../core/channel/field.js";
import type { RssLayout } from "../core/channel/layout-definition.js";
import type { Listing } from "../core/listing/listing.js";
import { canonicalText } from "../core/values/show.js";
import { xmlText } from "../formats/xml-text.js";
import type { AccountFacts, LayoutWriter } from "./layout.js";
import { partTexts } from "./part-text.js";

/** RSS 2.0 with the channel's own namespace; without dates of the run, so that the same listings give the same bytes. */
export const rssWriter = (layout: RssLayout, account: AccountFacts): LayoutWriter => {
  const { prefix, namespace, item, columns } = layout;
  const tags = columns.map((column) => ({
    column,
    open: `      <${prefix}:${column.name}>`,
    close: `</${prefix}:${column.name}>\n`,
  }));
  const text = (listing: Listing, { slot }: Field): string => xmlText(canonicalText(listing.value(slot)));
  return {
    head: () =>
      `<?xml version="1.0" encoding="UTF-8"?>\n<rss version="2.0" xmlns:${prefix}="${xmlText(namespace)}">\n  <channel>\n` +
      `    <title>${xmlText(account.title)}</title>\n    <link>${xmlText(account.shopUrl)}</link>\n` +
      `    <description>${xmlText(account.description)}</description>\n`,
    listing(listing) {
      let xml =
        `    <item>\n      <title>${text(listing, item.title)}</title>\n      <link>${text(listing, item.link)}</link>\n` +
        `      <description>${text(listing, item.description)}</description>\n` +
        `      <guid isPermaLink="false">${text(listing, item.guid)}</guid>\n`;
      for (const { column, open, close } of tags)
        for (const part of partTexts(listing.value(column.field.slot), column))
          xml += open + xmlText(part) + close;
      return `${xml}    </item>\n`;
    },
    tail: () => "  </channel>\n</rss>\n",
  };
};
