import type { Value } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";
import { order } from "../operations.js";
import { cannot } from "../trouble.js";
import { asText, items, listOrBlank, parameter } from "./arguments.js";

/** The one of the members' values that is before all others in an order. */
const outermost = (
  name: string,
  summary: string,
  isFurther: (order: number) => boolean,
  examples: ExpressionFunction["examples"],
): ExpressionFunction => ({
  name,
  family: "groups",
  summary,
  parameters: [parameter("value", "any")],
  result: "first",
  overMembers: true,
  examples,
  apply([values]) {
    const all = items(values);
    let found: Value | undefined = all[0];
    for (const value of all.slice(1)) {
      const ordered = order(value, found);
      if (ordered === undefined)
        return cannot({ trouble: "wrong-argument", name, reason: "the members' values have no order" });
      if (isFurther(ordered)) found = value;
    }
    return found;
  },
});

/** What all members of a group have: for fields that a channel takes from the group, and for texts that speak of it. */
export const groups: readonly ExpressionFunction[] = [
  outermost(
    "group_greatest",
    "The greatest of a value over the members of the product's group: the heaviest parcel, the highest price. Blank ones do not count; a product without a group is its own.",
    (found) => found > 0,
    [{ expression: 'group_greatest(measure(2, "kg"))', gives: "2 kg" }],
  ),
  outermost(
    "group_least",
    "The least of a value over the members of the product's group, such as its lowest price.",
    (found) => found < 0,
    [{ expression: 'group_least(money(12, "GBP"))', gives: "12.00 GBP" }],
  ),
  {
    name: "group_values",
    family: "groups",
    summary:
      "The values that the members of the product's group have, as a list, each once; of lists each of their values.",
    parameters: [parameter("value", "any")],
    result: "list",
    overMembers: true,
    examples: [{ expression: 'join(group_values("white"), " / ")', gives: "white" }],
    apply: ([values]) => {
      const each = items(values).flatMap((value) => items(value));
      const byText = new Map(each.map((value) => [asText(value), value] as const));
      return listOrBlank([...byText.values()]);
    },
  },
];
