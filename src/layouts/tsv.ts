import type { TsvLayout } from "../core/channel/layout-definition.js";
import type { LayoutWriter } from "./layout.js";
import { partTexts } from "./part-text.js";

const LIST_JOIN = ",";

/** TSV has no quoting: a tab or line end inside a value becomes a space (IANA text/tab-separated-values). */
const cell = (text: string): string => (/[\t\n\r]/.test(text) ? text.replace(/\s*[\t\n\r]+\s*/g, " ") : text);

/** A header row of column names, then a row a listing. */
export const tsvWriter = ({ columns }: TsvLayout): LayoutWriter => ({
  head: () => `${columns.map(({ name }) => cell(name)).join("\t")}\n`,
  listing: (listing) =>
    `${columns.map((column) => cell(partTexts(listing.value(column.field.slot), column).join(LIST_JOIN))).join("\t")}\n`,
  tail: () => "",
});
