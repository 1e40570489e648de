/** Columns side by side that hold one field: numbered lists, an amount and its currency or unit. */
import { trust } from "./trust.js";
import { columnLetter } from "../diagnostics/place.js";
import type { Claim } from "./claim.js";
import { labelConfidence, type TemplateColumn } from "./column-claims.js";
import { nameKey } from "./headings.js";

/** A column as one value of a field; `item` counts from 0 where a list stands in columns side by side. */
export interface FieldColumn {
  readonly column: TemplateColumn;
  readonly item: number | undefined;
}

/** Columns of one template that hold one field. */
export interface JoinedColumns {
  /** By which the same field of another template is known. */
  readonly key: string;
  readonly label: string;
  readonly code: string;
  readonly columns: readonly FieldColumn[];
  readonly claims: readonly Claim[];
  readonly group: string;
}

interface Numbered {
  readonly stem: string;
  readonly number: number;
}

const numbered =
  /^(.*?[^\s\d_.#([-])[\s_.#-]*(?:(?:no|nr|num|n°|nº|number|nummer|numéro|número)\.?\s*)?[([]?#?\s*0*(\d{1,2})\s*[)\]]?$/iu;

/** `Picture 3`, `picture_03`, `Bild (2)`, `Photo no. 4`: the name without its number. */
export function numberedName(name: string): Numbered | undefined {
  const found = numbered.exec(name.trim());
  if (found === null) return numberedWithin(name.trim());
  return {
    stem: (found[1] ?? "").replace(/[\s_.,:-]+(?:no|nr|num|n°|nº)?\.?$/iu, "").trim(),
    number: Number(found[2]),
  };
}

/** `Image 2 URL`, `bullet_3_text`: the number may stand within. */
function numberedWithin(name: string): Numbered | undefined {
  const found = /^(\D*[^\d\s_.#(-])[\s_.#(-]*0*(\d{1,2})[\s_.)-]*([^\d\s_.)-]\D*)$/u.exec(name);
  return found === null
    ? undefined
    : { stem: `${found[1] ?? ""} ${found[3] ?? ""}`, number: Number(found[2]) };
}

/** Numbers that count on from 0, 1 or 2, each once. */
function countOn(numbers: readonly number[]): boolean {
  const sorted = [...numbers].sort((a, b) => a - b);
  const [first = 99] = sorted;
  return first <= 2 && sorted.every((number, at) => number === first + at);
}

function groupsBy(
  columns: readonly TemplateColumn[],
  nameOf: (column: TemplateColumn) => string,
): readonly (readonly TemplateColumn[])[] {
  const stems = new Map<string, { column: TemplateColumn; number: number }[]>();
  for (const column of columns) {
    const name = nameOf(column);
    const found = name === "" ? undefined : numberedName(name);
    const stem = nameKey(found?.stem ?? name);
    const own = stems.get(stem) ?? [];
    own.push({ column, number: found?.number ?? 1 });
    stems.set(stem, own);
  }
  return [...stems.values()]
    .filter((own) => own.length > 1 && countOn(own.map(({ number }) => number)))
    .map((own) => [...own].sort((a, b) => a.number - b.number).map(({ column }) => column));
}

/** Headings that are the very same side by side: a list without numbers. */
function sameNames(columns: readonly TemplateColumn[]): readonly (readonly TemplateColumn[])[] {
  const byName = new Map<string, TemplateColumn[]>();
  for (const column of columns) {
    if (column.code !== "") continue;
    const key = `${nameKey(column.label)} ${nameKey(column.group)}`;
    byName.set(key, [...(byName.get(key) ?? []), column]);
  }
  return [...byName.values()].filter((own) => own.length > 1);
}

/** Gathers columns side by side into lists; each other column is a field of its own. */
export function joinColumns(columns: readonly TemplateColumn[]): readonly JoinedColumns[] {
  const taken = new Map<TemplateColumn, readonly TemplateColumn[]>();
  for (const groups of [
    groupsBy(columns, ({ code }) => code),
    groupsBy(columns, ({ label }) => label),
    sameNames(columns),
  ])
    for (const group of groups)
      if (group.every((column) => !taken.has(column))) for (const column of group) taken.set(column, group);
  const fields: JoinedColumns[] = [];
  const done = new Set<readonly TemplateColumn[]>();
  for (const column of columns) {
    const group = taken.get(column);
    if (group === undefined) fields.push(single(column));
    else if (!done.has(group)) {
      done.add(group);
      fields.push(listOf(group));
    }
  }
  return withOwnKeys(fields);
}

const single = (column: TemplateColumn): JoinedColumns => ({
  key: nameKey(column.code || column.label),
  label: column.label,
  code: column.code,
  columns: [{ column, item: undefined }],
  claims: column.claims,
  group: column.group,
});

function listOf(group: readonly TemplateColumn[]): JoinedColumns {
  const [first, second] = group;
  if (first === undefined) throw new Error("a group of columns holds none");
  const stemOf = (name: string): string => numberedName(name)?.stem ?? name;
  const last = group.at(-1) ?? first;
  const from = {
    file: first.sheet.file,
    sheet: first.sheet.sheet,
    at: `${columnLetter(first.at)}:${columnLetter(last.at)}`,
  };
  const because = "columns side by side";
  // The first column's word on a must holds for the list; the rules of each hold for its values.
  const claims = group.flatMap((column, at) =>
    column.claims.filter(({ fact }) => at === 0 || (fact !== "need" && fact !== "when" && fact !== "label")),
  );
  const label = stemOf(second?.label ?? first.label) || first.label;
  return {
    key: nameKey(stemOf(first.code) || label),
    label,
    code: first.code === "" ? "" : stemOf(first.code),
    columns: group.map((column, item) => ({ column, item })),
    claims: [
      ...claims.filter(({ fact }) => fact !== "label" && fact !== "max_items" && fact !== "list"),
      { fact: "label", value: label, confidence: labelConfidence(label), from, because },
      { fact: "list", value: "yes", confidence: trust.sideBySide, from, because },
      { fact: "max_items", value: String(group.length), confidence: trust.sideBySide, from, because },
    ],
    group: first.group,
  };
}

/** Names that say nothing without the group that they stand under. */
const bare =
  /^(?:value|amount|unit|units|currency|from|to|until|start|end|min|max|name|code|type|text|number|wert|betrag|einheit|währung|von|bis|valeur|montant|unité|devise|du|au|valor|importe|unidad|moneda|desde|hasta)$/iu;

/** Fields of one name, and those whose name says nothing, are told apart by their group, else by their place. */
function withOwnKeys(fields: readonly JoinedColumns[]): readonly JoinedColumns[] {
  const counts = new Map<string, number>();
  for (const { key } of fields) counts.set(key, (counts.get(key) ?? 0) + 1);
  const seen = new Set<string>();
  return fields.map((field) => {
    const isUnclear = (counts.get(field.key) ?? 0) > 1 || (bare.test(field.label) && field.code === "");
    const isGrouped = field.group !== "" && isUnclear && nameKey(field.group) !== field.key;
    const label = isGrouped ? `${field.group}: ${field.label}` : field.label;
    const base = isGrouped ? `${nameKey(field.group)}${field.key}` : field.key === "" ? "column" : field.key;
    let key = base;
    for (let count = 2; seen.has(key); count++) key = `${base}${count}`;
    seen.add(key);
    if (!isGrouped) return { ...field, key };
    const claims = field.claims.map((claim) =>
      claim.fact === "label" && claim.because !== "the sheet that explains the columns"
        ? { ...claim, value: label }
        : claim,
    );
    return { ...field, key, label, claims };
  });
}
