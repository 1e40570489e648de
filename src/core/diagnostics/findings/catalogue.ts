import type { Damage } from "../../values/damage.js";
import { asOne, byField, rowFinding } from "../finding.js";
import { damages, listed, orNearest, quote } from "../phrases.js";

const noKey = "the row has none of the keys by which products are found";

const becauseUnmatched = (adds: boolean): string =>
  adds ? ", and the row has no SKU to add it under" : "; this source only updates";

/** The catalogue: values, products beside others, revisions. */
export const catalogue = {
  "repaired-value": rowFinding<{
    readonly attribute: string;
    readonly value: string;
    readonly now: string;
    readonly damage: Damage;
  }>({
    says: ({ attribute, value, now, damage }) =>
      damage === "spaces" || damage === "blanks"
        ? `${attribute} ${quote(value)} was tidied: ${damages[damage]}`
        : `${attribute} ${quote(value)} was read as ${quote(now)}: ${damages[damage]}`,
    ofMany: ({ attribute, damage }) =>
      damage === "spaces" || damage === "blanks"
        ? `${attribute} was tidied: ${damages[damage]}`
        : `${attribute} was repaired: ${damages[damage]}`,
    apart: ({ attribute, damage }) => `${attribute} ${damage}`,
  }),
  "damaged-value": rowFinding<{
    readonly attribute: string;
    readonly value: string;
    readonly damage: Damage;
    readonly candidates: readonly string[];
  }>({
    says: ({ attribute, value, damage, candidates }) =>
      `${attribute} ${quote(value)} was not taken: ${damages[damage]}${candidates.length === 0 ? "" : `, it can have been ${candidates.map(quote).join(" or ")}`}; correct it in the file`,
    ofMany: ({ attribute, damage }) =>
      `${attribute} was not taken: ${damages[damage]}; correct it in the file`,
    apart: ({ attribute, damage }) => `${attribute} ${damage}`,
  }),
  "damaged-key": rowFinding<{ readonly key: string; readonly value: string }>({
    says: ({ key, value }) =>
      `${key} ${quote(value)} is what a spreadsheet made of a number or a date; format the column as text and enter it again`,
    ofMany: ({ key }) =>
      `${key} is what a spreadsheet made of a number or a date; format the column as text and enter it again`,
    apart: byField,
  }),
  "restricted-gtin": rowFinding<{ readonly attribute: string; readonly value: string }>({
    says: ({ value }) =>
      `${value} is a barcode for use within one shop or region; no channel can know the product by it`,
    ofMany: () => "the barcode is for use within one shop or region; no channel can know the product by it",
    apart: byField,
  }),
  "unmatched-key": rowFinding<{ readonly key: string; readonly value: string; readonly adds: boolean }>({
    says: ({ key, value, adds }) =>
      value === "" ? noKey : `no product has the ${key} ${quote(value)}${becauseUnmatched(adds)}`,
    ofMany: ({ key, value, adds }) =>
      value === "" ? noKey : `no product has the ${key}, such as ${quote(value)}${becauseUnmatched(adds)}`,
    apart: ({ key }) => key,
  }),
  "ambiguous-key": rowFinding<{
    readonly key: string;
    readonly value: string;
    readonly skus: readonly string[];
    readonly butForZeros: boolean;
  }>({
    says: ({ key, value, skus, butForZeros }) =>
      `${key} ${quote(value)} ${butForZeros ? "fits several products, whose number begins with zeros" : "is that of several products"}: ${listed(skus)}; give the row ${butForZeros ? "its zeros, or " : ""}its SKU`,
    ofMany: ({ key, butForZeros }) =>
      `the ${key} ${butForZeros ? "fits several products, whose numbers begin with zeros; give the row its zeros, or" : "is that of several products; give the row"} its SKU`,
    apart: ({ key, butForZeros }) => `${key} ${String(butForZeros)}`,
  }),
  "keys-disagree": rowFinding<{
    readonly key: string;
    readonly value: string;
    readonly sku: string;
    readonly other: { readonly key: string; readonly value: string; readonly sku: string };
  }>({
    says: ({ key, value, sku, other }) =>
      `${key} ${quote(value)} is that of ${sku}, and ${other.key} ${quote(other.value)} that of ${other.sku}: the row was not taken; correct the one that is wrong`,
    ofMany: ({ key, other }) =>
      `${key} and ${other.key} are those of two products: rows were not taken; correct the one that is wrong`,
    apart: ({ key, other }) => `${key} ${other.key}`,
  }),
  "removed-before": rowFinding<{ readonly sku: string; readonly revision: number }>({
    says: ({ sku, revision }) =>
      `${quote(sku)} was taken out of the catalogue (revision ${revision}) and stays out; to have it back: lexicant undo ${revision} --alone`,
    ofMany: ({ revision }) =>
      `products were taken out of the catalogue (revision ${revision}) and stay out; to have them back: lexicant undo ${revision} --alone`,
    apart: ({ revision }) => String(revision),
  }),
  "reused-sku": rowFinding<{ readonly sku: string; readonly was: string; readonly now: string }>({
    says: ({ sku, was, now }) =>
      `${quote(sku)} was ${quote(was)} and comes as ${quote(now)} with another barcode; give the new product an SKU of its own`,
    ofMany: () => "a known SKU comes with another name and barcode; give the new product an SKU of its own",
    apart: byField,
  }),
  "known-already": rowFinding<{ readonly sku: string }>({
    says: ({ sku }) => `${quote(sku)} is in the catalogue; this source only adds`,
    ofMany: () => "already in the catalogue; this source only adds",
    apart: byField,
  }),
  "same-gtin": rowFinding<{ readonly gtin: string; readonly others: readonly string[] }>({
    says: ({ gtin, others }) => `the barcode ${gtin} is also that of ${listed(others)}; one of them is wrong`,
    ofMany: () => "the barcode is also that of another product; one of them is wrong",
    apart: byField,
  }),
  "alike-names": rowFinding<{ readonly name: string; readonly other: string }>({
    says: ({ name, other }) =>
      `the name ${quote(name)} has the same words as that of ${quote(other)}, which is of another group; if they are one product, keep one of them`,
    ofMany: () =>
      "the name has the same words as that of a product of another group; if they are one product, keep one of them",
    apart: byField,
  }),
  "shared-picture": rowFinding<{
    readonly url: string;
    readonly families: number;
    readonly skus: readonly string[];
  }>({
    says: ({ url, families, skus }) =>
      `the picture ${url} is shown by ${families} different articles, such as ${listed(skus)}; shoppers take them for one`,
    ofMany: () => "a picture is shown by several different articles; shoppers take them for one",
    apart: byField,
  }),
  "copied-description": rowFinding<{ readonly families: number; readonly skus: readonly string[] }>({
    says: ({ families, skus }) =>
      `${families} different articles have the same description, such as ${listed(skus)}; say in each what it is`,
    ofMany: () => "different articles have the same description; say in each what it is",
    apart: byField,
  }),
  "hidden-signs": rowFinding<{
    readonly attribute: string;
    readonly value: string;
    readonly signs: readonly string[];
  }>({
    says: ({ attribute, value, signs }) =>
      `${attribute} ${quote(value)} holds what is not seen (${signs.join(", ")}): it is another than the one that looks the same; correct it in the file`,
    ofMany: ({ attribute }) =>
      `${attribute} holds signs that are not seen: it is another than the one that looks the same`,
    apart: ({ attribute }) => attribute,
  }),
  "sku-twin": rowFinding<{ readonly sku: string; readonly other: string }>({
    says: ({ sku, other }) =>
      `${quote(sku)} and ${quote(other)} differ only in case, spaces, zeros or signs that are not seen; if they are one product, correct the file`,
    ofMany: () =>
      "SKUs differ only in case, spaces, zeros or unseen signs from another; if they are one product, correct the file",
    apart: byField,
  }),
  "single-member": rowFinding<{ readonly group: string }>({
    says: ({ group }) => `the group ${quote(group)} has this one member`,
    ofMany: () => "the group has one member only",
    apart: byField,
  }),
  "group-without-record": rowFinding<{ readonly group: string }>({
    says: ({ group }) => `the group ${quote(group)} has no row of its own in the catalogue`,
    ofMany: () => "the group has no row of its own in the catalogue",
    apart: byField,
  }),
  "same-axes": rowFinding<{ readonly group: string; readonly other: string; readonly values: string }>({
    says: ({ group, other, values }) =>
      `in the group ${quote(group)} it has the same ${values} as ${quote(other)}; tell them apart`,
    ofMany: () => "two members of a group have the same values; tell them apart",
    apart: byField,
  }),
  "missing-part": rowFinding<{ readonly part: string }>({
    says: ({ part }) => `the part ${quote(part)} is not in the catalogue; the bundle counts as out of stock`,
    ofMany: () => "a part is not in the catalogue; the bundle counts as out of stock",
    apart: byField,
  }),
  vanished: rowFinding<{ readonly layer: string; readonly dropped: boolean }>({
    says: ({ layer, dropped }) =>
      dropped
        ? `the new delivery of ${layer} does not have it; what ${layer} said of it was taken back`
        : `the new delivery of ${layer} does not have it; it stays until you import with --drop-vanished`,
    ofMany: asOne,
    apart: byField,
  }),
  "unknown-revision": rowFinding<{ readonly revision: string; readonly latest: number }>({
    says: ({ revision, latest }) =>
      `there is no revision ${quote(revision)}${latest > 0 ? `; the latest is ${latest}` : ""} ("lexicant history" lists them)`,
    ofMany: asOne,
    apart: byField,
  }),
  "undone-already": rowFinding<{ readonly revision: number; readonly by: number }>({
    says: ({ revision, by }) =>
      `revision ${revision} was undone by revision ${by}; to have it back, undo that: lexicant undo ${by}`,
    ofMany: asOne,
    apart: byField,
  }),
  "later-revisions": rowFinding<{
    readonly revision: number;
    readonly later: readonly number[];
    readonly layer: string;
  }>({
    says: ({ revision, later, layer }) =>
      `after revision ${revision} came ${later.length === 1 ? "another" : `${later.length} others`} into ${layer} (${later.slice(0, 5).join(", ")}${later.length > 5 ? ", …" : ""}); undo all of them with --through, or this one alone with --alone`,
    ofMany: asOne,
    apart: byField,
  }),
  "sent-since": rowFinding<{ readonly revision: number; readonly channel: string }>({
    says: ({ revision, channel }) =>
      `revision ${revision} noted a build as sent, and ${channel} was sent another since: only the last can be taken back`,
    ofMany: asOne,
    apart: byField,
  }),
  "nothing-to-undo": rowFinding<Record<string, never>>({
    says: () => "there is nothing to undo",
    ofMany: asOne,
    apart: byField,
  }),
  "unknown-attribute": rowFinding<{ readonly attribute: string; readonly nearest: readonly string[] }>({
    says: ({ attribute, nearest }) => `no product has an attribute ${quote(attribute)}${orNearest(nearest)}`,
    ofMany: asOne,
    apart: byField,
  }),
  "cell-too-long": rowFinding<{ readonly sku: string; readonly attribute: string; readonly limit: number }>({
    says: ({ sku, attribute, limit }) =>
      `${attribute} of ${quote(sku)} is longer than a workbook's cell can be (${limit} characters); export CSV, or leave it out with --only`,
    ofMany: asOne,
    apart: byField,
  }),
  "source-meanwhile": rowFinding<{ readonly file: string }>({
    says: ({ file }) =>
      `${quote(file)} was written by another command meanwhile, and says something else; run the import again, which reads by it`,
    ofMany: asOne,
    apart: byField,
  }),
  "file-exists": rowFinding<{ readonly path: string }>({
    says: ({ path }) => `${quote(path)} is there already; name another file, or write over it with --force`,
    ofMany: asOne,
    apart: byField,
  }),
} as const;
