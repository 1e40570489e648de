import type { CsvLayout } from "../layout-definition.js";
import type { LayoutFormat } from "./layout-format.js";
import { headerRowOf, tableSettings } from "./table-settings.js";

/** Comma-separated values (RFC 4180), with the separators, quotes and line ends that channels differ in. */
export const csv: LayoutFormat<CsvLayout> = {
  build(parts, format) {
    const { common, settings } = parts;
    return {
      ...common,
      ...tableSettings(parts, "|"),
      format,
      separator: settings.text("separator", ","),
      quote: settings.oneOf("quote", ["needed", "always"], "needed"),
      lineEnd: settings.oneOf("line_end", ["lf", "crlf"], "crlf") === "lf" ? "\n" : "\r\n",
      startsWithMark: settings.yesNo("byte_order_mark", false),
      formulas: settings.oneOf("formulas", ["keep", "apostrophe", "space"], "keep"),
    };
  },
  readBack: (layout) => ({ format: "csv", delimiter: layout.separator, headerRow: headerRowOf(layout) }),
  showsShop: false,
};
