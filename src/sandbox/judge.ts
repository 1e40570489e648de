/** A played channel's own eye on rows: by the definition's data, with no code of our checks. */
import type { ChannelData, Purpose, TableRows } from "./channel-data.js";
import { flat, type ArrivedRow } from "./read-rows.js";
import { at, put } from "./named.js";

/** What the channel finds wrong with a row. */
export interface Objection {
  readonly code: string;
  readonly field: string;
  readonly message: string;
}

type Rule = Readonly<Record<string, string>>;

interface RuleRow {
  readonly field: string;
  readonly label: string;
  readonly kind: string;
  readonly isList: boolean;
  readonly level: string;
  readonly axes: string;
  /** A need that holds only sometimes is left to those who know when. */
  readonly isRequired: boolean;
  readonly rule: Rule;
}

const cells = [
  "need",
  "min",
  "max",
  "min_length",
  "max_length",
  "counted",
  "max_items",
  "pattern",
  "values",
  "open",
];

/** The chain of scopes from `*` down to a category. */
function scopesOf(code: string, parents: ReadonlyMap<string, string>): readonly string[] {
  const chain: string[] = [];
  for (let at = code; at !== "" && chain.length < 50; at = parents.get(at) ?? "") chain.unshift(at);
  return ["*", ...chain];
}

function rulesFor(scopes: readonly (readonly string[])[], fields: TableRows): readonly RuleRow[] {
  const merged = new Map<string, Record<string, string>>();
  const conditional = new Set<string>();
  for (const scope of scopes)
    for (const row of fields) {
      // A scope is written as a code or as the path in words.
      if (!scope.includes(row["scope"] ?? "")) continue;
      const code = row["field"] ?? "";
      const own = merged.get(code) ?? {};
      merged.set(code, own);
      for (const name of ["label", "kind", "list", "level", "axes"])
        put(own, name, at(row, name) || (at(own, name) ?? ""));
      const isConditional = (row["when"] ?? "") !== "";
      if (isConditional) conditional.add(code);
      for (const name of cells) {
        if ((at(row, name) ?? "") === "" || (name === "need" && isConditional)) continue;
        put(own, name, at(row, name) ?? "");
      }
    }
  return [...merged].map(([field, rule]) => ({
    field,
    label: rule["label"] ?? field,
    kind: rule["kind"] ?? "text",
    isList: rule["list"] === "yes",
    level: rule["level"] ?? "",
    axes: rule["axes"] ?? "",
    isRequired: rule["need"] === "required" && !conditional.has(field),
    rule,
  }));
}

const lengthOf = (text: string, counted: string | undefined): number =>
  counted === "bytes" ? Buffer.byteLength(text) : [...new Intl.Segmenter().segment(text)].length;

function numberIn(text: string): number | undefined {
  const found = /^[+-]?\d+(?:[.,]\d+)?/.exec(text);
  return found === null ? undefined : Number(found[0].replace(",", "."));
}

function valueObjection(
  { field, label, kind, rule }: RuleRow,
  text: string,
  { lists, currencies }: ChannelData,
): Objection | undefined {
  const object = (code: string, message: string): Objection => ({ code, field, message });
  const number = numberIn(text);
  if (["integer", "decimal", "money", "measure"].includes(kind)) {
    if (number === undefined) return object("105", `${label}: "${text}" is no number`);
    if (rule["min"] !== undefined && number < Number(rule["min"]))
      return object("105", `${label}: ${text} is under ${rule["min"]}`);
    if (rule["max"] !== undefined && number > Number(rule["max"]))
      return object("105", `${label}: ${text} is over ${rule["max"]}`);
    const currency = / ([A-Z]{3})$/.exec(text)?.[1];
    if (kind === "money" && currency !== undefined && !currencies.includes(currency))
      return object("109", `${label}: we do not trade in ${currency}`);
    return undefined;
  }
  const length = lengthOf(text, rule["counted"]);
  if (rule["max_length"] !== undefined && length > Number(rule["max_length"]))
    return object("102", `${label} has ${length} signs, ${rule["max_length"]} go in`);
  if (rule["min_length"] !== undefined && length < Number(rule["min_length"]))
    return object("102", `${label} has only ${length} signs`);
  if (rule["pattern"] !== undefined && !new RegExp(`^(?:${rule["pattern"]})$`, "u").test(text))
    return object("104", `${label}: "${text}" is not written as it should be`);
  const list = rule["values"] === undefined ? undefined : lists.get(rule["values"]);
  if (list !== undefined && rule["open"] !== "yes" && !list.has(text))
    return object("103", `${label}: "${text}" is not on our list`);
  return undefined;
}

/** The pieces of a cell: of a list its items. */
const itemsOf = (text: string, joinedBy: string): readonly string[] =>
  (text.includes("\n") ? text.split("\n") : text.split(joinedBy)).map((item) => item.trim()).filter(Boolean);

