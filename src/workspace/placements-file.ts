/** `placements.csv`, held against the definition's tree. */
import { isThere } from "../formats/is-there.js";
import { nearCategories } from "../core/channel/near-categories.js";
import type { CategoryTree } from "../core/channel/category-tree.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Placement } from "../core/placement/placements.js";
import { readTable } from "./table-file.js";

/** Columns of `placements.csv`. */
export const placementColumns = [
  "our_category",
  "sku",
  "channel_category",
  "decided_by",
  "confidence",
] as const;

interface LoadedPlacements {
  readonly rows: readonly Placement[];
  readonly findings: readonly Diagnostic[];
}

/** Reads `placements.csv`; all rows that point nowhere or contradict each other are found at once. */
export async function loadPlacements(
  path: string,
  file: string,
  tree: CategoryTree,
): Promise<LoadedPlacements> {
  if (!isThere(path, file)) return { rows: [], findings: [] };
  const findings: Diagnostic[] = [];
  const rows: Placement[] = [];
  const seen = new Map<string, number>();
  for (const row of await readTable(path, file, ["our_category", "channel_category"])) {
    const [ourCategory, sku, wanted] = [
      row.cell("our_category"),
      row.cell("sku"),
      row.cell("channel_category"),
    ];
    // A row without a decision is a note to self: the category stays open.
    if (wanted === "") continue;
    if (ourCategory === "" && sku === "") {
      findings.push(
        diagnostic("blank-cell", { column: "our_category" }, { place: row.place("our_category") }),
      );
      continue;
    }
    const category = tree.named(wanted);
    const retired = category === undefined ? tree.retired(wanted) : undefined;
    if (category === undefined && retired === undefined) {
      const facts = { category: wanted, nearest: nearCategories(tree, wanted) };
      findings.push(diagnostic("unknown-category", facts, { place: row.place("channel_category") }));
      continue;
    }
    if (category?.isOpen === false) {
      findings.push(
        diagnostic("closed-category", { category: category.path }, { place: row.place("channel_category") }),
      );
      continue;
    }
    const key = sku === "" ? `category ${ourCategory}` : `sku ${sku}`;
    const first = seen.get(key);
    if (first !== undefined) {
      const facts = { what: `where ${key} goes`, first: `row ${first}` };
      findings.push(diagnostic("contradicting-rows", facts, { place: row.place() }));
      continue;
    }
    seen.set(key, row.place().row ?? 0);
    if (category !== undefined)
      rows.push({ ourCategory, sku, to: { kind: "category", category }, place: row.place() });
    else if (retired !== undefined)
      rows.push({ ourCategory, sku, to: { kind: "retired", ...retired }, place: row.place() });
  }
  return { rows, findings };
}
