/** What is odd about a group by itself, whatever the channel. */
import { statedAxes, usualAxes, VARIES_BY } from "./axes.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import { shownText } from "../values/show.js";
import type { Family } from "./family.js";
import { textOf, valueOf, type Product } from "./product.js";

/** Where a value of a product came from. */
export type ValuePlace = (product: Product, attribute: string) => Place | undefined;

const axesOf = (member: Product): readonly string[] =>
  textOf(member, VARIES_BY) === undefined ? usualAxes : statedAxes(member);

const at = (place: Place | undefined): { readonly place?: Place } => (place === undefined ? {} : { place });

/** What is odd about a group as a whole: one member only, or two that nothing tells apart. */
export function familyFindings({ group, members }: Family, placeOf: ValuePlace): readonly Diagnostic[] {
  if (group === undefined) return [];
  const [first] = members;
  if (members.length === 1 && first !== undefined)
    return [
      diagnostic(
        "single-member",
        { group },
        { product: first.sku, ...at(placeOf(first, "group")) },
        "advice",
      ),
    ];
  const seen = new Map<string, Product>();
  return members.flatMap((member) => {
    const axes = axesOf(member).filter((axis) => valueOf(member, axis) !== undefined);
    if (axes.length === 0) return [];
    const values = axes.map((axis) => shownText(valueOf(member, axis)));
    const key = axes.map((axis, index) => `${axis}\u0000${values[index] ?? ""}`).join("\u0001");
    const other = seen.get(key);
    if (other === undefined) {
      seen.set(key, member);
      return [];
    }
    const facts = { group, other: other.sku, values: values.join(", ") };
    return [
      diagnostic(
        "same-axes",
        facts,
        { product: member.sku, ...at(placeOf(member, axes[0] ?? "group")) },
        "warning",
      ),
    ];
  });
}
