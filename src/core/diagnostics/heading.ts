import type { Diagnostic } from "./diagnostic.js";
import type { Code } from "./facts.js";
import { damages, listed, problems, quote, withArticle, type Sentence } from "./phrases.js";
import { sentence } from "./wording.js";

type Headings = { readonly [C in Code]?: Sentence<C> };

/** A cause over many products, for codes whose sentence speaks of one product's value. */
const headings: Headings = {
  "marked-off": ({ attribute }) => `the product's own ${attribute} keeps it off this channel`,
  "hazard-left-out": () => "it has a hazard that channel.yaml does not take (selection: hazards)",
  "country-left-out": ({ countries }) => `it may not be sold in ${listed(countries)}`,
  "below-least-price": ({ least }) =>
    `its price is below ${least}, the least for this channel (selection: least_price)`,
  "below-least-readiness": ({ least }) =>
    `it has less than ${least}% of what the channel requires and recommends (selection: least_readiness)`,
  "price-too-low": ({ attribute, moved }) =>
    `${attribute} is below the lowest that channel.yaml allows${moved ? " and was raised to it" : "; change the price, the rule or the bound"}`,
  "price-too-high": ({ attribute, moved }) =>
    `${attribute} is above the highest that channel.yaml allows${moved ? " and was lowered to it" : "; change the price, the rule or the bound"}`,
  "never-sent": ({ purpose }) =>
    `the channel was never sent them, and ${withArticle(purpose)} file speaks of what the channel has; a full file comes first`,
  "lacks-for-purpose": ({ purpose, labels }) =>
    `they have no ${labels.join(" or no ")}, which each row of ${withArticle(purpose)} file must have`,
  "link-missing": ({ label, status }) => `${label} is not there: the server answers ${status}`,
  "link-unreachable": ({ label, reason }) => `${label} could not be reached: ${reason}`,
  "link-refused": ({ label, reason }) => `${label} was not asked: ${reason}`,
  "not-a-picture": ({ label }) => `${label} is no picture`,
  "picture-too-small": ({ label, least }) => `${label} has fewer than ${least} × ${least} pixels`,
  "price-jump": ({ limit, file }) =>
    `the price differs by more than ${limit}% from the one sent last (${file}); where it is meant, build with --confirm-prices and the SKUs, or all`,
  "too-long": ({ label, limit, unit }) =>
    `${label} has more than ${limit} ${unit}; shorten it, or use fit(…, ${limit}) in its fill`,
  "too-short": ({ label, limit, unit }) => `${label} has fewer than ${limit} ${unit}`,
  "too-many-values": ({ label, limit }) =>
    `${label} has more than ${limit} values; use take(…, ${limit}) in its fill`,
  "out-of-range": ({ label, min, max }) =>
    `${label} is outside what is allowed: ${max === "" ? `at least ${min}` : min === "" ? `at most ${max}` : `from ${min} to ${max}`}`,
  "wrong-pattern": ({ label, example }) =>
    `${label} is not of the form the channel wants${example === "" ? "" : `, such as ${quote(example)}`}`,
  "wrong-kind": ({ label, problem }) => `${label} cannot be taken: ${problems[problem]}`,
  "not-allowed": ({ label }) => `${label} is not allowed here; leave its fill blank for these categories`,
  "banned-content": ({ label, says }) => `${label}: ${says}`,
  "members-differ": ({ label, trouble }) =>
    "attribute" in trouble
      ? `${label} is left blank: members of one group differ in ${trouble.attribute}, and the field is the group's; say in its fill which counts (group_greatest, group_least, group_values), or give them one value`
      : `${label} is left blank: members of one group differ`,
  "wrong-currency": ({ label, permitted }) => `${label} is in another currency than ${permitted.join(", ")}`,
  "members-apart": ({ label }) =>
    `${label} belongs to the group, and its members differ; the channel shows one for all of them`,
  "brand-as-title": ({ label, fills }) =>
    `${label} is the brand alone; give the products their names, or change the fill in ${fills}`,
  "torn-group": () => "members of one group go to different categories; place the group's products alike",
  "price-apart": () => "the price is far from the others of its group; see whether the point stands right",
  "same-description": ({ label }) =>
    `${label} is the same for all members of a group, which are shown one by one; say in each what sets it apart`,
  "repeated-search-words": ({ label }) =>
    `${label} repeats what the title says already; use the room for other words`,
  "shared-barcode": ({ label }) =>
    `${label} is also that of another product that goes to this channel; compare both with the packaging`,
  "repeated-id": ({ label }) =>
    `${label} is also that of another product; the channel would take both for one: change the fill, or one of the SKUs`,
  "blank-axis": ({ axis }) =>
    `the group varies by ${axis}, and a member has no ${axis}; give it one, or take ${axis} out of the group's varies_by`,
  "alike-names": () =>
    "the name has the same words as that of a product of another group; if they are one product, keep one of them",
  "shared-picture": () => "a picture is shown by several different articles; shoppers take them for one",
  "copied-description": () => "different articles have the same description; say in each what it is",
  "would-erase": ({ label }) =>
    `${label} is blank now and the channel has a value: a full file would take it away; fill it, or leave it to an amend file`,
  "torn-list": ({ label, mark }) =>
    `${label} has a value with ${quote(mark)}, the mark between values in the channel's file; write it without, or take it out in the fill`,
  "group-moved": () =>
    "it was sent in another group than it belongs to now; where the channel does not move listings, end the old one first",
  "category-moved": () =>
    "it goes to another category than it was sent to: the channel will take it for a new listing",
  "axes-changed": () =>
    "its group varies by something else than when it was sent; end the old group there first",
  "sku-became-another": () =>
    "the channel knows this SKU as another product; give the new one an SKU of its own",
  "titles-alike": ({ axes }) =>
    `members of one family have the same title; ${axes.length === 0 ? "let the title's fill tell them apart" : `use ${axes.join(" and ")} in the title's fill, and see that each member has it`}`,
  "unreadable-value": ({ attribute, problem }) => `${attribute}: ${problems[problem]}`,
  "repaired-value": ({ attribute, damage }) =>
    damage === "spaces"
      ? `${attribute} was tidied: ${damages[damage]}`
      : `${attribute} was repaired: ${damages[damage]}`,
  "damaged-value": ({ attribute, damage }) =>
    `${attribute} was not taken: ${damages[damage]}; correct it in the file`,
  "damaged-key": ({ key }) =>
    `${key} is what a spreadsheet made of a number or a date; format the column as text and enter it again`,
  "restricted-gtin": () =>
    "the barcode is for use within one shop or region; no channel can know the product by it",
  "unmatched-key": ({ key, adds }) =>
    `no product has the ${key}${adds ? ", and the row has no SKU to add it under" : "; this source only updates"}`,
  "ambiguous-key": ({ key }) => `the ${key} is that of several products; give the row its SKU`,
  "reused-sku": () =>
    "a known SKU comes with another name and barcode; give the new product an SKU of its own",
  "known-already": () => "already in the catalogue; this source only adds",
  "same-gtin": () => "the barcode is also that of another product; one of them is wrong",
  "sku-twin": () =>
    "SKUs differ only in case, spaces or zeros from another; if they are one product, correct the file",
  "single-member": () => "the group has one member only",
  "group-without-record": () => "the group has no row of its own in the catalogue",
  "same-axes": () => "two members of a group have the same values; tell them apart",
  "missing-part": () => "a part is not in the catalogue; the bundle counts as out of stock",
  "broken-record": () => "the line is no JSON object",
  "repeated-key": ({ key }) => `${key} stands in an earlier row of this file; only that one was taken`,
  "ragged-row": ({ expected }) => `rows have another number of cells than the header's ${expected}`,
};

/** One line for a cause: general where it stands for many products, exact where it stands for one. */
export const heading = (finding: Pick<Diagnostic, "code" | "facts">, products: number): string => {
  const general = headings[finding.code] as Sentence<Code> | undefined;
  return products > 1 && general !== undefined ? general(finding.facts as never) : sentence(finding);
};