/** Judges rows of one channel. */
export interface Judge {
  /** What is wrong with a row; undefined where it is taken. */
  objection(
    row: ArrivedRow,
    purpose: Purpose,
    isKnown: (reference: string) => boolean,
  ): Objection | undefined;
  referenceOf(row: ArrivedRow): string;
}

/** Judges rows by a definition's data, with no eye on how we check them ourselves. */
export function judge(data: ChannelData): Judge {
  const { layout, identifiedBy, categoryField, categoryBy, groupModel } = data;
  const parents = new Map(data.categories.map((row) => [row["code"] ?? "", row["parent"] ?? ""]));
  const names = new Map(data.categories.map((row) => [row["code"] ?? "", row["name"] ?? ""]));
  const closed = new Set(
    data.categories.filter((row) => row["closed"] === "yes").map((row) => row["code"] ?? ""),
  );
  const pathOf = (code: string): string =>
    scopesOf(code, parents)
      .slice(1)
      .map((one) => names.get(one) ?? "")
      .join(" > ");
  const byPath = new Map([...names.keys()].map((code) => [pathOf(code), code]));
  const known = new Map<string, readonly RuleRow[]>();
  const rulesOf = (code: string): readonly RuleRow[] => {
    const scopes = scopesOf(code, parents).map((one) => (one === "*" ? ["*"] : [one, pathOf(one)]));
    const found = known.get(code) ?? rulesFor(scopes, data.fields);
    known.set(code, found);
    return found;
  };
  const markOf =
    typeof layout.settings["joined_by"] === "string"
      ? layout.settings["joined_by"]
      : layout.format === "tsv"
        ? ","
        : "|";
  const text = (row: ArrivedRow, field: string): string => {
    const own = layout.columns.filter((column) => column.field === field && column.field !== "");
    const cell = (name: string): string => flat(at(row.cells, name)) || flat(at(row.within, name));
    const whole = own
      .filter(({ part }) => part === "whole" || part === "amount")
      .map(({ name }) => cell(name));
    const more = own
      .filter(({ part }) => part === "currency" || part === "unit")
      .map(({ name }) => cell(name));
    return [whole.find(Boolean) ?? "", ...more].filter(Boolean).join(" ");
  };
  const joinOf = (field: string): string =>
    layout.columns.find((column) => column.field === field)?.joinedBy ?? markOf;
  const referenceOf = (row: ArrivedRow): string => {
    const own = text({ ...row, within: {} }, identifiedBy);
    return own === "" && row.isGroup ? text(row, data.groupField) : own;
  };
  // A group's row and its members each carry fields of their own, where the group stands apart.
  const isApart = groupModel === "group-row" || groupModel === "nested";
  const belongs = ({ level }: RuleRow, row: ArrivedRow): boolean => {
    if (!isApart) return true;
    const isMember = Object.keys(row.within).length > 0;
    return row.isGroup ? level === "group" : !isMember || level !== "group";
  };
  const hasColumn = (field: string): boolean => layout.columns.some((column) => column.field === field);
  return {
    referenceOf,
    objection(row, { purpose, must, opens }, isKnown) {
      const reference = referenceOf(row);
      if (reference === "")
        return { code: "101", field: identifiedBy, message: "the row has no number of yours" };
      if (purpose === "withdraw")
        return isKnown(reference)
          ? undefined
          : { code: "108", field: identifiedBy, message: `we show no ${reference}` };
      const isFull = purpose === "full";
      if (!isFull && !opens && !isKnown(reference))
        return { code: "108", field: identifiedBy, message: `we show no ${reference} that could be changed` };
      const written = text(row, categoryField);
      const category =
        categoryBy === "code" ? (parents.has(written) ? written : undefined) : byPath.get(written);
      if (isFull && (category === undefined || closed.has(category)))
        return {
          code: "106",
          field: categoryField,
          message: `"${written}" is ${category === undefined ? "none of our places" : "no place for goods, only for further places"}`,
        };
      for (const code of must)
        if (text(row, code) === "" && !row.isGroup)
          return { code: "101", field: code, message: `nothing is said in ${code}` };
      for (const rule of rulesOf(category ?? "")) {
        if (!belongs(rule, row) || !hasColumn(rule.field)) continue;
        const own = text(row, rule.field);
        if (own === "") {
          if (isFull && rule.isRequired && rule.axes === "")
            return { code: "101", field: rule.field, message: `${rule.label} is empty` };
          continue;
        }
        const items = rule.isList ? itemsOf(own, joinOf(rule.field)) : [own];
        const most = rule.rule["max_items"];
        if (most !== undefined && items.length > Number(most))
          return {
            code: "107",
            field: rule.field,
            message: `${rule.label}: ${items.length} are too many, ${most} go in`,
          };
        for (const item of items) {
          const found = valueObjection(rule, item, data);
          if (found !== undefined) return found;
        }
      }
      return undefined;
    },
  };
}
