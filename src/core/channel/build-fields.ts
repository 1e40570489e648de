/**
 * From the rows of `fields.csv` to fields and their rules by scope. A field's first row says what it is, each further
 * row what it asks in a scope.
 */
import { addAll } from "../many.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { asFieldCode } from "../ids.js";
import type { Surroundings } from "../language/function.js";
import { resultKind } from "../language/kind.js";
import { namesOf, type Names } from "../language/names.js";
import { program, type ReadyProgram } from "../language/program.js";
import { decimal, type Decimal } from "../values/decimal.js";
import { unitOf } from "../values/units.js";
import { isKind } from "../values/value.js";
import { readYesNo } from "../values/yes-no.js";
import { withAncestors, type CategoryTree } from "./category-tree.js";
import type { DefinitionSource, PatternCompiler, TableRow } from "./definition-source.js";
import {
  isNeed,
  levels,
  needs,
  type Field,
  type Level,
  type FieldRule,
  type Limits,
  type Pattern,
} from "./field.js";
import { scopeOf } from "./scope.js";
import type { ValueList } from "./value-list.js";

interface Building {
  readonly findings: Diagnostic[];
  readonly lists: ReadonlyMap<string, ValueList>;
  readonly tree: CategoryTree;
  readonly patterns: PatternCompiler;
  readonly surroundings: Surroundings;
  /** The channel's languages; the first is that of the labels. */
  readonly languages: readonly string[];
}

/** Fields, their rules, and what is wrong with their rows. */
export interface BuiltFields {
  readonly fields: readonly Field[];
  readonly names: Names;
  readonly rules: readonly FieldRule[];
}

/** Builds fields and their rules from the rows of `fields.csv`: a field's first row says what it is everywhere. */
export function buildFields(
  rows: DefinitionSource["fields"],
  building: Omit<Building, "findings">,
): BuiltFields & { readonly findings: readonly Diagnostic[] } {
  const findings: Diagnostic[] = [];
  const own: Building = { ...building, findings };
  const byCode = new Map<string, Field>();
  for (const row of rows) {
    const code = row.cell("field");
    if (code === "")
      findings.push(diagnostic("blank-cell", { column: "field" }, { place: row.place("field") }));
    else if (!byCode.has(code)) byCode.set(code, fieldOf(row, byCode.size, own));
  }
  const fields = [...byCode.values()];
  const names = namesOf(
    "field",
    fields.map(({ code, kind, list, unit }) => ({
      name: code,
      kind: resultKind(kind, list),
      dimension: unit?.dimension,
    })),
  );
  const rules = rows.flatMap((row) => {
    const field = byCode.get(row.cell("field"));
    return field === undefined ? [] : [ruleOf(row, field, names, own)];
  });
  addAll(findings, contradictions(rules));
  // A list that was named and is not there is told as that.
  if (findings.every(({ code }) => code !== "missing-file")) addAll(findings, withoutList(rules, own));
  return { fields, names, rules, findings };
}

function fieldOf(row: TableRow, slot: number, building: Building): Field {
  const code = row.cell("field");
  const kind = row.cell("kind");
  if (kind === "")
    building.findings.push(diagnostic("field-without-kind", { field: code }, { place: row.place("kind") }));
  else if (!isKind(kind))
    wrongCell(building, row, "kind", "a kind such as text, integer, money, measure, date, yes-no or choice");
  const unit = row.cell("unit");
  if (unit !== "" && unitOf(unit) === undefined)
    wrongCell(building, row, "unit", "a unit such as kg, cm or l");
  return {
    code: asFieldCode(code),
    slot,
    label: row.cell("label") || code,
    otherLabels: building.languages
      .slice(1)
      .map((language) => row.cell(`label@${language}`))
      .filter(Boolean),
    kind: isKind(kind) ? kind : "text",
    list: yesNo(row, "list", building),
    unit: unitOf(unit),
    decimals: count(row, "decimals", building),
    example: row.cell("example"),
    help: row.cell("help"),
    suggestedFill: row.cell("fill"),
    level: levelOf(row, building),
    choices: kind === "choice" ? choicesIn(row, building) : {},
    defaultValue: row.cell("default"),
    axes: row
      .cell("axes")
      .split(";")
      .map((axis) => axis.trim())
      .filter(Boolean),
  };
}

/** What a field's first row says of its list; faults of the cells are told where the row's rule is made. */
function choicesIn(row: TableRow, { lists }: Building): Field["choices"] {
  const values = lists.get(row.cell("values"));
  return values === undefined ? {} : { values, isOpenList: readYesNo(row.cell("open") || "no") };
}

