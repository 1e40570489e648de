import type { BuiltFile } from "./built-files.js";
import type { ChannelBuild } from "./build-channel.js";

/** Ends the files of all channels, and only when all are whole lets them appear; in a trial nothing stays. Gives the files of each. */
export const landBuilds = async <B extends Pick<ChannelBuild, "finish" | "publish" | "discard">>(
  builds: readonly B[],
  isTrial: boolean,
): Promise<ReadonlyMap<B, readonly BuiltFile[]>> => {
  const files = new Map<B, readonly BuiltFile[]>();
  if (isTrial) {
    for (const build of builds) await build.discard();
    return files;
  }
  for (const build of builds) files.set(build, await build.finish());
  for (const build of builds) await build.publish();
  return files;
};
