import type { JsonLayout } from "../layout-definition.js";
import type { LayoutFormat } from "./layout-format.js";

/** JSON (RFC 8259) and JSON Lines: a record a listing, by the columns' names. */
export const json: LayoutFormat<JsonLayout> = {
  build: ({ common, settings }, format) => ({
    ...common,
    format,
    root: settings.text("root", ""),
    hasNumbers: settings.oneOf("amounts", ["texts", "numbers"], "texts") === "numbers",
  }),
  readBack: ({ format }) => ({ format }),
  showsShop: false,
};
