import type { TsvLayout } from "../layout-definition.js";
import type { LayoutFormat } from "./layout-format.js";
import { headerRowOf, tableSettings } from "./table-settings.js";

/** Tab-separated values (IANA text/tab-separated-values): no quotes, so tabs and line ends within a value become spaces. */
export const tsv: LayoutFormat<TsvLayout> = {
  build: (parts, format) => ({ ...parts.common, ...tableSettings(parts, ","), format }),
  readBack: (layout) => ({ format: "csv", delimiter: "\t", headerRow: headerRowOf(layout) }),
  showsShop: false,
};
