import { correctIt, fillIt } from "../act.js";
import { asOne, byField, nothing, type FieldFact, listingFinding } from "../finding.js";
import type { TroubleFacts } from "../trouble-facts.js";
import { troubleKey, troubleOfMany, troubleText } from "../trouble-text.js";

/** What a fill could not work out. */
export const fills = {
  /** An expression that is right in itself and could not be worked out for this product. */
  "not-calculated": listingFinding<FieldFact & { readonly trouble: TroubleFacts }>({
    says: ({ label, trouble }, files) => `${label} could not be worked out: ${troubleText(trouble, files)}`,
    ofMany: ({ label, trouble }, files) =>
      `${label} could not be worked out: ${troubleOfMany(trouble, files)}`,
    apart: ({ trouble }) => troubleKey(trouble),
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  "no-rate": listingFinding<FieldFact & { readonly trouble: TroubleFacts }>({
    says: ({ label, trouble }, files) => `${label} could not be converted: ${troubleText(trouble, files)}`,
    ofMany: asOne,
    apart: ({ trouble }) => troubleKey(trouble),
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  "no-table-row": listingFinding<FieldFact & { readonly trouble: TroubleFacts }>({
    says: ({ label, trouble }, files) => `${label} was not found: ${troubleText(trouble, files)}`,
    ofMany: asOne,
    apart: ({ trouble }) => troubleKey(trouble),
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  "fill-circle": listingFinding<FieldFact & { readonly trouble: TroubleFacts }>({
    says: ({ label, trouble }, files) =>
      `${label} has no end: ${troubleText(trouble, files)}; let one of them not read the other`,
    ofMany: asOne,
    apart: byField,
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  /** A fill reads an attribute in a language that no product has yet. */
  "unused-language": listingFinding<{ readonly attribute: string }>({
    says: ({ attribute }) =>
      `no product has ${attribute} yet: this fill takes it as blank until an import brings it`,
    ofMany: asOne,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  /** A field of a group is filled from an attribute in which its members differ. */
  "members-differ": listingFinding<FieldFact & { readonly trouble: TroubleFacts }>({
    says: ({ label, trouble }, files) => `${label} is left blank: ${troubleText(trouble, files)}`,
    ofMany: ({ label, trouble }) =>
      "attribute" in trouble
        ? `${label} is left blank: members of one group differ in ${trouble.attribute}, and the field is the group's; say in its fill which counts (group_greatest, group_least, group_values), or give them one value`
        : `${label} is left blank: members of one group differ`,
    apart: ({ trouble }) => ("attribute" in trouble ? trouble.attribute : ""),
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
} as const;
