import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { nearCodes } from "./near-categories.js";
import type { Place } from "../diagnostics/place.js";
import type { CategoryCode } from "../ids.js";
import type { CategoryTree } from "./category-tree.js";

/** Where a rule of a definition counts: everywhere, or in a category and all below it. */
export type Scope = "*" | CategoryCode;

/** The scope that a cell names, by code or path; one that is not in the tree is told with the nearest. */
export function scopeOf(text: string, tree: CategoryTree, place: Place, findings: Diagnostic[]): Scope {
  const category = text === "*" ? undefined : tree.named(text);
  if (text !== "*" && category === undefined) {
    findings.push(
      diagnostic("unknown-category", { category: text, nearest: nearCodes(tree, text) }, { place }),
    );
  }
  return category?.code ?? "*";
}
