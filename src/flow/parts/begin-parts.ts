import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { namesOf } from "../run-channels.js";
import type { Recipe } from "./crew.js";

/** What is seen of the catalogue from now on, and the recipe by which workers see the same. */
export const beginParts = async (
  { workspace, store, surroundings }: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  work: Pick<Recipe, "work" | "wishes">,
): Promise<{ readonly seen: string; readonly recipe: Recipe }> => {
  const seen = await store.hold();
  const sharing = await store.sharedBarcodes();
  return {
    seen,
    recipe: {
      ...{
        ...work,
        root: workspace.root,
        today: (await surroundings()).today.iso,
        channels: namesOf(channels),
      },
      sharing: sharing.map((products) => products.map(({ sku }) => sku)),
    },
  };
};
