/** What an import writes beside the catalogue: a proposed source with its kinds, and the layers that sources need. */
import type { DecidedSource } from "../../store/store.js";
import { kindWordsOf } from "../../workspace/own-kinds.js";
import { addToManifest, declareInManifest, type ChannelLayer } from "../../workspace/edit-manifest.js";
import { saveSource, type Source } from "../../workspace/source-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import { channelLayers } from "./channel-layers.js";
import type { ChosenFile } from "./choose-source.js";

/** The layer first: a source that names none that is known could not be read. */
export async function keepProposal(
  { workspace, landing }: WritableCatalogue,
  source: Source,
  kinds: ChosenFile["kinds"],
): Promise<void> {
  const layer = newLayer(workspace, source);
  if (layer !== undefined) await addToManifest(landing, workspace, "layers", layer);
  await keepChannelLayers({ workspace, landing }, source);
  if (Object.keys(kinds).length > 0) await declareInManifest(landing, workspace, kindWordsOf(kinds));
  await saveSource(landing, workspace, source);
}

/** Layers for single channels stand in the manifest once something goes into them. */
export async function keepChannelLayers(
  { workspace, landing }: Pick<WritableCatalogue, "workspace" | "landing">,
  source: Source,
): Promise<void> {
  for (const layer of newChannelLayers(workspace, source))
    await addToManifest(landing, workspace, "layers", layer);
}

const newChannelLayers = ({ layers }: Workspace, source: Source): readonly ChannelLayer[] =>
  channelLayers(source).filter(({ layer }) => !layers.some((known) => known.layer === layer));

/** What is written with a proposal's first import: its file, and layers that the manifest has not yet. */
export function decidedBy(workspace: Workspace, source: Source): DecidedSource {
  const forChannels = newChannelLayers(workspace, source);
  return {
    sourceFile: source.name,
    text: source.yaml.text,
    layer: newLayer(workspace, source),
    ...(forChannels.length === 0 ? {} : { forChannels }),
  };
}

const newLayer = ({ layers }: Workspace, { settings: { layer } }: Source): string | undefined =>
  layers.some((known) => known.layer === layer) ? undefined : layer;