/** Choices that somewhere have no list: anything would be taken there. */
function withoutList(rules: readonly FieldRule[], { tree }: Building): readonly Diagnostic[] {
  const listed = new Map<Field, Set<string>>();
  for (const { field, scope, limits } of rules)
    if (limits.values !== undefined) listed.set(field, (listed.get(field) ?? new Set()).add(scope));
  const isListed = (field: Field, scope: string): boolean => {
    const scopes = listed.get(field);
    if (scopes === undefined) return false;
    const category = tree.find(scope);
    const above = category === undefined ? [] : withAncestors(category).map(({ code }): string => code);
    return scopes.has("*") || scopes.has(scope) || above.some((code) => scopes.has(code));
  };
  const told = new Set<Field>();
  return rules.flatMap(({ field, scope, place }) => {
    if (field.kind !== "choice" || field.choices.values !== undefined || told.has(field)) return [];
    if (isListed(field, scope)) return [];
    told.add(field);
    return [diagnostic("choice-without-list", { field: field.code, scope }, { place })];
  });
}

function ruleOf(row: TableRow, field: Field, names: Names, building: Building): FieldRule {
  const { findings, tree, surroundings } = building;
  const scope = scopeOf(row.cell("scope") || "*", tree, row.place("scope"), findings);
  const need = row.cell("need");
  if (need !== "" && !isNeed(need)) wrongCell(building, row, "need", needs.join(", "));
  const condition = row.cell("when");
  let when: ReadyProgram | undefined;
  if (condition !== "") {
    const compiled = program({ text: condition, place: row.place("when") }, names, surroundings, "yes-no");
    if (compiled.kind === "program") when = compiled;
    else addAll(findings, compiled.findings);
  }
  return {
    field,
    scope,
    need: isNeed(need) ? need : undefined,
    when,
    limits: limitsOf(row, building),
    place: row.place(),
  };
}

function limitsOf(row: TableRow, building: Building): Limits {
  const counted = row.cell("counted");
  if (counted !== "" && counted !== "characters" && counted !== "bytes")
    wrongCell(building, row, "counted", "characters or bytes");
  return {
    minLength: count(row, "min_length", building),
    maxLength: count(row, "max_length", building),
    counted: counted === "bytes" || counted === "characters" ? counted : undefined,
    maxItems: count(row, "max_items", building),
    minPixels: count(row, "min_pixels", building),
    min: number(row, "min", building),
    max: number(row, "max", building),
    pattern: patternOf(row, building),
    values: listOf(row, building),
    isOpenList: row.cell("open") === "" ? undefined : yesNo(row, "open", building),
  };
}

function levelOf(row: TableRow, building: Building): Level {
  const text = row.cell("level");
  const found = levels.find((level) => level === text);
  if (text !== "" && found === undefined) wrongCell(building, row, "level", levels.join(", "));
  return found ?? "single";
}

function patternOf(row: TableRow, { patterns, findings }: Building): Pattern | undefined {
  const source = row.cell("pattern");
  if (source === "") return undefined;
  const compiled = patterns(source);
  if ("matches" in compiled) return compiled;
  const facts = { pattern: source, reason: compiled.reason };
  findings.push(diagnostic("wrong-pattern-source", facts, { place: row.place("pattern") }));
  return undefined;
}

function listOf(row: TableRow, { lists, findings }: Building): ValueList | undefined {
  const name = row.cell("values");
  const list = name === "" ? undefined : lists.get(name);
  if (name !== "" && list === undefined)
    findings.push(
      diagnostic(
        "missing-file",
        { path: `values/${name}.csv`, what: "the value list" },
        { place: row.place("values") },
      ),
    );
  return list;
}

function contradictions(rules: readonly FieldRule[]): readonly Diagnostic[] {
  const seen = new Map<string, FieldRule>();
  return rules.flatMap((rule) => {
    if (rule.need === undefined) return [];
    const key = `${rule.field.code}\u0000${rule.scope}\u0000${rule.when?.source.text ?? ""}`;
    const first = seen.get(key);
    seen.set(key, first ?? rule);
    if (first === undefined) return [];
    const what = `the need of "${rule.field.code}" in "${rule.scope}"`;
    return [
      diagnostic(
        "contradicting-rows",
        { what, first: `row ${first.place.row ?? "?"}` },
        { place: rule.place },
      ),
    ];
  });
}

function wrongCell({ findings }: Building, row: TableRow, column: string, expected: string): void {
  findings.push(
    diagnostic("wrong-cell", { column, value: row.cell(column), expected }, { place: row.place(column) }),
  );
}

function count(row: TableRow, column: string, building: Building): number | undefined {
  const text = row.cell(column);
  if (text === "") return undefined;
  if (/^\d{1,9}$/.test(text)) return Number(text);
  wrongCell(building, row, column, "a whole number");
  return undefined;
}

function number(row: TableRow, column: string, building: Building): Decimal | undefined {
  const text = row.cell(column);
  const value = text === "" ? undefined : decimal(text);
  if (text !== "" && value === undefined) wrongCell(building, row, column, "a number");
  return value;
}

function yesNo(row: TableRow, column: string, building: Building): boolean {
  const text = row.cell(column);
  const value = text === "" ? false : readYesNo(text);
  if (value === undefined) wrongCell(building, row, column, "yes or no");
  return value === true;
}
