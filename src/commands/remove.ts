import { addAll } from "../core/many.js";
import { asSku, type Sku } from "../core/ids.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { countText } from "../core/diagnostics/phrases.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import { isNarrowed } from "../flow/choice/choice-wishes.js";
import { chosenProducts } from "../flow/choice/chosen-products.js";
import { skusIn } from "../flow/choice/sku-list.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { choiceOptions } from "./options/shared-options.js";
import { withWritableCatalogue } from "../flow/open-catalogue.js";
import { refuseUnknownSkus } from "../flow/refusals.js";
import { removeProducts, type Removed } from "../flow/remove/remove-products.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import type { CommandFile } from "./command-file.js";
import { command } from "./command.js";
import { flag } from "./options/option.js";

const SHOWN = 10;

/** `lexicant remove SKU…`: takes products out of the catalogue that came by mistake. */
export const remove: CommandFile = command({
  args: [["[skus...]", "the products' SKUs, or @FILE with one a line"]],
  options: {
    ...choiceOptions,
    dryRun: flag("--dry-run", "say what would go and what hangs on it, and change nothing"),
    yes: flag("--yes", "without asking, where options choose"),
  },
  examples: [
    ["remove BC-1301 BC-1302", "two products"],
    ["remove --where 'name is blank' --dry-run", "what would go, and what hangs on it"],
  ],
  async run({ given, args, options, io }) {
    const isChosen = isNarrowed(given);
    if ((args.length === 0) === !isChosen)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: "name the products to remove: their SKUs, or options that choose them, such as --where",
        }),
      ]);
    refuseIdle([[given.yes && !isChosen, "--yes", "options that choose products"]]);
    return withWritableCatalogue(options, io, async (open) => {
      const { store } = open;
      const skus: Sku[] = [];
      for (const list of args)
        addAll(skus, (list.startsWith("@") ? await skusIn(list, io) : [list]).map(asSku));
      await refuseUnknownSkus(new Set(skus), store);
      if (isChosen)
        for await (const { sku } of chosenProducts(store, await chooseProducts(open, given, io))())
          skus.push(sku);
      const own = [...new Set(skus)];
      if (own.length === 0) throw new Refusal([diagnostic("nothing-chosen", { by: ["these options"] })], 1);
      if (isChosen && !given.yes && !given.dryRun && !(await confirmed(own, io))) return 1;
      const removed = await removeProducts(open, own, {
        at: io.now().toISOString(),
        dryRun: given.dryRun,
      });
      if (options.json)
        io.out(
          jsonLine({
            type: "removed",
            ...removed,
            revisions: given.dryRun ? [] : removed.revisions,
            dryRun: given.dryRun,
          }),
        );
      else if (!options.quiet) io.out(`${removedLines(removed, given.dryRun, io).join("\n")}\n`);
      return 0;
    });
  },
});

const named = (skus: readonly string[]): string =>
  `${skus.slice(0, SHOWN).join(", ")}${skus.length > SHOWN ? ` and ${(skus.length - SHOWN).toLocaleString("en")} more` : ""}`;

async function confirmed(skus: readonly Sku[], io: Io): Promise<boolean> {
  if (!io.isAttended)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `the options choose ${countText(skus.length, "product")}; say --yes to remove them, or --dry-run to see them`,
      }),
    ]);
  const answer = await io.ask(`Remove ${countText(skus.length, "product")} (${named(skus)})? [y/n] `);
  return /^y(?:es)?$/i.test(answer?.trim() ?? "");
}

function removedLines({ skus, revisions, hangers }: Removed, dryRun: boolean, io: Io): readonly string[] {
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
}
