import { choiceOptions } from "./options/shared-options.js";
import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { flag, text, named } from "./options/option.js";
import { extname, resolve } from "node:path";
import { existsSync } from "node:fs";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import { jsonLine } from "../report/json.js";
import type { CommandFile } from "./command-file.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import { chosenProducts } from "../flow/choice/chosen-products.js";
import { sheetColumns } from "../flow/export/sheet-columns.js";
import { csvFile, csvOut, xlsxFile } from "../flow/export/sheet-writer.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { refuseUnused } from "../flow/refusals.js";

/** `lexicant export FILE`: products as a sheet that imports back unchanged. */
export const exportSheet: CommandFile = command({
  args: [["<file>", "a CSV or XLSX file to write, or - for CSV on standard output"]],
  options: {
    ...choiceOptions,
    forChannel: named(
      "--for-channel <channel>",
      "as this channel sees them; what changes there comes back for it alone",
    ),
    only: text(
      "--only <attributes>",
      "only these attributes, with commas between",
      "is a list of attributes with commas between",
      100_000,
    ),
    force: flag("--force", "write over a file that is there"),
  },
  examples: [
    ["export stock.xlsx --only name,price,quantity", "a sheet to change and import again"],
    ["export - --lacking merrowgate", "as CSV on standard output"],
  ],
  async run({ given, args, options, io }) {
    const [file = ""] = args;
    const path = resolve(io.cwd, file);
    refuseIdle([
      [given.force && file === "-", "--force", "a file"],
      [options.json && file === "-", "--json", "a file: standard output has the sheet itself"],
    ]);
    const ending = extname(file).toLowerCase();
    if (file !== "-" && ending !== ".csv" && ending !== ".xlsx")
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: `a sheet ends in .csv or .xlsx, and "${file}" does not (or write - for CSV on standard output)`,
        }),
      ]);
    if (file !== "-" && !given.force && existsSync(path))
      throw new Refusal([diagnostic("file-exists", { path: file })]);
    return withCatalogue(options.workspace, io, async (open) => {
      const { store, workspace } = open;
      const { forChannel } = given;
      refuseUnused(forChannel, workspace);
      const products = chosenProducts(store, await chooseProducts(open, given, io), forChannel);
      const columns = await sheetColumns(store, given.only, products, forChannel);
      const write =
        file === "-" ? csvOut(io.out) : ending === ".xlsx" ? xlsxFile(path, file) : csvFile(path, file);
      const written = await write(products(), columns, forChannel);
      if (options.json && file !== "-")
        io.out(jsonLine({ type: "export", file, products: written, attributes: columns }));
      else if (!options.quiet)
        io.err(
          written === 0
            ? `No product is meant; ${file === "-" ? "there is" : `${file} has`} the header alone.\n`
            : `${countText(written, "product")}, ${countText(columns.length, "attribute")}${file === "-" ? "" : ` written to ${file}; change cells there and "lexicant import ${file}" takes the changes in`}\n`,
        );
      return 0;
    });
  },
});
