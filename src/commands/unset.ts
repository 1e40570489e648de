import { addAll } from "../core/many.js";
import { editPlan, oneAct } from "../flow/one-act.js";
import { command } from "./command.js";
import { flag, text } from "./options/option.js";
import { RETRACTED } from "../core/catalogue/record.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import type { CatalogueTransaction } from "../store/store.js";
import type { CommandFile } from "./command-file.js";
import { skusIn } from "../flow/choice/sku-list.js";
import { withCatalogueToChange, type WritableCatalogue } from "../flow/open-catalogue.js";
import { attributesIn, refuseUnknownSkus, refuseUnused } from "../flow/refusals.js";
import { ownWords, type OwnWord } from "../flow/unset/own-words.js";

const SHOWN = 10;

/** `lexicant unset CHANNEL [SKU…]`: what was said for this channel alone is taken back; the catalogue shows through again. */
export const unset: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["[skus...]", "the products, or @FILE with one SKU a line (all, if none is named)"],
  ],
  options: {
    only: text(
      "--only <attributes>",
      "only these attributes, with commas between",
      "is a list of attributes with commas between",
      100_000,
    ),
    dryRun: flag("--dry-run", "say what would be taken back, and change nothing"),
  },
  examples: [["unset merrowgate BC-1301 --only name", "one product's name there is the catalogue's again"]],
  async run({ given, args, options, io }) {
    const [channel = "", ...named] = args;
    return withCatalogueToChange(given.dryRun)(options, io, async (open) => {
      const { workspace, store } = open;
      refuseUnused(channel, workspace);
      const skus: string[] = [];
      for (const list of named) addAll(skus, list.startsWith("@") ? await skusIn(list, io) : [list]);
      await refuseUnknownSkus(skus, store);
      const attributes = attributesIn(given.only ?? "", await store.attributes());
      const wanted = { skus: new Set(skus), attributes: new Set(attributes) };
      const words: OwnWord[] = [];
      for await (const word of ownWords(workspace, store, channel, wanted)) words.push(word);
      const dryRun = given.dryRun;
      const revisions = dryRun || words.length === 0 ? [] : await takeBack(words, open, io);
      if (options.json) {
        for (const word of words) io.out(jsonLine({ type: "unset-value", channel, ...word, dryRun }));
        io.out(jsonLine({ type: "unset", channel, values: words.length, revisions, dryRun }));
      } else io.out(`${report(channel, words, revisions, dryRun).join("\n")}\n`);
      return 0;
    });
  },
});

/** One act: a revision for each layer that said something. */
async function takeBack(
  words: readonly OwnWord[],
  open: WritableCatalogue,
  io: Io,
): Promise<readonly number[]> {
  const at = io.now().toISOString();
  const taken = await oneAct(open, async (transaction) => {
    const revisions: number[] = [];
    for (const layer of new Set(words.map((word) => word.layer))) {
      const own = words.filter((word) => word.layer === layer);
      const revision = await retract(layer, own, transaction, at);
      if (revision !== undefined) revisions.push(revision);
    }
    return revisions;
  });
  return taken;
}

async function retract(
  layer: string,
  words: readonly OwnWord[],
  transaction: CatalogueTransaction,
  at: string,
): Promise<number | undefined> {
  const attributes = [...new Set(words.map(({ attribute }) => attribute))];
  const writer = await transaction.revision(
    editPlan(
      { layer, file: "unset", at },
      attributes.map((attribute) => ({ attribute, column: "" })),
    ),
  );
  const said = new Map<string, Set<string>>();
  for (const { sku, attribute } of words) said.set(sku, (said.get(sku) ?? new Set()).add(attribute));
  await writer.put(
    [...said].map(([sku, own]) => ({
      kind: "product",
      row: 0,
      texts: [sku, ...attributes.map((attribute) => (own.has(attribute) ? RETRACTED : ""))],
      doubts: [],
    })),
  );
  return writer.finish({ read: said.size, added: 0, changed: said.size, unchanged: 0, rejected: 0 });
}

function report(
  channel: string,
  words: readonly OwnWord[],
  revisions: readonly number[],
  dryRun: boolean,
): readonly string[] {
  if (words.length === 0) return [`Nothing is said for ${channel} alone; it shows what the catalogue says.`];
  const products = new Set(words.map(({ sku }) => sku)).size;
  const counts = `${countText(words.length, "value")} of ${countText(products, "product")}`;
  const [latest] = [...revisions].reverse();
  return [
    `${counts} ${dryRun ? "would be" : words.length === 1 ? "was" : "were"} taken back on ${channel}; the catalogue shows there ${dryRun ? "then" : "again"}:`,
    ...words.slice(0, SHOWN).map(({ sku, attribute, layer }) => `  ${sku}: ${attribute} (${layer})`),
    ...(words.length > SHOWN ? [`  and ${(words.length - SHOWN).toLocaleString("en")} more`] : []),
    ...(latest === undefined ? [] : [`To have ${words.length === 1 ? "it" : "them"} back: lexicant undo`]),
  ];
}
