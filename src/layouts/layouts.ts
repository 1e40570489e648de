import { assertNever } from "../core/assert-never.js";
import type { LayoutDefinition } from "../core/channel/layout-definition.js";
import type { AccountFacts, LayoutWriter } from "./layout.js";
import { rssWriter } from "./rss.js";
import { tsvWriter } from "./tsv.js";

/** The writer for a definition's layout. */
export const writerFor = (layout: LayoutDefinition, account: AccountFacts): LayoutWriter => {
  switch (layout.format) {
    case "rss":
      return rssWriter(layout, account);
    case "tsv":
      return tsvWriter(layout);
    default:
      return assertNever(layout);
  }
};
