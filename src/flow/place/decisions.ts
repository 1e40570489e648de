/** Decisions on placements, to become rows. */
import { pathParts, pathText } from "../../core/values/category-path.js";
import type { Category } from "../../core/channel/category-tree.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { editTable } from "../../workspace/edit-table.js";
import { placementColumns } from "../../workspace/placements-file.js";
import type { WritableWorkspace } from "../open-catalogue.js";
import { namedCategory } from "../channel-definition.js";
import { skusOf, type PlacementProposal } from "./proposals.js";
import type { Ours, OutOfDate } from "./subjects.js";

/** What is decided, to become a row of placements, or one for each product. */
export interface PlacementDecision {
  readonly path: string;
  /** Set where only these products go there, and not their whole category. */
  readonly skus: readonly string[];
  readonly category: Category;
  readonly confidence: number;
  readonly by: string;
}

/** `--set "Tools=BCDD"` as a decision, held against the tree. */
export function setDecision(
  text: string,
  { definition }: ChannelSetup,
  ours: Ours,
  by: string,
): PlacementDecision {
  const at = text.lastIndexOf("=");
  if (at <= 0)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `--set "${text}" is no placement; write --set "Our path"=CODE`,
      }),
    ]);
  const category = namedCategory(definition, text.slice(at + 1).trim());
  if (!category.isOpen) throw new Refusal([diagnostic("closed-category", { category: category.path })]);
  const named = text.slice(0, at).trim();
  const product = ours.products.find(({ skus }) => skus.includes(named));
  return product === undefined
    ? { path: pathText(pathParts(named)), skus: [], category, confidence: 1, by }
    : { path: product.path, skus: [named], category, confidence: 1, by };
}

/** What a retired code's successor decides. */
export function successorDecision({ placement, path, retired }: OutOfDate): readonly PlacementDecision[] {
  return retired.successor === undefined
    ? []
    : [
        {
          path: placement?.ourCategory ?? path,
          skus: [],
          category: retired.successor,
          confidence: 1,
          by: "successor",
        },
      ];
}

/** The best proposals that are at least so sure. */
export function accepted(
  proposals: readonly PlacementProposal[],
  least: number,
): readonly PlacementDecision[] {
  return proposals.flatMap(({ ours, suggestions: [best] }) =>
    best !== undefined && best.confidence >= least
      ? [
          {
            path: ours.path,
            skus: skusOf(ours),
            category: best.category,
            confidence: best.confidence,
            by: "lexicant",
          },
        ]
      : [],
  );
}

/** Writes decisions into the channel's placements, with who decided and how sure. */
export function writeDecisions(
  { workspace, landing }: WritableWorkspace,
  channel: string,
  decided: readonly PlacementDecision[],
): Promise<void> {
  return editTable(landing, workspace.path("channels", channel, "placements.csv"), {
    columns: placementColumns,
    keys: ["our_category", "sku"],
    edits: decided.flatMap(({ path, skus, category, confidence, by }) =>
      (skus.length === 0 ? [""] : skus).map((sku) => ({
        our_category: path,
        sku,
        channel_category: category.code,
        decided_by: by,
        confidence: String(Math.round(confidence * 100) / 100),
      })),
    ),
  });
}
