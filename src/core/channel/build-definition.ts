/**
 * A channel's files held against each other and compiled: tree, lists, fields, layouts, rules. All faults are told at
 * once; a definition without any is never wrong in itself.
 */
import { addAll } from "../many.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { nearest } from "../values/nearest.js";
import type { Place } from "../diagnostics/place.js";
import type { FieldRule } from "./field.js";
import { asFieldCode, type FieldCode } from "../ids.js";
import type { Surroundings } from "../language/function.js";
import type { Names } from "../language/names.js";
import { program } from "../language/program.js";
import { buildAxes } from "./build-axes.js";
import { buildBanned } from "./build-banned.js";
import { scopeOf } from "./scope.js";
import { buildExchange } from "./build-exchange.js";
import { buildFields } from "./build-fields.js";
import { buildLayouts } from "./build-layouts.js";
import { buildTree, type CategoryTree } from "./category-tree.js";
import { roles, type ChannelDefinition, type CrossRule } from "./definition.js";
import type { DefinitionSource, PatternCompiler } from "./definition-source.js";
import { valueList } from "./value-list.js";

/** A definition with what is wrong with it. */
export interface BuiltDefinition {
  readonly definition: ChannelDefinition;
  /** All faults of the definition; it must not be used while there are any. */
  readonly findings: readonly Diagnostic[];
}

/** Checks a definition's files against each other and compiles its conditions and rules. */
export function buildDefinition(
  source: DefinitionSource,
  patterns: PatternCompiler,
  surroundings: Surroundings,
): BuiltDefinition {
  const { tree, findings: treeFindings } = buildTree(source.categories, source.retired);
  const lists = new Map(
    source.valueLists.map(({ name, place, values }) => [name, valueList(name, place, values)]),
  );
  const emptyLists = source.valueLists
    .filter(({ values }) => values.length === 0)
    .map(({ name, place }) => diagnostic("empty-value-list", { list: name }, { place }));
  const fields = buildFields(source.fields, {
    lists,
    tree,
    patterns,
    surroundings,
    languages: source.languages,
  });
  const layouts = buildLayouts(source.layouts, fields.fields);
  const purposeFaults = purposesServed(source);
  const rules = buildCrossRules(source.crossRules, fields.names, tree, surroundings);
  const findings: Diagnostic[] = [
    ...treeFindings,
    ...emptyLists,
    ...fields.findings,
    ...layouts.findings,
    ...purposeFaults,
    ...rules.findings,
  ];
  const field = (code: string, place: Place): FieldCode => {
    if (fields.names.find(code) === undefined)
      findings.push(
        diagnostic("unknown-field", { field: code, nearest: nearest(code, fields.names.all) }, { place }),
      );
    return asFieldCode(code);
  };
  const { channel, label, version, languages, currencies, countries, groups, fileLimits, results } = source;
  const exchange = buildExchange(source, layouts.layouts, fields.names, findings);
  const axes = buildAxes(source.axes, tree, findings);
  const banned = buildBanned(source.banned, field, patterns, lists, findings);
  const purposeRules = source.purposes.map(
    ({ purpose, blank = "leave", must = [], may = [], opens = false, action = "", place }) => ({
      purpose,
      blank,
      opens,
      must: must.map((code) => field(code, place)),
      may: may.map((code) => field(code, place)),
      action,
    }),
  );
  const definition: ChannelDefinition = {
    channel,
    label,
    version,
    languages,
    currencies,
    countries,
    tree,
    results,
    exchange,
    purposeRules,
    banned,
    purposes: purposeRules.map(({ purpose }) => purpose),
    axisRules: axes,
    fileLimits: {
      rows: fileLimits.rows,
      megabytes: fileLimits.megabytes,
      nameOnce: fileLimits.name_once === true,
    },
    fields: fields.fields,
    fieldNames: fields.names,
    rules: fields.rules,
    rulesByScope: byScope(fields.rules),
    crossRules: rules.crossRules,
    layouts: layouts.layouts,
    groups:
      groups.model === "separate"
        ? { model: groups.model, toldApartBy: field(groups.toldApartBy ?? "", groups.place) }
        : { model: groups.model, groupField: field(groups.groupField ?? "", groups.place) },
    identifiedBy: field(source.identifiedBy, source.place),
    roles: Object.fromEntries(
      roles.flatMap((role) => {
        const code = source.roles[role];
        const slot = code === undefined ? undefined : fields.names.find(field(code, source.place))?.slot;
        const own = slot === undefined ? undefined : fields.fields[slot];
        return own === undefined ? [] : [[role, own] as const];
      }),
    ),
    categoryBy: source.categoryBy,
    categoryField: source.categoryField === undefined ? undefined : field(source.categoryField, source.place),
  };
  return { definition, findings };
}

/** A layout serves purposes of the channel, and each purpose has a layout: else its files would be none. */
function purposesServed({ layouts, purposes, place }: DefinitionSource): readonly Diagnostic[] {
  const known = purposes.map(({ purpose }) => purpose);
  const foreign = layouts.flatMap(({ name, purposes: own = [], place: at }) =>
    own
      .filter((one) => !known.includes(one))
      .map((one) =>
        diagnostic(
          "wrong-setting",
          {
            key: `layouts, ${name}: purposes`,
            reason: `the channel takes no ${one} files; its purposes are ${known.join(", ")}`,
          },
          { place: at },
        ),
      ),
  );
  const unserved = known
    .filter((one) => !layouts.some(({ purposes: own }) => own === undefined || own.includes(one)))
    .map((one) =>
      diagnostic(
        "wrong-setting",
        { key: "layouts", reason: `no layout is for ${one} files, which the channel takes` },
        { place },
      ),
    );
  return [...foreign, ...unserved];
}

function byScope(rules: readonly FieldRule[]): ReadonlyMap<string, readonly FieldRule[]> {
  const found = new Map<string, FieldRule[]>();
  for (const rule of rules) {
    const own = found.get(rule.scope);
    if (own === undefined) found.set(rule.scope, [rule]);
    else own.push(rule);
  }
  return found;
}

function buildCrossRules(
  sources: DefinitionSource["crossRules"],
  names: Names,
  tree: CategoryTree,
  surroundings: Surroundings,
): { readonly crossRules: readonly CrossRule[]; readonly findings: readonly Diagnostic[] } {
  const findings: Diagnostic[] = [];
  const crossRules = sources.flatMap(
    ({ code, scope, holds, says, severity, place }): readonly CrossRule[] => {
      const where = scopeOf(scope, tree, place, findings);
      const compiled = program(holds, names, surroundings, "yes-no");
      if (compiled.kind === "program")
        return [{ code, scope: where, holds: compiled, says, severity, place }];
      addAll(findings, compiled.findings);
      return [];
    },
  );
  return { crossRules, findings };
}
