import { command } from "./command.js";
import { text, limit } from "./options/option.js";
import { textOf, type Product } from "../core/catalogue/product.js";
import { countText } from "../core/diagnostics/phrases.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { CommandFile } from "./command-file.js";
import { conditionOf } from "../flow/condition.js";
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

/** `lexicant list`: the catalogue's products, all or those a condition takes. */
export const list: CommandFile = command({
  args: [],
  options: {
    where: text(
      "--where <condition>",
      "only products for which it holds, such as 'quantity > 0 and category under \"Tools\"'",
      "is a condition of at most 10,000 characters",
      10_000,
    ),
    limit: limit(`at most so many products (${SHOWN} unless in JSON)`),
  },
  async run({ given, options, io }) {
    return withCatalogue(options.workspace, io, async ({ store, surroundings }) => {
      const attributes = await store.attributes();
      const where =
        given.where === undefined ? undefined : conditionOf(given.where, attributes, await surroundings());
      const limit = given.limit ?? (options.json ? Infinity : SHOWN);
      const shown: Product[] = [];
      let found = 0;
      for await (const batch of store.families())
        for (const { members } of batch)
          for (const product of members) {
            if (where !== undefined && where.run(product) !== true) continue;
            found++;
            if (found > limit) continue;
            if (options.json) io.out(jsonLine(productJson(product)));
            else shown.push(product);
          }
      if (options.json) return 0;
      if (found === 0) {
        io.out(
          (await store.isEmpty())
            ? 'The catalogue is empty; fill it with "lexicant import FILE".\n'
            : "No product meets the condition.\n",
        );
        return 0;
      }
      const [head = "", ...rows] = tableLines(columns, shown.map(cells), io.columns);
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
