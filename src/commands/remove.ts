import { asSku, type Sku } from "../core/ids.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { countText } from "../core/diagnostics/phrases.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { chosenProducts } from "../flow/export/chosen-products.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { refuseUnknownSkus } from "../flow/refusals.js";
import { removeProducts, type Removed } from "../flow/remove/remove-products.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import type { CommandFile } from "./command-file.js";
import { command } from "./command.js";
import { flag, text } from "./options/option.js";

const SHOWN = 10;

/** `lexicant remove SKU…`: takes products out of the catalogue that came by mistake. */
export const remove: CommandFile = command({
  args: [["[skus...]", "the products' SKUs"]],
  options: {
    where: text(
      "--where <condition>",
      "the products for which it holds, such as 'name is blank'",
      "is a condition of at most 10,000 characters",
      10_000,
    ),
    dryRun: flag("--dry-run", "say what would go and what hangs on it, and change nothing"),
    yes: flag("--yes", "without asking, where a condition chooses"),
  },
  async run({ given, args, options, io }) {
    if ((args.length === 0) === (given.where === undefined))
      throw new Refusal([
        diagnostic("unknown-option", { reason: "name the products to remove: SKUs, or --where CONDITION" }),
      ]);
    return withCatalogue(options.workspace, io, async (open) => {
      const { workspace, store } = open;
      const skus: Sku[] = args.map(asSku);
      await refuseUnknownSkus(new Set(skus), store);
      if (given.where !== undefined)
        for await (const { sku } of (await chosenProducts(open, { where: given.where }, io))())
          skus.push(sku);
      const own = [...new Set(skus)];
      if (own.length === 0)
        throw new Refusal([diagnostic("unknown-option", { reason: "no product meets the condition" })]);
      if (given.where !== undefined && !given.yes && !given.dryRun && !(await confirmed(own, io))) return 1;
      const removed = await removeProducts(workspace, store, own, {
        at: io.now().toISOString(),
        dryRun: given.dryRun,
      });
      io.landed();
      if (options.json) io.out(jsonLine({ type: "removed", ...removed, dryRun: given.dryRun }));
      else if (!options.quiet) io.out(`${removedLines(removed, given.dryRun, io).join("\n")}\n`);
      return 0;
    });
  },
});

const named = (skus: readonly string[]): string =>
  `${skus.slice(0, SHOWN).join(", ")}${skus.length > SHOWN ? ` and ${(skus.length - SHOWN).toLocaleString("en")} more` : ""}`;

const confirmed = async (skus: readonly Sku[], io: Io): Promise<boolean> => {
  if (!io.isAttended)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `the condition takes ${countText(skus.length, "product")}; say --yes to remove them, or --dry-run to see them`,
      }),
    ]);
  const answer = await io.ask(`Remove ${countText(skus.length, "product")} (${named(skus)})? [y/n] `);
  return /^y(?:es)?$/i.test(answer?.trim() ?? "");
};

const removedLines = ({ skus, revisions, hangers }: Removed, dryRun: boolean, io: Io): readonly string[] => {
  const { bundles, sent, emptied } = hangers;
  return [
    `${styleFor(io).bold(countText(skus.length, "product"))} ${dryRun ? "would be removed" : "removed"}: ${named(skus)}`,
    ...(bundles.length > 0
      ? [
          `  ${countText(bundles.length, "bundle")} named one of them as a part and ${bundles.length === 1 ? "counts" : "count"} as out of stock: ${named(bundles.map(({ sku }) => sku))}`,
        ]
      : []),
    ...sent.map(
      ({ channel, listings }) =>
        `  ${channel} was sent ${countText(listings, "listing")} of them; take them down: lexicant build ${channel} --purpose withdraw`,
    ),
    ...(emptied.length > 0 ? [`  no member is left of: ${named(emptied)}`] : []),
    ...(dryRun
      ? [styleFor(io).bold("Nothing was changed: this was a dry run.")]
      : [
          `To have ${skus.length === 1 ? "it" : "them"} back: lexicant undo${revisions.length === 1 ? ` ${revisions[0] ?? ""}` : ""}`,
        ]),
  ];
};
