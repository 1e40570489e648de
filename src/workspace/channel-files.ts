/** A channel's decision files, loaded and held against its definition: all faults at once. */
import { isThere } from "../formats/is-there.js";
import type { Family } from "../core/catalogue/family.js";
import { join } from "node:path";
import { withAttributes, type AttributeIndex } from "../core/catalogue/attribute-index.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Surroundings } from "../core/language/function.js";
import { idsOfPart } from "../core/listing/check/listed-ids.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { attributeNames, fillNames } from "../core/listing/fill/fill-names.js";
import { channelTerms } from "../core/listing/fill/channel-terms.js";
import { lexiconOf } from "../core/listing/fill/lexicon.js";
import { placementsOf } from "../core/placement/placements.js";
import { channelSilences } from "./channel-silences.js";
import { channelPolicy, ruledAttributes } from "./channel-policy.js";
import { definitionNamed, loadDefinition, type DefinitionFolder } from "./definition-files.js";
import { loadFills } from "./fills-file.js";
import { loadLexicon } from "./lexicon-file.js";
import { loadSettings } from "./load-settings.js";
import type { AccountModel } from "./models/channel-model.js";
import type { AccountExchangeModel, ServeModel, SyncModel } from "./models/account-model.js";
import { loadPlacements } from "./placements-file.js";
import { loadRefusals } from "./refusals-file.js";
import type { Workspace } from "./workspace.js";
import { readYaml } from "./yaml-file.js";

/** What a channel refused before, in its folder. */
export const REFUSALS_FILE = "known-refusals.csv";

/** A channel of the workspace, ready to run: our decisions and the account's settings for its files. */
export interface WorkspaceChannel {
  readonly setup: ChannelSetup;
  readonly account: AccountModel;
  /** Where the channel is reached. */
  readonly exchangeAccount: AccountExchangeModel;
  /** How its feed is published, and how much a sync may change. */
  readonly serving: ServeModel;
  readonly syncing: SyncModel;
  /** Where the channel's own workbooks lie: the workspace's first, then those of the definition. */
  readonly templateFolders: readonly string[];
  /** What a person should know of the decision files, and what stops nothing. */
  readonly advice: readonly Diagnostic[];
  /** Brings to hand what is known of families on this channel: what it was sent of them, and, where they are to be checked, who shares their barcodes. */
  recall(families: readonly Family[], what?: "all" | "sent"): Promise<void>;
}

/** The channels asked for, or all in use; refuses names that are not in use, all at once. */
export function chosenChannels(
  workspace: Workspace,
  asked: readonly string[],
  folders: readonly DefinitionFolder[],
): readonly string[] {
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
}

/**
 * Loads a channel's definition and decision files.
 * @throws Refusal with every fault of all of them
 */
export async function loadChannel(
  workspace: Workspace,
  channel: string,
  folders: readonly DefinitionFolder[],
  attributes: AttributeIndex,
  surroundings: Surroundings,
): Promise<WorkspaceChannel> {
  const shown = (name: string): string => `channels/${channel}/${name}`;
  const path = (name: string): string => join(workspace.root, "channels", channel, name);
  if (!isThere(path("channel.yaml"), shown("channel.yaml")))
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
  const seen = withAttributes(attributes, ruledAttributes(settings));
  const placements = await loadPlacements(path("placements.csv"), shown("placements.csv"), definition.tree);
  const rows = await loadLexicon(path("lexicon.csv"), shown("lexicon.csv"), definition);
  const lexicon = lexiconOf(rows.rows);
  const refusals = await loadRefusals(path(REFUSALS_FILE), shown(REFUSALS_FILE), definition);
  const inFills: Surroundings = { ...surroundings, channelTerm: channelTerms(definition, lexicon) };
  const fills = await loadFills(path("fills.yaml"), shown("fills.yaml"), {
    root: workspace.root,
    definition,
    names: fillNames(seen, definition),
    surroundings: inFills,
  });
  const policy = channelPolicy(
    settings,
    yaml,
    seen,
    attributeNames(seen),
    surroundings,
    workspace.manifest.currency,
  );
  const silences = channelSilences(settings, yaml, definition);
  const findings = [
    ...silences.findings,
    ...placements.findings,
    ...fills.findings,
    ...rows.findings,
    ...refusals.findings,
    ...policy.findings,
  ];
  if (findings.length > 0) throw new Refusal(findings);
  return {
    setup: {
      channel,
      definition,
      attributes: seen,
      selection: policy.selection,
      placements: placementsOf(placements.rows, definition.tree),
      prices: policy.prices,
      stock: policy.stock,
      lastPrices: undefined,
      live: undefined,
      lastRefusal: undefined,
      refusals: refusals.rows,
      barcodeTwins: () => [],
      ids: idsOfPart(),
      silences: silences.silences,
      regrouping: settings.groups?.not_permitted ?? "hold",
      fills: fills.blocks,
      lexicon,
      today: surroundings.today,
      files: {
        policy: shown("channel.yaml"),
        placements: shown("placements.csv"),
        fills: shown("fills.yaml"),
        lexicon: shown("lexicon.csv"),
        refusals: shown(REFUSALS_FILE),
      },
    },
    account: settings.account ?? {},
    exchangeAccount: settings.exchange ?? {},
    serving: settings.serve ?? {},
    syncing: settings.sync ?? {},
    templateFolders: [workspace.path("channels", channel), folder.path],
    advice: fills.advice,
    recall: () => Promise.resolve(),
  };
}
