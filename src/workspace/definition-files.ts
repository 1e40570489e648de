/** Definitions as files: found, read into rows and settings, built in core; once a process. */
import { isThere, namesIn } from "../formats/is-there.js";
import { join } from "node:path";
import { buildDefinition } from "../core/channel/build-definition.js";
import type { ExchangeSource } from "../core/channel/exchange-source.js";
import type { ChannelDefinition } from "../core/channel/definition.js";
import type { DefinitionSource, PatternCompiler } from "../core/channel/definition-source.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Surroundings } from "../core/language/function.js";
import { readYesNo } from "../core/values/yes-no.js";
import { loadSettings } from "./load-settings.js";
import type { ResultsModel } from "./models/definition-model.js";
import { patternCompiler } from "./patterns.js";
import { noCache, type SettingsCache } from "./settings-cache.js";
import { readOnce } from "./read-once.js";
import { readTable } from "./table-file.js";
import { expressionAt, readYaml, type YamlFile } from "./yaml-file.js";

/** A folder that holds a definition; `shown` is how messages name it. */
export interface DefinitionFolder {
  readonly channel: string;
  readonly path: string;
  readonly shown: string;
}

/** Definitions of the workspace, then the shipped ones; a workspace's own wins over a shipped one of its name. */
export async function findDefinitions(
  roots: readonly { readonly path: string; readonly shown: string }[],
): Promise<readonly DefinitionFolder[]> {
  const found = new Map<string, DefinitionFolder>();
  for (const { path, shown } of roots) {
    for (const name of await namesIn(path, shown)) {
      const file = "definition.yaml";
      if (found.has(name) || !isThere(join(path, name, file), `${shown}/${name}/${file}`)) continue;
      found.set(name, { channel: name, path: join(path, name), shown: `${shown}/${name}` });
    }
  }
  return [...found.values()].sort((a, b) => (a.channel < b.channel ? -1 : 1));
}

const definitions = readOnce<ChannelDefinition>();

/**
 * Loads a channel definition whole; once a process, as long as none of its files changes.
 * @throws Refusal with all its faults, each with file and line or row
 */
export function loadDefinition(
  folder: DefinitionFolder,
  surroundings: Surroundings,
  cache: SettingsCache = noCache,
): Promise<ChannelDefinition> {
  const { today, reading, rates, tables, channelTerm } = surroundings;
  return definitions([folder.path], [folder.shown, today.iso, reading, rates, tables, channelTerm], () =>
    readDefinition(folder, surroundings, cache),
  );
}

async function readDefinition(
  folder: DefinitionFolder,
  surroundings: Surroundings,
  cache: SettingsCache,
): Promise<ChannelDefinition> {
  const file = `${folder.shown}/definition.yaml`;
  const yaml = await readYaml(join(folder.path, "definition.yaml"), file);
  const source = await definitionSource(folder, yaml, cache);
  const usesPatterns =
    source.fields.some((row) => row.cell("pattern") !== "") ||
    source.banned.some((row) => row.cell("kind") === "pattern");
  const patterns = await patternCompiler(usesPatterns);
  const { definition, findings } = buildDefinition(source, patterns satisfies PatternCompiler, surroundings);
  if (findings.length > 0) throw new Refusal(findings);
  return definition;
}

