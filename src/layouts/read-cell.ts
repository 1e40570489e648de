/** A cell of a layout read back: what {@link cellTexts} wrote. */
import { itemsOf } from "../core/catalogue/list-text.js";
import type { LayoutColumn, LayoutDefinition } from "../core/channel/layout-definition.js";
import type { MaybeBlank } from "../core/values/value.js";
import { cellTexts } from "./cell-text.js";

/** How a list's values are joined in a cell; undefined in a tree, where each stands by itself. */
const markOf = (layout: LayoutDefinition, { joinedBy }: LayoutColumn): string | undefined =>
  joinedBy ?? ("joinedBy" in layout ? layout.joinedBy : undefined);

/** Pieces between marks; behind the escape a mark is a piece's own. */
function split(text: string, mark: string, escape: string): readonly string[] {
  if (escape === "") return text.split(mark);
  const items: string[] = [];
  let item = "";
  for (let at = 0; at < text.length;) {
    if (text.startsWith(escape, at) && at + escape.length < text.length) {
      const sign = text.startsWith(mark, at + escape.length) ? mark : (text[at + escape.length] ?? "");
      item += sign;
      at += escape.length + sign.length;
    } else if (text.startsWith(mark, at)) {
      items.push(item);
      item = "";
      at += mark.length;
    } else item += text[at++] ?? "";
  }
  return [...items, item];
}

/** The texts that a cell of the channel's holds for a column: of a list its items. */
export function textsInCell(cell: string, column: LayoutColumn, layout: LayoutDefinition): readonly string[] {
  if (cell === "") return [];
  const { field, item } = column;
  if (!field.list || item !== undefined) return [cell];
  const mark = markOf(layout, column);
  const pieces = itemsOf(cell);
  if (pieces.length > 1 || mark === undefined) return pieces;
  return split(cell, mark, "escape" in layout ? layout.escape : "").map((piece) => piece.trim());
}

/** The texts that a column shows for a value, as {@link textsInCell} reads them back. */
export function textsOfValue(
  value: MaybeBlank,
  column: LayoutColumn,
  layout: LayoutDefinition,
): readonly string[] {
  return cellTexts(value, { ...column, joinedBy: undefined }, layout.style);
}
