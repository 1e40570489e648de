import type { Place } from "../diagnostics/place.js";
import type { GoodRow, QualityRow } from "./good.js";
import { goodsLanguages } from "./word-forms.js";

type CellText = (column: string) => string | undefined;

const list = (cell: string | undefined): readonly string[] =>
  (cell ?? "")
    .split(";")
    .map((text) => text.trim())
    .filter((text) => text !== "");

const wordsOf = (cell: CellText): GoodRow["words"] => ({
  ...Object.fromEntries(goodsLanguages.map((language) => [language, list(cell(language))])),
  en: [cell("name") ?? "", ...list(cell("also"))],
});

/** A row of a table of goods: `name`, `also`, a column a language, `kind_of`, `part_of`, `for`; lists by semicolons. */
export const goodRow = (cell: CellText, field: string, place: Place): GoodRow => ({
  name: cell("name") ?? "",
  words: wordsOf(cell),
  kindOf: list(cell("kind_of")),
  partOf: list(cell("part_of")),
  forWhom: cell("for") ?? "",
  field,
  place,
});

/** A row of the table of qualities: `name`, `also`, a column a language, `kind_of`, `is_a`. */
export const qualityRow = (cell: CellText): QualityRow => ({
  name: cell("name") ?? "",
  words: wordsOf(cell),
  kindOf: cell("kind_of") ?? "",
  isA: cell("is_a") ?? "",
});
