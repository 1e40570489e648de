/** Feeds: RSS 2.0 and Atom (RFC 4287), with the channel's own elements beside the standard ones of an item. */
import { diagnostic } from "../../diagnostics/diagnostic.js";
import { nearest } from "../../values/nearest.js";
import type { FeedLayout } from "../layout-definition.js";
import type { LayoutFormat } from "./layout-format.js";

const ITEM_KEYS = ["title", "link", "description", "guid"] as const;

/** RSS 2.0 and Atom. */
export const feed: LayoutFormat<FeedLayout> = {
  build({ common, source, find, findings }, format) {
    const { item = {}, place, prefix = "x", namespace = "" } = source;
    for (const key of Object.keys(item))
      if (!ITEM_KEYS.some((known) => known === key))
        findings.push(
          diagnostic("unknown-setting", { key: `item.${key}`, nearest: nearest(key, ITEM_KEYS) }, { place }),
        );
    const [title, link] = [find(item["title"] ?? "", place), find(item["link"] ?? "", place)];
    const [description, guid] = [find(item["description"] ?? "", place), find(item["guid"] ?? "", place)];
    if (title === undefined || link === undefined || description === undefined || guid === undefined)
      return undefined;
    return { ...common, format, prefix, namespace, item: { title, link, description, guid } };
  },
  readBack: () => undefined,
  showsShop: true,
};
