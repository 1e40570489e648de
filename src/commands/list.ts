import { command } from "./command.js";
import { limit } from "./options/option.js";
import { textOf, type Product } from "../core/catalogue/product.js";
import { countText } from "../core/diagnostics/phrases.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { CommandFile } from "./command-file.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import { chosenProducts } from "../flow/choice/chosen-products.js";
import { choiceOptions } from "./options/shared-options.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { productJson } from "../report/product-json.js";

const SHOWN = 40;

const columns = [
  { title: "sku" },
  { title: "name", flexible: true },
  { title: "group", flexible: true },
  { title: "price", align: "right" },
  { title: "quantity", align: "right" },
  { title: "category", flexible: true },
] as const;

/** `lexicant list`: the catalogue's products, all or those that are chosen. */
export const list: CommandFile = command({
  args: [],
  options: {
    ...choiceOptions,
    limit: limit(`at most so many products (${SHOWN} unless in JSON)`),
  },
  examples: [
    ["list --where 'quantity > 0' --category Seeds", "what is in stock of one category"],
    ["list --lacking merrowgate", "what this channel holds back"],
    ["list --json > all.jsonl", "the whole catalogue, for programs"],
  ],
  async run({ given, options, io }) {
    return withCatalogue(options.workspace, io, async (open) => {
      const { store } = open;
      if (!options.json && (await store.isEmpty())) {
        io.out('The catalogue is empty; fill it with "lexicant import FILE".\n');
        return 0;
      }
      const choice = await chooseProducts(open, given, io);
      const limit = given.limit ?? (options.json ? Infinity : SHOWN);
      const shown: Product[] = [];
      let found = 0;
      for await (const product of chosenProducts(store, choice)()) {
        found++;
        if (found > limit) continue;
        if (options.json) io.out(jsonLine(productJson(product)));
        else shown.push(product);
      }
      if (options.json) return 0;
      if (found === 0) {
        io.out("No product is meant: of those that are chosen, the channel asked for names none.\n");
        return 0;
      }
      const [head = "", ...rows] = tableLines(columns, shown.map(cells), io);
      const more =
        found > shown.length
          ? `; ${countText(found - shown.length, "more", "more")} with --limit ${found}`
          : "";
      io.out(`${styleFor(io).bold(head)}\n${rows.map((row) => `${row}\n`).join("")}`);
      if (!options.quiet) io.err(`${countText(found, "product")}${more}\n`);
      return 0;
    });
  },
});

const cells = (product: Product): readonly string[] =>
  columns.map(({ title }) => (title === "sku" ? product.sku : (textOf(product, title) ?? "")));
