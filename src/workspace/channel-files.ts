import { existsSync } from "node:fs";
import { join } from "node:path";
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/diagnostics/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Surroundings } from "../core/language/function.js";
import { resultKind } from "../core/language/kind.js";
import { namesOf, type Names } from "../core/language/names.js";
import { program, type ReadyProgram } from "../core/language/program.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { lexiconOf } from "../core/listing/lexicon.js";
import { placementsOf } from "../core/placement/placements.js";
import { definitionNamed, loadDefinition, type DefinitionFolder } from "./definition-files.js";
import { loadFills } from "./fills-file.js";
import { loadLexicon } from "./lexicon-file.js";
import { loadSettings } from "./load-settings.js";
import type { AccountModel } from "./models/channel-model.js";
import { loadPlacements } from "./placements-file.js";
import type { Workspace } from "./workspace.js";
import { expressionAt, readYaml, type YamlFile } from "./yaml-file.js";

/** A channel of the workspace, ready to run: our decisions and the account's settings for its files. */
export interface WorkspaceChannel {
  readonly setup: ChannelSetup;
  readonly account: AccountModel;
}

/** The catalogue's attributes as names for expressions. */
export const attributeNames = (attributes: AttributeIndex): Names =>
  namesOf(
    "attribute",
    attributes.names.map((name, slot) => {
      const { kind = "text", list = false } = attributes.kinds[slot] ?? {};
      return { name, kind: resultKind(kind, list) };
    }),
  );

/** The channels asked for, or all in use; refuses names that are not in use, all at once. */
export const chosenChannels = (
  workspace: Workspace,
  asked: readonly string[],
  folders: readonly DefinitionFolder[],
): readonly string[] => {
  const { channelsInUse } = workspace;
  if (asked.length === 0) return channelsInUse;
  const wrong = asked.filter((name) => !channelsInUse.includes(name));
  if (wrong.length === 0) return [...new Set(asked)];
  const known = folders.map(({ channel }) => channel);
  throw new Refusal(
    wrong.map((channel) =>
      known.includes(channel)
        ? diagnostic("channel-not-in-use", { channel, inUse: channelsInUse })
        : diagnostic("unknown-channel", {
            channel,
            nearest: nearest(channel, [...channelsInUse, ...known]),
            known: channelsInUse,
          }),
    ),
  );
};

/**
 * Loads a channel's definition and decision files.
 * @throws Refusal with every fault of all of them
 */
export const loadChannel = async (
  workspace: Workspace,
  channel: string,
  folders: readonly DefinitionFolder[],
  attributes: AttributeIndex,
  surroundings: Surroundings,
): Promise<WorkspaceChannel> => {
  const shown = (name: string): string => `channels/${channel}/${name}`;
  const path = (name: string): string => join(workspace.root, "channels", channel, name);
  if (!existsSync(path("channel.yaml")))
    throw new Refusal([
      diagnostic(
        "missing-file",
        { path: shown("channel.yaml"), what: "the channel's file" },
        { place: workspace.manifestFile.place(["channels"]) },
      ),
    ]);
  const yaml = await readYaml(path("channel.yaml"), shown("channel.yaml"));
  const settings = await loadSettings(
    yaml,
    "channel",
    workspace.settings,
    async () => (await import("./models/channel-model.js")).ChannelModel,
  );
  const known = folders.map((folder) => folder.channel);
  const folder = definitionNamed(folders, settings.definition, nearest(settings.definition, known));
  const definition = await loadDefinition(folder, surroundings, workspace.settings);
  const names = attributeNames(attributes);
  const placements = await loadPlacements(path("placements.csv"), shown("placements.csv"), definition.tree);
  const fills = await loadFills(path("fills.yaml"), shown("fills.yaml"), definition, names, surroundings);
  const lexicon = await loadLexicon(path("lexicon.csv"), shown("lexicon.csv"), definition);
  const selection = selectionOf(yaml, names, surroundings);
  const findings = [...placements.findings, ...fills.findings, ...lexicon.findings, ...selection.findings];
  if (findings.length > 0) throw new Refusal(findings);
  return {
    setup: {
      channel,
      definition,
      select: selection.select,
      placements: placementsOf(placements.rows),
      fills: fills.blocks,
      lexicon: lexiconOf(lexicon.rows),
      files: {
        placements: shown("placements.csv"),
        fills: shown("fills.yaml"),
        lexicon: shown("lexicon.csv"),
      },
    },
    account: settings.account ?? {},
  };
};

const selectionOf = (
  yaml: YamlFile,
  names: Names,
  surroundings: Surroundings,
): { readonly select: ReadyProgram | undefined; readonly findings: readonly Diagnostic[] } => {
  const source = expressionAt(yaml, ["select"]);
  if (source === undefined) return { select: undefined, findings: [] };
  const compiled = program(source, names, surroundings, "yes-no");
  return compiled.kind === "program"
    ? { select: compiled, findings: [] }
    : { select: undefined, findings: compiled.findings };
};
