/** What was settled, as a definition's files: YAML as plain data, tables as rows. */
import { unitOf } from "../values/units.js";
import { readYesNo } from "../values/yes-no.js";
import { fieldFacts, OPEN, ruleFacts, valuesOf, type Fact } from "./claim.js";
import type { Branch, LearnedChannel, LearnedField } from "./learned.js";
import { layoutDraft } from "./layout-draft.js";
import { styleDraft } from "./layout-style.js";
import { reportDraft } from "./report-draft.js";
import type { SettledFacts } from "./settle.js";

/** A definition as it is to be written: its YAML as plain data, its tables as rows. */
export interface DefinitionDraft {
  readonly definition: Readonly<Record<string, unknown>>;
  readonly categories: readonly Readonly<Record<string, string>>[];
  readonly fields: readonly Readonly<Record<string, string>>[];
  readonly values: ReadonlyMap<string, readonly Readonly<Record<string, string>>[]>;
  readonly axes: readonly Readonly<Record<string, string>>[];
  readonly told: readonly string[];
}

/** What a definition needs beside what was learned. */
export interface DraftFacts {
  readonly channel: string;
  readonly label: string;
  readonly version: string;
  readonly languages: readonly string[];
  readonly currencies: readonly string[];
  readonly countries: readonly string[];
}

/** The columns of `fields.csv`, in the order in which a person reads them. */
export const fieldColumns = [
  ...(["field", "scope", "label", "kind", "list", "need", "when", "unit", "decimals", "level"] as const),
  ...(["default", "min", "max", "min_length", "max_length", "counted", "max_items", "min_pixels"] as const),
  ...(["pattern", "values", "open", "example", "fill", "help"] as const),
] as const;

type FieldRow = Partial<Record<(typeof fieldColumns)[number], string>>;

// Conditions are rows of their own, lists are files.
const inScope = ruleFacts.filter((fact) => fact !== "when" && fact !== "values");

const plainText = (text: string): string => text.replace(/\s+/g, " ").trim();

const cellsOf = (facts: SettledFacts, wanted: readonly Fact[]): FieldRow =>
  Object.fromEntries(
    wanted.flatMap((fact) => {
      const value = facts.get(fact)?.value;
      return value === undefined || value === "" ? [] : [[fact, plainText(value)]];
    }),
  );

/** Files of values by what they hold: a list that several fields share is written once. */
function valueFiles() {
  const byName = new Map<string, readonly string[]>();
  const byValues = new Map<string, string>();
  return {
    nameFor(code: string, values: readonly string[]): string {
      const key = values.join("\n");
      const known = byValues.get(key);
      if (known !== undefined) return known;
      let name = code.replace(/[^a-z0-9_-]/g, "-");
      for (let count = 2; byName.has(name); count++) name = `${code}-${count}`;
      byName.set(name, values);
      byValues.set(key, name);
      return name;
    },
    all: (): ReadonlyMap<string, readonly string[]> => byName,
  };
}

// Our own words for what a channel's list calls otherwise: they reach the value without a row in the lexicon.
const ownWords: readonly (readonly [RegExp, string])[] = [
  [/^(?:neu|neuf|neuve|nuev[oa]|nuovo|nieuw|brand new)$/i, "new"],
  [/^(?:gebraucht|occasion|usad[oa]|usato|gebruikt|pre-?owned|second hand)$/i, "used"],
  [/^(?:generalüberholt|reconditionné|reacondicionad[oa]|refurbished|ricondizionato)$/i, "refurbished"],
  [/^(?:auf lager|en stock|en existencias|disponibile|op voorraad|available)$/i, "in stock"],
  [/^(?:nicht auf lager|ausverkauft|en rupture|agotad[oa]|sold out|not available)$/i, "out of stock"],
];

function synonymsOf(value: string): string {
  const yesNo = /^[\p{L}]{1,5}$/u.test(value) ? readYesNo(value) : undefined;
  if (yesNo !== undefined) return yesNo ? "yes" : "no";
  return ownWords.find(([pattern]) => pattern.test(value))?.[1] ?? "";
}

