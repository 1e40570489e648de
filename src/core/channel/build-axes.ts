/** From the rows of `axes.csv` to rules of what members may differ in, faults told by row. */
import { isAttributeName } from "../catalogue/vocabulary.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import type { CategoryTree } from "./category-tree.js";
import type { AxisRule } from "./definition.js";
import { scopeOf } from "./scope.js";
import type { TableRow } from "./definition-source.js";

/** Builds the rules of what members may differ in, from the rows of `axes.csv`. */
export function buildAxes(
  rows: readonly TableRow[],
  tree: CategoryTree,
  findings: Diagnostic[],
): readonly AxisRule[] {
  return rows.map((row) => {
    const scope = scopeOf(row.cell("scope") || "*", tree, row.place("scope"), findings);
    const axes = row
      .cell("axes")
      .split(";")
      .map((axis) => axis.trim())
      .filter(Boolean);
    for (const axis of axes)
      if (!isAttributeName(axis))
        findings.push(
          diagnostic(
            "wrong-cell",
            { column: "axes", value: axis, expected: "attributes such as color; size" },
            { place: row.place("axes") },
          ),
        );
    return {
      scope,
      axes,
      mostAxes: count(row, "most_axes", findings),
      mostMembers: count(row, "most_members", findings),
      place: row.place(),
    };
  });
}

function count(row: TableRow, column: string, findings: Diagnostic[]): number | undefined {
  const text = row.cell(column);
  if (text === "") return undefined;
  if (/^\d{1,6}$/.test(text)) return Number(text);
  findings.push(
    diagnostic(
      "wrong-cell",
      { column, value: text, expected: "a whole number" },
      { place: row.place(column) },
    ),
  );
  return undefined;
}
