import { textOf } from "../../../catalogue/product.js";
import { termKey } from "../../../values/text.js";
import type { FamilyCheck } from "../check-kind.js";

/** Where members are shown as one, each has a value for all that the group varies by, and no two have the same. */
export const memberAxes: FamilyCheck = {
  name: "member-axes",
  check({ listings, isShownApart, axes }, reportFor) {
    if (isShownApart || axes.length === 0 || listings.length < 2) return;
    const seen = new Map<string, string>();
    listings.forEach(({ product }, index) => {
      const values = axes.map((axis) => textOf(product, axis));
      const blank = axes.filter((_, at) => values[at] === undefined);
      for (const axis of blank) reportFor(index)("blank-axis", { axis, members: listings.length });
      if (blank.length > 0) return;
      const key = values.map((value) => termKey(value ?? "")).join("\u0000");
      const other = seen.get(key);
      if (other === undefined) seen.set(key, product.sku);
      else
        reportFor(index)("same-axes", {
          group: product.group ?? "",
          other,
          values: values.join(", "),
        });
    });
  },
};
