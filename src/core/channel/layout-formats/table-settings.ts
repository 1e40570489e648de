/** What layouts of rows have in common: rows above those of listings, marks between values, words for kinds of rows. */
import { orNearest } from "../../diagnostics/phrases.js";
import { nearest } from "../../values/nearest.js";
import type { HeadRow, TableSettings } from "../layout-definition.js";
import type { LayoutSettings } from "../layout-settings.js";
import type { LayoutParts } from "./layout-format.js";

const HEAD_WORDS = ["codes", "labels"] as const;

/** Rows above those of listings: the columns' names, their labels, or texts of the channel's own. */
function headOf(settings: LayoutSettings): readonly HeadRow[] {
  const head = settings.raw("head");
  if (head === undefined) return ["codes"];
  const isTexts = (row: unknown): row is readonly string[] =>
    Array.isArray(row) && row.every((cell) => typeof cell === "string");
  if (!Array.isArray(head)) {
    settings.wrong("head", "is a list of rows");
    return ["codes"];
  }
  return head.flatMap((row: unknown): readonly HeadRow[] => {
    const word = HEAD_WORDS.find((known) => known === row);
    if (word !== undefined) return [word];
    if (isTexts(row)) return [row];
    const near = typeof row === "string" ? orNearest(nearest(row, HEAD_WORDS)) : "";
    settings.wrong("head", `has rows that are codes, labels or lists of texts${near}`);
    return [];
  });
}

/** @param joinedBy what stands between a list's values where the definition does not say */
export const tableSettings = ({ cells, settings }: LayoutParts, joinedBy: string): TableSettings => ({
  cells,
  head: headOf(settings),
  joinedBy: settings.text("joined_by", joinedBy),
  escape: settings.text("escape", ""),
  kinds: {
    single: settings.text("single_row", ""),
    group: settings.text("group_row", "group"),
    member: settings.text("member_row", "member"),
  },
});

/** The row with the columns' names in a file that we wrote: the last above the listings. */
export const headerRowOf = ({ head }: TableSettings): number => Math.max(1, head.length);
