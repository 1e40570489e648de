/** XML of a channel's own: an element a listing, those of members within their group's. */
import { orNearest } from "../../diagnostics/phrases.js";
import { ownOf } from "../../own.js";
import { nearest } from "../../values/nearest.js";
import type { XmlLayout } from "../layout-definition.js";
import type { LayoutFormat, LayoutParts } from "./layout-format.js";

/** Settings by column. What speaks of a column that the layout does not have would be passed over: it is told. */
function byColumn({ settings, cells }: LayoutParts, key: string): Readonly<Record<string, string>> {
  const entries = settings.map(key);
  const names = cells.map(({ name }) => name);
  for (const name of Object.keys(entries))
    if (!names.includes(name))
      settings.wrong(key, `names a column that is not there: "${name}"${orNearest(nearest(name, names))}`);
  return entries;
}

/** XML of the channel's own. */
export const xml: LayoutFormat<XmlLayout> = {
  build(parts, format) {
    const { common, settings, source } = parts;
    return {
      ...common,
      format,
      namespace: source.namespace ?? "",
      root: settings.text("root", "listings"),
      group: settings.text("group", "group"),
      member: settings.text("member", "listing"),
      lists: byColumn(parts, "lists"),
      paths: byColumn(parts, "paths"),
      actionAttribute: settings.text("action_attribute", ""),
    };
  },
  readBack: ({ member }) => ({ format: "xml", records: member }),
  placeOf({ paths, lists }, { name }) {
    const path = ownOf(paths, name) ?? name;
    const item = ownOf(lists, name);
    return item === undefined ? path : `${path}/${item}`;
  },
  showsShop: false,
};