async function definitionSource(
  folder: DefinitionFolder,
  yaml: YamlFile,
  cache: SettingsCache,
): Promise<DefinitionSource> {
  const settings = await loadSettings(
    yaml,
    "definition",
    cache,
    async () => (await import("./models/definition-model.js")).DefinitionModel,
  );
  const table = (name: string, required: readonly string[]) =>
    readTable(join(folder.path, name), `${folder.shown}/${name}`, required);
  const optional = (name: string, required: readonly string[]) =>
    isThere(join(folder.path, name), `${folder.shown}/${name}`) ? table(name, required) : Promise.resolve([]);
  const categories = await table("categories.csv", ["code", "parent", "name"]);
  const fields = await table("fields.csv", ["field", "scope", "kind", "need"]);
  return {
    ...settings,
    place: { file: yaml.file },
    identifiedBy: settings.identified_by,
    categoryField: settings.category_field,
    categoryBy: settings.category_by ?? "path",
    roles: settings.roles ?? {},
    groups: {
      model: settings.groups.model,
      toldApartBy: settings.groups.told_apart_by,
      groupField: settings.groups.group_field,
      place: yaml.place(["groups"]),
    },
    purposes: settings.purposes.map((entry, index) => ({
      ...(typeof entry === "string" ? { purpose: entry } : entry),
      place: yaml.place(["purposes", index]),
    })),
    fileLimits: settings.file_limits ?? {},
    results: settings.results === undefined ? undefined : resultsOf(settings.results),
    exchange:
      settings.exchange === undefined
        ? undefined
        : { ...(settings.exchange as Omit<ExchangeSource, "place">), place: yaml.place(["exchange"]) },
    axes: await optional("axes.csv", ["scope", "axes"]),
    banned: await optional("banned.csv", ["field", "kind", "value", "says"]),
    crossRules: (settings.rules ?? []).map(({ rule, scope = "*", says, severity = "error" }, index) => {
      const place = yaml.place(["rules", index, "rule"]);
      const holds = expressionAt(yaml, ["rules", index, "holds"]) ?? { text: "", place };
      return { code: rule, scope, holds, says, severity, place };
    }),
    layouts: settings.layouts.map(({ layout, ...rest }, index) => ({
      ...rest,
      name: layout,
      place: yaml.place(["layouts", index]),
    })),
    categories: categories.map((row) => ({
      code: row.cell("code"),
      parent: row.cell("parent"),
      name: row.cell("name"),
      searchWords: row.cell("search_words"),
      otherNames: settings.languages
        .slice(1)
        .map((language) => row.cell(`name@${language}`))
        .filter(Boolean),
      isClosed: readYesNo(row.cell("closed")) === true,
      place: row.place(),
    })),
    retired: (await optional("retired.csv", ["code", "successor", "since"])).map((row) => ({
      code: row.cell("code"),
      successor: row.cell("successor"),
      since: row.cell("since"),
      place: row.place(),
    })),
    fields,
    valueLists: await valueLists(folder, settings.languages),
  };
}

const resultsOf = ({ silence_means, ...results }: ResultsModel): DefinitionSource["results"] => ({
  ...results,
  ...(silence_means === undefined ? {} : { silenceMeans: silence_means }),
});

async function valueLists(
  folder: DefinitionFolder,
  languages: readonly string[],
): Promise<DefinitionSource["valueLists"]> {
  const path = join(folder.path, "values");
  const files = (await namesIn(path, `${folder.shown}/values`))
    .filter((name) => name.endsWith(".csv"))
    .sort();
  return Promise.all(
    files.map(async (name) => {
      const shown = `${folder.shown}/values/${name}`;
      const rows = await readTable(join(path, name), shown, ["value"]);
      const values = rows.map((row) => ({
        value: row.cell("value"),
        label: row.cell("label"),
        // What a value is called in the channel's other languages means it, too.
        synonyms: [
          ...languages.slice(1).map((language) => row.cell(`label@${language}`)),
          ...row
            .cell("synonyms")
            .split(";")
            .map((word) => word.trim()),
        ].filter(Boolean),
      }));
      return { name: name.slice(0, -".csv".length), place: { file: shown }, values };
    }),
  );
}

/** The definition of a name, or a refusal that lists those there are. */
export function definitionNamed(
  folders: readonly DefinitionFolder[],
  name: string,
  nearestNames: readonly string[],
): DefinitionFolder {
  const found = folders.find(({ channel }) => channel === name);
  if (found !== undefined) return found;
  const known = folders.map(({ channel }) => channel);
  throw new Refusal([diagnostic("unknown-channel", { channel: name, nearest: nearestNames, known })]);
}
