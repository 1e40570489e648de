/** Fills channels' files stretch by stretch, by this thread or by workers, or from files that were made apart. */
import { beginParts } from "../parts/begin-parts.js";
import { inOrder, inParts, type InParts } from "../parts/in-parts.js";
import { spreadOver, workersFor, type Spread } from "../parts/spread.js";
import { workMark } from "../parts/work-mark.js";
import { addAll } from "../../core/many.js";
import type { FamilyFacts } from "../../core/catalogue/plain-facts.js";
import { keptWork, type KeptWork } from "../kept/kept-work.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { FamilyRange } from "../../store/store.js";
import type { ChannelBuild } from "./build-channel.js";
import { buildParts, builtReader, type BuildWork, type BuiltParts } from "./build-parts.js";
import type { BuildWishes } from "./build-wishes.js";
import { createPart, joinedParts, type PartNumber } from "./part-files.js";

/** What depends on all that came before, and so on one thread: a choice of products, so many listings at most. */
const needsOrder = ({ choice, limit }: BuildWishes): boolean => !choice.isAll || limit !== Infinity;

type PartsWork = Omit<InParts<BuiltParts>, "join" | keyof Spread>;

async function workOn(
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
): Promise<PartsWork> {
  const { workspace, store } = open;
  // A choice is no data: where there is one, this thread works alone.
  const work: BuildWork = { ...wishes, choice: undefined };
  return {
    ...(await beginParts(open, channels, { work: "build", wishes: work })),
    here: () => buildParts({ workspace, store }, channels, wishes),
    idsOf: ({ ids }) => ids,
  };
}

const channelsOf = (builds: readonly ChannelBuild[]): readonly WorkspaceChannel[] =>
  builds.map(({ channel }) => channel);

async function intoFiles(builds: readonly ChannelBuild[], { files }: BuiltParts): Promise<void> {
  for (const [at, part] of files.entries()) await builds[at]?.join(part);
}

/** Notes what became of each product; gives the families of which something is in the files. */
function noting(builds: readonly ChannelBuild[]): (facts: FamilyFacts) => Promise<readonly number[]> {
  const read = builtReader(builds.length);
  return async (facts) => {
    const written = new Set<number>();
    read(facts, {
      written: (family) => void written.add(family),
      outcome: (channel, kept) => builds[channel]?.take(kept),
      omitted: (channel, kept) => builds[channel]?.omit(kept),
    });
    for (const build of builds) await build.note();
    return [...written];
  };
}

function joining(builds: readonly ChannelBuild[]): (parts: BuiltParts) => Promise<readonly number[]> {
  const note = noting(builds);
  return async (parts) => {
    await intoFiles(builds, parts);
    return note(parts.facts);
  };
}

/** What a build of changed listings depends on, where it is one of all products: what it found of each is kept. */
async function keptOf(
  open: OpenCatalogue,
  builds: readonly ChannelBuild[],
  wishes: BuildWishes,
): Promise<KeptWork<undefined> | undefined> {
  if (!wishes.changedOnly || needsOrder(wishes)) return undefined;
  const { purpose, kind, only, keepLive, confirmedPrices } = wishes;
  const confirmed = confirmedPrices instanceof Set ? [...confirmedPrices] : confirmedPrices;
  return keptWork(open, channelsOf(builds), { work: "build", purpose, kind, only, keepLive, confirmed });
}

/** Fills the channels' files with the catalogue, stretch by stretch. */
export async function buildInParts(
  open: OpenCatalogue,
  builds: readonly ChannelBuild[],
  wishes: BuildWishes,
  workers: number | undefined,
): Promise<void> {
  const own = await workOn(open, channelsOf(builds), wishes);
  const kept = await keptOf(open, builds, wishes);
  const written: number[] = [];
  try {
    const fresh: BuiltParts[] = [];
    const again = await kept?.again((stretches, take) =>
      inParts({
        ...own,
        stretches,
        workers: workersFor(stretches, workers),
        join(parts, range) {
          fresh.push(parts);
          take(parts, range);
        },
      }),
    );
    if (again !== undefined) {
      const note = noting(builds);
      for await (const stretch of again.stretches()) {
        addAll(written, await note(stretch.facts));
        await kept?.add(stretch);
      }
      for (const parts of fresh) await intoFiles(builds, parts);
    } else {
      const join = joining(builds);
      await inParts({
        ...own,
        ...(await spreadOver(open.store, needsOrder(wishes) ? 1 : workers, builds.length)),
        async join(parts, range) {
          addAll(written, await join(parts));
          await kept?.add({ ...parts, range });
        },
      });
    }
    // What is in a file now is in the next one too, until it is sent.
    await kept?.finish(undefined, written);
  } finally {
    await kept?.close();
  }
  wishes.choice.refuseNothing();
}

/** What a part's file must be of to be joined: the time of the build is that of the joining. */
function markOf(
  { workspace }: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  { seen, recipe }: PartsWork,
): string {
  const { today, wishes } = recipe;
  return workMark(workspace, channels, { seen, today, wishes: { ...wishes, at: "", isTrial: false } });
}

/** Makes one part of a build, for {@link joinBuilt}; changes nothing of the workspace. Gives the file that holds it. */
export async function buildPartFile(
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
  {
    number,
    folder,
    workers,
  }: { readonly number: PartNumber; readonly folder: string; readonly workers: number | undefined },
): Promise<string> {
  const work = await workOn(open, channels, { ...wishes, isTrial: false });
  const own: FamilyRange | undefined = (await open.store.stretches(number.of, Infinity))[number.part - 1];
  const file = await createPart(folder, number, markOf(open, channels, work));
  if (own !== undefined)
    await inParts({
      ...work,
      ...(await spreadOver(open.store, workers, channels.length, own)),
      // Whoever joins the parts knows the ids of all.
      idsOf: () => [],
      join: (made, range) => file.add({ range, made }),
    });
  return file.finish();
}

/** Fills the channels' files from the parts that lie in a folder. */
export async function joinBuilt(
  open: OpenCatalogue,
  builds: readonly ChannelBuild[],
  wishes: BuildWishes,
  folder: string,
): Promise<void> {
  const channels = channelsOf(builds);
  const work = await workOn(open, channels, wishes);
  const join = joining(builds);
  const take = inOrder({
    ...work,
    async join(parts) {
      await join(parts);
    },
  });
  for await (const { range, made } of joinedParts(folder, markOf(open, channels, work)))
    await take(range, made);
}
