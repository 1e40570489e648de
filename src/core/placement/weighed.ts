import type { IndexedCategory } from "./category-index.js";
import type { Evidence } from "./evidence.js";
import type { CategoryHints } from "./surroundings.js";

/** A category that may be meant, with all that speaks for it or against it. */
export interface Weighed {
  readonly candidate: IndexedCategory;
  readonly evidence: Evidence;
  readonly around: CategoryHints;
}
