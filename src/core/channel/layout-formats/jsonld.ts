/** schema.org as JSON-LD 1.1: groups hold their members, prices stand in an offer. */
import type { Field } from "../field.js";
import type { JsonLdLayout } from "../layout-definition.js";
import type { LayoutFormat } from "./layout-format.js";

/** schema.org as JSON-LD. */
export const jsonLd: LayoutFormat<JsonLdLayout> = {
  build({ common, settings, find, source: { place } }, format) {
    const fieldAt = (key: string): Field | undefined => {
      const code = settings.text(key, "");
      return code === "" ? undefined : find(code, place);
    };
    const fieldsOf = (codes: readonly string[]): readonly Field[] =>
      codes.flatMap((code) => find(code, place) ?? []);
    return {
      ...common,
      format,
      context: settings.text("context", "https://schema.org"),
      groupType: settings.text("group_type", "ProductGroup"),
      memberType: settings.text("member_type", "Product"),
      members: settings.text("members", "hasVariant"),
      groupName: fieldAt("group_name"),
      offer: fieldsOf(settings.texts("offer")),
      listPrice: fieldAt("list_price"),
      priceFor: fieldAt("price_for"),
      audience: fieldsOf(settings.texts("audience")),
      also: Object.fromEntries(
        Object.entries(settings.lists("also")).map(([type, codes]) => [type, fieldsOf(codes)]),
      ),
    };
  },
  // In JSON-LD the terms for money are an offer's: on a product a price would say nothing to who reads it.
  faults: ({ columns, offer, listPrice }) =>
    columns
      .filter(({ field }) => field.kind === "money" && !offer.includes(field) && field !== listPrice)
      .map(({ name }) => ({
        key: "settings.offer",
        reason: `lists the money column "${name}", or settings.list_price names it`,
      })),
  readBack: () => ({ format: "jsonl" }),
  showsShop: false,
  groupFields: ({ groupName }) => (groupName === undefined ? [] : [groupName]),
};
