import { regroupThem, correct, correctIt, giveColumn } from "../act.js";
import { asOne, byField, nothing, type FieldFact, listingFinding } from "../finding.js";
import { quote } from "../phrases.js";

/** Members of a group beside each other, and what the category takes of them. */
export const groups = {
  "titles-alike": listingFinding<{
    readonly title: string;
    readonly other: string;
    readonly axes: readonly string[];
  }>({
    says: ({ title, other, axes }) =>
      `the title ${quote(title)} is also that of ${other} in the same family; ${axes.length === 0 ? "let the title's fill tell them apart" : `use ${axes.join(" and ")} in the title's fill, and see that each member has it`}`,
    ofMany: ({ axes }) =>
      `members of one family have the same title; ${axes.length === 0 ? "let the title's fill tell them apart" : `use ${axes.join(" and ")} in the title's fill, and see that each member has it`}`,
    apart: byField,
    act: correct("tell the members apart by the title's fill in {fills}"),
    asks: () => ({ asks: "standing" }),
  }),
  /** A field of the group in which members differ, where each shows its own: the first of `different` values, each with one SKU. */
  "members-apart": listingFinding<
    FieldFact & {
      readonly values: readonly { readonly value: string; readonly sku: string }[];
      readonly different: number;
      readonly members: number;
    }
  >({
    says: ({ label, values, different, members }) =>
      `${label} belongs to the whole group of ${members}, and its members differ: ${values.map(({ value, sku }) => `${quote(value)} (${sku})`).join(", ")}${different > values.length ? ", …" : ""}; the channel shows one for all of them`,
    ofMany: ({ label }) =>
      `${label} belongs to the group, and its members differ; the channel shows one for all of them`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  /** Members of one group that stand in several of the channel's categories. */
  "torn-group": listingFinding<{
    readonly category: string;
    readonly other: string;
    readonly otherCategory: string;
  }>({
    says: ({ category, other, otherCategory }) =>
      `it goes to ${quote(category)}, and ${other} of the same group to ${quote(otherCategory)}; place the group's products alike`,
    ofMany: () => "members of one group go to different categories; place the group's products alike",
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "price-apart": listingFinding<{
    readonly price: string;
    readonly isBelow: boolean;
    /** The price in the middle of the group's. */
    readonly middle: string;
    readonly times: number;
    readonly members: number;
  }>({
    says: ({ price, isBelow, middle, times, members }) =>
      `the price ${price} is ${times} times ${isBelow ? "less" : "more"} than ${middle}, the middle of its group of ${members}; see whether the point stands right`,
    ofMany: () => "the price is far from the others of its group; see whether the point stands right",
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "same-description": listingFinding<FieldFact & { readonly members: number }>({
    says: ({ label, members }) =>
      `${label} is the same for all ${members} members, which are shown one by one; say in each what sets it apart`,
    ofMany: ({ label }) =>
      `${label} is the same for all members of a group, which are shown one by one; say in each what sets it apart`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "blank-axis": listingFinding<{ readonly axis: string; readonly members: number }>({
    says: ({ axis, members }) =>
      `its group of ${members} varies by ${axis}, and it has no ${axis}; give it one, or take ${axis} out of the group's varies_by`,
    ofMany: ({ axis }) =>
      `the group varies by ${axis}, and a member has no ${axis}; give it one, or take ${axis} out of the group's varies_by`,
    apart: ({ axis }) => axis,
    act: ({ axis }) => giveColumn([axis]),
    asks: nothing,
  }),
  "axis-not-permitted": listingFinding<{
    readonly axes: readonly string[];
    readonly permitted: readonly string[];
  }>({
    says: ({ axes, permitted }, files) =>
      `members differ in ${axes.join(" and ")}; the category permits ${permitted.length === 0 ? "no variations" : permitted.join(", ")}; to split such groups or list them alone: ${files.policy}, groups: not_permitted`,
    ofMany: asOne,
    apart: ({ axes }) => axes.join(" "),
    act: (_, { channel }) => regroupThem(channel),
    asks: nothing,
  }),
  "group-split": listingFinding<{
    readonly axes: readonly string[];
    readonly permitted: readonly string[];
    readonly alone: boolean;
  }>({
    says: ({ axes, permitted, alone }, files) =>
      alone
        ? `the category does not take ${axes.join(" and ")}: the members are listed alone, as ${files.policy} says (groups: not_permitted)`
        : `the category does not take ${axes.join(" and ")}: the group is split by ${axes.length === 1 ? "it" : "them"} and varies by ${permitted.join(" and ")}, as ${files.policy} says (groups: not_permitted)`,
    ofMany: asOne,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "too-many-axes": listingFinding<{
    readonly limit: number;
    readonly actual: number;
    readonly axes: readonly string[];
  }>({
    says: ({ limit, actual, axes }) =>
      `members differ in ${axes.join(" and ")}; ${limit === 0 ? "the category takes no variations" : `the category permits ${limit} such ${limit === 1 ? "attribute" : "attributes"}, not ${actual}`}`,
    ofMany: asOne,
    apart: byField,
    act: (_, { channel }) => regroupThem(channel),
    asks: nothing,
  }),
  "too-many-members": listingFinding<{ readonly limit: number; readonly actual: number }>({
    says: ({ limit, actual }) => `the group has ${actual} members, the channel takes ${limit}`,
    ofMany: asOne,
    apart: byField,
    act: correct("split the group"),
    asks: nothing,
  }),
} as const;
