import type { LayoutDefinition } from "../core/channel/layout-definition.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { AccountFacts, LayoutWriter } from "./layout.js";
import { rssWriter } from "./rss.js";
import { tsvWriter } from "./tsv.js";

const written: readonly LayoutDefinition["format"][] = ["rss", "tsv"];

/** Whether the files of all layouts can be written; some formats come with a later version. */
export const canWrite = (layouts: readonly LayoutDefinition[]): boolean =>
  layouts.every(({ format }) => written.includes(format));

/** The writer for a definition's layout. */
export const writerFor = (layout: LayoutDefinition, account: AccountFacts): LayoutWriter => {
  switch (layout.format) {
    case "rss":
      return rssWriter(layout, account);
    case "tsv":
      return tsvWriter(layout);
    default:
      throw new Refusal([diagnostic("layout-not-yet", { format: layout.format, layout: layout.name })]);
  }
};
