/** Takes channels into use. */
import { existsSync } from "node:fs";
import type { ChannelDefinition } from "../core/channel/definition.js";
import { nearest } from "../core/values/nearest.js";
import type { Surroundings } from "../core/language/function.js";
import type { Store } from "../store/store.js";
import type { WritableWorkspace } from "./open-catalogue.js";
import { shopAddress } from "./shop-address.js";
import { createChannel } from "../workspace/create-workspace.js";
import { definitionNamed, loadDefinition } from "../workspace/definition-files.js";
import { addToManifest } from "../workspace/edit-manifest.js";
import { definitionsIn } from "../workspace/workspace.js";

/** The definitions of channels by their names; a name that nobody knows ends the command with the nearest. */
export async function definitionsNamed(
  root: string,
  names: readonly string[],
  surroundings: Surroundings,
): Promise<readonly ChannelDefinition[]> {
  const folders = await definitionsIn(root);
  const known = folders.map(({ channel }) => channel);
  return Promise.all(
    [...new Set(names)].map((name) =>
      loadDefinition(definitionNamed(folders, name, nearest(name, known)), surroundings),
    ),
  );
}

/** Takes channels into use in a workspace that there is; decisions that are made already stay as they are. */
export async function takeIntoUse(
  { workspace, landing }: WritableWorkspace,
  channels: readonly ChannelDefinition[],
  store?: Store,
): Promise<void> {
  const attributes = await store?.attributes();
  const address = store === undefined ? undefined : await shopAddress(store);
  for (const definition of channels) {
    const { channel } = definition;
    if (!existsSync(workspace.path("channels", channel, "channel.yaml")))
      await createChannel(workspace.root, landing, definition, {
        language: workspace.manifest.language,
        currency: workspace.manifest.currency,
        ...(attributes === undefined ? {} : { attributes }),
        ...(address === undefined ? {} : { address }),
      });
    await addToManifest(landing, workspace, "channels", channel);
  }
}
