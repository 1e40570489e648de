import type { WritableCatalogue } from "../open-catalogue.js";
import type { BuiltFile } from "./built-files.js";
import type { ChannelBuild } from "./build-channel.js";

/**
 * Ends the files of all channels, and only when all are whole lets them appear, together with what the ledgers note of
 * them; in a trial nothing stays, and a build without a listing leaves what stood before: an empty file would end all
 * that the channel has. Gives the files of each.
 */
export async function landBuilds<B extends Pick<ChannelBuild, "isEmpty" | "finish" | "hold" | "discard">>(
  { store, landing }: Pick<WritableCatalogue, "store" | "landing">,
  builds: readonly B[],
  isTrial: boolean,
): Promise<ReadonlyMap<B, readonly BuiltFile[]>> {
  const files = new Map<B, readonly BuiltFile[]>();
  if (isTrial) {
    for (const build of builds) await build.discard();
    return files;
  }
  const [filled, empty] = [builds.filter(({ isEmpty }) => !isEmpty), builds.filter(({ isEmpty }) => isEmpty)];
  for (const build of empty) await build.discard();
  for (const build of filled) files.set(build, await build.finish());
  await landing.land((mark) =>
    store.together(mark, async () => {
      for (const build of filled) await build.hold();
    }),
  );
  return files;
}
