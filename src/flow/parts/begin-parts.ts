import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { namesOf } from "../run-channels.js";
import type { InParts } from "./in-parts.js";

/** What is seen of the catalogue from now on, and the recipe by which workers see the same. */
export const beginParts = async (
  { workspace, store, surroundings }: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  work: Pick<InParts<unknown>["recipe"], "work" | "wishes">,
): Promise<Pick<InParts<unknown>, "seen" | "recipe" | "sharing">> => ({
  seen: await store.hold(),
  recipe: {
    ...work,
    root: workspace.root,
    channels: namesOf(channels),
    today: (await surroundings()).today.iso,
  },
  async sharing() {
    const shared = await store.sharedBarcodes();
    return shared.map((products) => products.map(({ sku }) => sku));
  },
});
