/** schema.org as JSON-LD: products, groups and offers. */
import { ownOf } from "../core/own.js";
import type { Field } from "../core/channel/field.js";
import type { JsonLdLayout, LayoutColumn } from "../core/channel/layout-definition.js";
import type { FileFamily, FileRow } from "../core/listing/shape/file-family.js";
import { canonicalText } from "../core/values/show.js";
import { isDate, isList, isMeasure, isMoney, type MaybeBlank, type Value } from "../core/values/value.js";
import { amountText } from "./cell-text.js";
import { commas, type LayoutWriter } from "./layout.js";

type JsonLdValue = string | boolean | readonly JsonLdValue[] | { readonly [key: string]: JsonLdValue };

/** schema.org's enumerations are named by their address; lists named item-… hold their members. */
const enumerated = (field: Field, text: string, context: string): string =>
  field.kind === "choice" ? `${context}/${text}` : text;

/** A measure is a QuantitativeValue with its UN/CEFACT code; amounts stay text so that they stay exact. */
function one(value: Value, field: Field, context: string): JsonLdValue {
  if (isMeasure(value))
    return {
      "@type": "QuantitativeValue",
      value: canonicalText(value.amount),
      unitCode: value.unit.cefact,
    };
  if (isMoney(value)) return amountText(value, field);
  if (isDate(value)) return value.iso;
  return typeof value === "boolean" ? value : enumerated(field, canonicalText(value), context);
}

function jsonOf(value: MaybeBlank, field: Field, context: string): JsonLdValue | undefined {
  if (value === undefined) return undefined;
  return isList(value) ? value.map((item) => one(item, field, context)) : one(value, field, context);
}

const objects: Readonly<Record<string, string>> = { brand: "Brand", manufacturer: "Organization" };

/** A brand or maker is a thing with a name. */
function named(name: string, json: JsonLdValue): JsonLdValue {
  const type = ownOf(objects, name);
  return type === undefined ? json : { "@type": type, name: json };
}

// What schema.org says of groups alone.
const groupTerms = new Set(["variesBy", "hasVariant", "productGroupID"]);

/** JSON that may stand in a page's script element: no text of it ends the element, or begins a comment there. */
const inPage = (json: string): string => json.replace(/<(?=[/!])/g, "\\u003c");

/** schema.org as JSON-LD: one graph of products, and of groups that hold their members. Each term stands on a type that has it. */
export function jsonLdWriter(layout: JsonLdLayout): LayoutWriter {
  const { context, columns, offer, groupType, memberType, members: membersName, groupName } = layout;
  const { listPrice, priceFor, audience, also } = layout;
  const placed = (fields: readonly (Field | undefined)[]): readonly LayoutColumn[] =>
    columns.filter(({ field }) => fields.includes(field));
  const apart = [...offer, ...audience, listPrice, priceFor];
  const own = columns.filter(({ field }) => !apart.includes(field));
  const [offerColumns, audienceColumns] = [placed(offer), placed(audience)];
  const priceField = offerColumns.find(({ name }) => name === "price")?.field;
  const fill = (row: FileRow, of: readonly LayoutColumn[], into: Record<string, JsonLdValue>): void => {
    for (const { name, field } of of) {
      const value = row.value(field);
      const json = jsonOf(value, field, context);
      if (json === undefined) continue;
      // eslint-disable-next-line house/data-names -- terms of schema.org: the definition was held against them
      into[name] = named(name, json);
      if (isMoney(value)) into["priceCurrency"] = value.currency;
    }
  };
  const filled = (type: string, row: FileRow, of: readonly LayoutColumn[]): JsonLdValue | undefined => {
    const object: Record<string, JsonLdValue> = { "@type": type };
    fill(row, of, object);
    return Object.keys(object).length > 1 ? object : undefined;
  };
  const specification = (
    row: FileRow,
    field: Field | undefined,
    further: Readonly<Record<string, JsonLdValue>>,
  ): readonly JsonLdValue[] => {
    const value = field === undefined ? undefined : row.value(field);
    if (field === undefined || !isMoney(value)) return [];
    const price = { price: amountText(value, field), priceCurrency: value.currency };
    return [{ "@type": "UnitPriceSpecification", ...further, ...price }];
  };
  const offerOf = (row: FileRow): JsonLdValue | undefined => {
    const terms: Record<string, JsonLdValue> = { "@type": "Offer" };
    fill(row, offerColumns, terms);
    const quantity = priceFor === undefined ? undefined : jsonOf(row.value(priceFor), priceFor, context);
    const specifications = [
      ...specification(row, listPrice, { priceType: `${context}/ListPrice` }),
      ...(quantity === undefined ? [] : specification(row, priceField, { referenceQuantity: quantity })),
    ];
    if (specifications.length > 0) terms["priceSpecification"] = specifications;
    return Object.keys(terms).length > 1 ? terms : undefined;
  };
  const typesOf = (row: FileRow): JsonLdValue => {
    const further = Object.entries(also).flatMap(([type, fields]) =>
      fields.some((field) => row.value(field) !== undefined) ? [type] : [],
    );
    return further.length === 0 ? memberType : [memberType, ...further];
  };
  const productOf = (row: FileRow): Record<string, JsonLdValue> => {
    const product: Record<string, JsonLdValue> = { "@type": typesOf(row) };
    fill(
      row,
      own.filter(({ name }) => !groupTerms.has(name)),
      product,
    );
    const [people, offered] = [filled("PeopleAudience", row, audienceColumns), offerOf(row)];
    if (people !== undefined) product["audience"] = people;
    if (offered !== undefined) product["offers"] = offered;
    return product;
  };
  const groupOf = (row: FileRow, members: readonly FileRow[]): Record<string, JsonLdValue> => {
    const group: Record<string, JsonLdValue> = { "@type": groupType };
    fill(
      row,
      own.filter(({ field }) => field !== groupName),
      group,
    );
    const name = groupName === undefined ? undefined : row.value(groupName);
    if (name !== undefined) group["name"] = canonicalText(name);
    const id = group["inProductGroupWithID"];
    if (id !== undefined) {
      delete group["inProductGroupWithID"];
      group["productGroupID"] = id;
    }
    const axes = group["variesBy"];
    if (Array.isArray(axes)) group["variesBy"] = axes.map((axis) => `${context}/${String(axis)}`);
    // eslint-disable-next-line house/data-names -- a term of schema.org
    group[membersName] = members.map(productOf);
    return group;
  };
  const nodes = ({ group, members }: FileFamily): readonly Record<string, JsonLdValue>[] =>
    group === undefined ? members.map(productOf) : [groupOf(group, members)];
  return {
    head: () => `{"@context":${inPage(JSON.stringify(context))},"@graph":[`,
    family: (family) =>
      nodes(family)
        .map((node) => inPage(JSON.stringify(node)))
        .join(commas.next),
    apart: commas,
    tail: () => "\n]}\n",
  };
}
