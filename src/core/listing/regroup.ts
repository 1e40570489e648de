/** Groups that are too much for a category become smaller ones, as the channel's policy says. */
import { VARIES_BY } from "../catalogue/axes.js";
import { groupFieldOf } from "../channel/group-model.js";
import { productWith, textOf, type ProductView } from "../catalogue/product.js";
import { axesTaken, axisRuleFor } from "../channel/axis-rules.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { termKey } from "../values/text.js";
import type { MaybeBlank } from "../values/value.js";
import type { ChannelSetup } from "./channel-setup.js";
import type { PricedProduct } from "./listing.js";

function withGroup(
  { product, ...priced }: PricedProduct,
  group: string | undefined,
  axes: readonly string[],
  note: Diagnostic,
  { attributes }: ChannelSetup,
): PricedProduct {
  const values = new Map<number, MaybeBlank>();
  const [groupSlot, axesSlot] = [attributes.slot("group"), attributes.slot(VARIES_BY)];
  if (groupSlot !== undefined) values.set(groupSlot, group);
  if (axesSlot !== undefined) values.set(axesSlot, axes.length === 0 ? undefined : axes);
  return {
    ...priced,
    notes: [...priced.notes, note],
    product: productWith(product, attributes, values, { group }),
  };
}

/** Gives members of a group that is too much for the channel's category smaller groups, as `channel.yaml` says; each is told. */
export function regroup(members: readonly PricedProduct[], setup: ChannelSetup): readonly PricedProduct[] {
  const { definition, regrouping, channel } = setup;
  const [first] = members;
  if (regrouping === "hold" || first === undefined || groupFieldOf(definition.groups) === undefined)
    return members;
  const { axes } = first;
  const rule = axisRuleFor(definition, first.plan.rules.category);
  if (rule === undefined || members.length < 2 || axes.length === 0) return members;
  const taken = axesTaken(axes, rule);
  const tooMuch = axes.filter((axis) => !taken.includes(axis));
  if (tooMuch.length === 0) return members;
  const isSplit = regrouping === "split" && taken.length > 0;
  return members.map((member) => {
    const { product } = member;
    const values = tooMuch.map((axis) => textOf(product, axis) ?? "");
    const group = isSplit
      ? [product.group ?? "", ...values.map((value) => termKey(value).replaceAll(" ", "-"))].join("-")
      : undefined;
    const note = diagnostic(
      "group-split",
      { axes: tooMuch, permitted: taken, alone: !isSplit },
      { product: product.sku, channel, notes: [{ note: "rule", place: rule.place }] },
      "advice",
    );
    return withGroup(member, group, isSplit ? taken : [], note, setup);
  });
}

/** Things by their product's group; what has none stands by itself. */
export function byGroup<T>(all: readonly T[], productOf: (one: T) => ProductView): readonly (readonly T[])[] {
  // Most products stand alone in their family.
  if (all.length === 1) return [all];
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const { group, sku } = productOf(one);
    const key = group === undefined ? `\u0000${sku}` : group;
    const known = groups.get(key);
    if (known === undefined) groups.set(key, [one]);
    else known.push(one);
  }
  return [...groups.values()];
}
