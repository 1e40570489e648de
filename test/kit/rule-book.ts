import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";

/**
 * A channel's rules told a second time, plainly, from its own tables: a listing is texts by field, and each cell that no
 * reader of `fields.csv` would accept is said. It shares no code with the program.
 */
type Row = Readonly<Record<string, string>>;

/** A listing as a channel's file shows it: a field's texts, one for each value of a list. */
export type Shown = Readonly<Record<string, readonly string[]>>;

interface Rules {
  readonly folder: string;
  readonly fields: ReadonlyMap<string, readonly Row[]>;
  /** Codes and paths of a category and all above it, the nearest first, by its code and by its path. */
  readonly above: ReadonlyMap<string, readonly string[]>;
  readonly closed: ReadonlySet<string>;
  readonly byKey: "code" | "path";
}

const table = (path: string): readonly Row[] =>
  parse(readFileSync(path), { columns: true, bom: true }) as Row[];

export const ruleBook = (folder: string, byKey: "code" | "path"): Rules => {
  const fields = new Map<string, Row[]>();
  for (const row of table(join(folder, "fields.csv")))
    fields.set(row["field"] ?? "", [...(fields.get(row["field"] ?? "") ?? []), row]);
  const categories = new Map(table(join(folder, "categories.csv")).map((row) => [row["code"] ?? "", row]));
  const above = new Map<string, readonly string[]>();
  const closed = new Set<string>();
  const pathOf = (code: string): string => {
    const { parent = "", name = "" } = categories.get(code) ?? {};
    return parent === "" ? name : `${pathOf(parent)} > ${name}`;
  };
  for (const [code, row] of categories) {
    const keys: string[] = [];
    for (let at = code; at !== ""; at = categories.get(at)?.["parent"] ?? "") keys.push(at, pathOf(at));
    above.set(byKey === "code" ? code : pathOf(code), [...keys, "*"]);
    if (row["closed"] === "yes") closed.add(byKey === "code" ? code : pathOf(code));
  }
  return { folder, fields, above, closed, byKey };
};

const checkDigitIsRight = (digits: string): boolean => {
  const padded = digits.padStart(14, "0");
  const sum = [...padded].reduce((total, digit, at) => total + Number(digit) * (at % 2 === 0 ? 3 : 1), 0);
  return /^(\d{8}|\d{12,14})$/.test(digits) && sum % 10 === 0;
};

const number = /^-?\d+(\.\d+)?$/;

const isKind = (kind: string, text: string, unit: string): boolean => {
  switch (kind) {
    case "integer":
      return /^-?\d+$/.test(text);
    case "decimal":
      return number.test(text);
    case "money":
      return /^\d+(\.\d+)?( [A-Z]{3})?$/.test(text);
    case "measure": {
      const [amount = "", written] = text.split(" ");
      return number.test(amount) && (written === undefined || unit === "" || written === unit);
    }
    case "date":
      return /^[12]\d{3}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));
    case "yes-no":
      return text === "yes" || text === "no";
    case "url":
      return /^https?:\/\/[a-z0-9.-]+\/\S*$/.test(text);
    case "gtin":
      return checkDigitIsRight(text);
    default:
      return text.trim() !== "";
  }
};

/** What is out of rule in one listing, in words. */
export const outOfRule = (
  rules: Rules,
  shown: Shown,
  categoryField: string,
  { isInGroup = false, isPart = false } = {},
): readonly string[] => {
  const [category = ""] = shown[categoryField] ?? [];
  const scopes = rules.above.get(category);
  if (scopes === undefined) return [`${categoryField}: "${category}" is no category`];
  const wrong: string[] = rules.closed.has(category) ? [`${categoryField}: "${category}" is closed`] : [];
  for (const [code, rows] of rules.fields) {
    const first = rows[0] ?? {};
    const texts = shown[code] ?? [];
    const say = (what: string): void =>
      void wrong.push(`${code}: ${what}: ${texts.join(" | ").slice(0, 60)}`);
    const nearest = scopes.flatMap((scope) => rows.filter((row) => row["scope"] === scope));
    const limit = (key: string): string => nearest.find((row) => (row[key] ?? "") !== "")?.[key] ?? "";
    const needScope = nearest.find((row) => (row["need"] ?? "") !== "")?.["scope"];
    const needs = rows.filter((row) => row["scope"] === needScope && (row["need"] ?? "") !== "");
    const need = needs.some((row) => (row["when"] ?? "") !== "") ? "" : (needs[0]?.["need"] ?? "");
    const isAsked = (first["axes"] ?? "") === "" && (first["level"] !== "member" || isInGroup);
    if (need === "required" && texts.length === 0 && isAsked && !isPart) say("is required");
    if (need === "not allowed" && texts.length > 0) say("is not allowed");
    if (texts.length === 0) continue;
    const most = Number(limit("max_items") || (first["list"] === "yes" ? "Infinity" : "1"));
    if (texts.length > most) say(`more than ${most}`);
    const list = limit("values");
    const permitted =
      list === "" || limit("open") === "yes"
        ? undefined
        : new Set(table(join(rules.folder, "values", `${list}.csv`)).map((row) => row["value"] ?? ""));
    for (const text of texts) {
      if (!isKind(first["kind"] ?? "", text, first["unit"] ?? "")) say(`is no ${first["kind"] ?? ""}`);
      const size = limit("counted") === "bytes" ? Buffer.byteLength(text) : [...text].length;
      if (size > Number(limit("max_length") || "Infinity")) say("is too long");
      if (size < Number(limit("min_length") || "0")) say("is too short");
      const amount = Number(text.split(" ")[0]);
      if (amount > Number(limit("max") || "Infinity")) say("is too much");
      if (limit("min") !== "" && amount < Number(limit("min"))) say("is too little");
      const places = (/^-?\d+\.(\d+)/.exec(text)?.[1] ?? "").length;
      if (first["decimals"] !== "" && places > Number(first["decimals"])) say("has too many decimals");
      const pattern = limit("pattern");
      if (pattern !== "" && !new RegExp(`^(?:${pattern})$`, "u").test(text)) say("is not of its pattern");
      if (permitted?.has(text) === false) say("is no permitted value");
      if (/[\p{Cc}\ufffd]/u.test(text.replace(/[\n\t]/g, ""))) say("holds a control character");
    }
  }
  return wrong;
};