const isCategory = (field: LearnedField, learned: LearnedChannel): boolean =>
  learned.guesses.get("category_field")?.value === field.code;

/** Makes a definition of what was learned. */
export function definitionDraft(learned: LearnedChannel, own: DraftFacts): DefinitionDraft {
  const { fields, guesses } = learned;
  const files = valueFiles();
  const style = styleDraft(learned);
  const told: string[] = [];
  const rows = fields.flatMap((field) => rowsOf(field, learned, style, files, told));
  const value = (fact: Parameters<typeof guesses.get>[0]): string | undefined => guesses.get(fact)?.value;
  const model = value("group_model") ?? "separate";
  const title = roleOf(fields, "name") ?? value("identified_by") ?? "";
  const layout = layoutDraft(learned, own.channel, style, told);
  const category = value("category_field");
  const report = reportDraft(learned);
  const definition = {
    channel: own.channel,
    label: own.label,
    version: own.version,
    languages: own.languages,
    currencies: own.currencies,
    countries: own.countries,
    identified_by: value("identified_by") ?? "",
    ...(category === undefined ? {} : { category_field: category, category_by: learned.categoriesBy }),
    roles: Object.fromEntries(
      (["name", "description", "keywords", "price"] as const).flatMap((role) => {
        const code = roleOf(fields, role);
        return code === undefined ? [] : [[role, code]];
      }),
    ),
    groups:
      model === "separate"
        ? { model, told_apart_by: title }
        : { model, group_field: value("group_field") ?? title },
    purposes: ["full"],
    ...report,
    layouts: [layout],
  };
  return {
    definition,
    categories: learned.categories.map(({ code, parent, name }) => ({ code, parent, name })),
    fields: rows,
    values: new Map(
      [...files.all()].map(([name, values]) => [
        name,
        values.map((one) => ({ value: one, synonyms: synonymsOf(one) })),
      ]),
    ),
    axes: axesOf(learned, model),
    told,
  };
}

const roleOf = (fields: readonly LearnedField[], attribute: string): string | undefined =>
  fields
    .filter(
      ({ meaning, facts }) =>
        meaning?.attribute === attribute &&
        (attribute !== "price" || ["money", "decimal"].includes(facts.get("kind")?.value ?? "")),
    )
    .sort((a, b) => (b.meaning?.confidence ?? 0) - (a.meaning?.confidence ?? 0))[0]?.code;

const axisWords: readonly (readonly [RegExp, string])[] = [
  [/colou?r|farb|couleur|color/i, "color"],
  [/size|größe|groesse|taille|talla/i, "size"],
  [/material|matière|matiere/i, "material"],
  [/pattern|muster|motif/i, "pattern"],
];

/** What members may differ in, by the values of the column that says it. */
function axesOf({ fields }: LearnedChannel, model: string): DefinitionDraft["axes"] {
  const axis = fields.find(({ meaning }) => meaning?.attribute === "varies_by");
  const values = valuesOf(axis?.facts.get("values")?.value ?? "");
  if (model === "separate" || values.length === 0) return [];
  const axes = axisWords.flatMap(([pattern, attribute]) =>
    values.some((value) => pattern.test(value)) ? [attribute] : [],
  );
  return axes.length === 0 ? [] : [{ scope: "*", axes: axes.join("; ") }];
}

