import type { Field } from "../core/channel/field.js";
import type { JsonLdLayout, LayoutColumn } from "../core/channel/layout-definition.js";
import type { FileFamily, FileRow } from "../core/listing/file-family.js";
import { canonicalText } from "../core/values/show.js";
import { isDate, isList, isMeasure, isMoney, type MaybeBlank, type Value } from "../core/values/value.js";
import type { LayoutWriter } from "./layout.js";

type Json = string | boolean | readonly Json[] | { readonly [key: string]: Json };

/** schema.org's enumerations are named by their address; lists named item-… hold their members. */
const enumerated = (field: Field, text: string, context: string): string =>
  field.kind === "choice" ? `${context}/${text}` : text;

/** A measure is a QuantitativeValue with its UN/CEFACT code; amounts stay text so that they stay exact. */
const one = (value: Value, field: Field, context: string): Json => {
  if (isMeasure(value))
    return {
      "@type": "QuantitativeValue",
      value: canonicalText(value.amount),
      unitCode: value.unit.cefact,
    };
  if (isMoney(value)) return canonicalText(value.amount);
  if (isDate(value)) return value.iso;
  return typeof value === "boolean" ? value : enumerated(field, canonicalText(value), context);
};

const jsonOf = (value: MaybeBlank, field: Field, context: string): Json | undefined => {
  if (value === undefined) return undefined;
  return isList(value) ? value.map((item) => one(item, field, context)) : one(value, field, context);
};

const objects: Readonly<Record<string, string>> = { brand: "Brand", manufacturer: "Organization" };

/** A brand or maker is a thing with a name. */
const named = (name: string, json: Json): Json => {
  const type = objects[name];
  return type === undefined ? json : { "@type": type, name: json };
};

/** schema.org as JSON-LD: one graph of products, and of groups that hold their members. */
export const jsonLdWriter = (layout: JsonLdLayout): LayoutWriter => {
  const { context, columns, offer, groupType, memberType, members: membersName, groupName } = layout;
  const offered = new Set(offer);
  const isOffered = ({ field }: LayoutColumn): boolean => offered.has(field);
  const own = columns.filter((column) => !isOffered(column));
  const fill = (row: FileRow, of: readonly LayoutColumn[], into: Record<string, Json>): void => {
    for (const { name, field } of of) {
      const value = row.value(field);
      const json = jsonOf(value, field, context);
      if (json === undefined) continue;
      into[name] = named(name, json);
      if (isMoney(value)) into["priceCurrency"] = value.currency;
    }
  };
  const productOf = (row: FileRow): Record<string, Json> => {
    const product: Record<string, Json> = { "@type": memberType };
    fill(row, own, product);
    const terms: Record<string, Json> = { "@type": "Offer" };
    fill(row, columns.filter(isOffered), terms);
    if (Object.keys(terms).length > 1) product["offers"] = terms;
    return product;
  };
  const groupOf = (row: FileRow, members: readonly FileRow[]): Record<string, Json> => {
    const group: Record<string, Json> = { "@type": groupType };
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
    group[membersName] = members.map(productOf);
    return group;
  };
  const nodes = ({ group, members }: FileFamily): readonly Record<string, Json>[] =>
    group === undefined ? members.map(productOf) : [groupOf(group, members)];
  return {
    head: () => `{"@context":${JSON.stringify(context)},"@graph":[`,
    family: (family, isFirst) =>
      nodes(family)
        .map((node, index) => `${isFirst && index === 0 ? "\n" : ",\n"}${JSON.stringify(node)}`)
        .join(""),
    tail: () => "\n]}\n",
  };
};