function rowsOf(
  field: LearnedField,
  learned: LearnedChannel,
  style: ReturnType<typeof styleDraft>,
  files: ReturnType<typeof valueFiles>,
  told: string[],
): readonly FieldRow[] {
  const { facts, code, branches, byBranch } = field;
  const general = cellsOf(facts, fieldFacts);
  const kind = writtenKind(field, style, told);
  // A list that is not the tree's own codes would refuse what the placement gives.
  const isPlaced = isCategory(field, learned) && kind !== "choice";
  const list = (some: SettledFacts): FieldRow => {
    const values = valuesOf(some.get("values")?.value ?? "");
    return values.length === 0 || kind === "yes-no" || isPlaced
      ? {}
      : { values: files.nameFor(code, values) };
  };
  const limits = (some: SettledFacts): FieldRow =>
    withoutForeign({ ...cellsOf(some, inScope), ...list(some) }, kind);
  const [first, ...others] = scopesOf(branches, learned.branches);
  const level = field.isMembers ? { level: "member" } : {};
  const base: FieldRow = { ...withoutForeign({ ...general, kind }, kind), ...level };
  const row: FieldRow = {
    field: code,
    scope: first ?? "*",
    ...base,
    ...limits(facts),
    ...limits(byBranch.get(first ?? "*") ?? new Map()),
  };
  if (row.need === undefined && byBranch.size === 0) row.need = "optional";
  const rows: FieldRow[] = [row];
  const when = facts.get("when");
  // In words it says something to people alone.
  const condition =
    when === undefined || (!when.isCorrected && when.confidence < OPEN) ? undefined : when.value;
  if (condition !== undefined && facts.get("need")?.value !== "required")
    rows.push({ field: code, scope: first ?? "*", need: "required", when: condition });
  for (const scope of others)
    rows.push({ field: code, scope, ...limits(facts), ...limits(byBranch.get(scope) ?? new Map()) });
  for (const [branch, some] of byBranch)
    if (branch !== first && !others.includes(branch))
      rows.push({ field: code, scope: branch, ...limits(some) });
  return [...rows, ...hangingRows(field, learned, files)];
}

const scopesOf = (own: readonly string[] | undefined, branches: readonly Branch[]): readonly string[] =>
  own === undefined ? ["*"] : own.filter((code) => branches.some((branch) => branch.code === code));

/** A yes or no in words that the layout does not write is a choice of two. */
function writtenKind(
  { facts, label }: LearnedField,
  style: ReturnType<typeof styleDraft>,
  told: string[],
): string {
  const kind = facts.get("kind")?.value ?? "text";
  if (kind === "measure" && unitOf(facts.get("unit")?.value ?? "") === undefined) return "decimal";
  const values = valuesOf(facts.get("values")?.value ?? "");
  if (kind === "choice" && values.length === 0) return "text";
  if (kind !== "yes-no" || values.length === 0 || style.isYesNo(values)) return kind;
  told.push(`"${label}" says yes and no as ${values.join(" and ")}, others otherwise: it is a choice`);
  return "choice";
}

function withoutForeign(row: FieldRow, kind: string): FieldRow {
  const found = { ...row };
  if (kind !== "measure") delete found.unit;
  if (["text", "choice", "url", "date", "yes-no", "gtin", "isbn", "integer"].includes(kind))
    delete found.decimals;
  return found;
}

/** A list that hangs on the category is each category's own. */
function hangingRows(
  field: LearnedField,
  learned: LearnedChannel,
  files: ReturnType<typeof valueFiles>,
): readonly FieldRow[] {
  const rows: FieldRow[] = [];
  for (const { column, template } of field.columns) {
    const { hangs } = column;
    const on =
      hangs === undefined
        ? undefined
        : learned.fields.find((one) =>
            one.columns.some((other) => other.template === template && other.column.at === hangs.column),
          );
    if (hangs === undefined || on === undefined || !isCategory(on, learned)) continue;
    const known = new Set(learned.categories.map(({ code }) => code));
    for (const { when, values } of hangs.lists) {
      const scope = learned.categories.find(({ code, name }) => code === when || name === when)?.code;
      if (scope !== undefined && known.has(scope))
        rows.push({
          field: field.code,
          scope,
          values: files.nameFor(`${field.code}-${scope.toLowerCase().replace(/[^a-z0-9]+/g, "-")}`, values),
        });
    }
    break;
  }
  return rows;
}
