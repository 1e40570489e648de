/**
 * The pass of `check`: all channels at once, and the catalogue beside itself, with what was kept since the last time.
 */
import { besideChecks } from "../../core/catalogue/beside/beside.js";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { isSilenced } from "../../core/diagnostics/silence.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { channelCounts, type ChannelCounts } from "../channel-counts.js";
import { everything, type Choice } from "../choice/chosen.js";
import { idleDecisions } from "../idle-decisions.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { beginParts } from "../parts/begin-parts.js";
import { inParts, type InParts } from "../parts/in-parts.js";
import { spreadOver, workersFor, type Spread } from "../parts/spread.js";
import { checkParts, checkedReader, type CheckedVisitor, type CheckWork } from "./check-parts.js";
import type { LoggedPart } from "../kept/family-log.js";
import { keptWork } from "../kept/kept-work.js";
import { isFindingMeant, type Narrowing } from "./narrowing.js";

/** What a check found on one channel. */
export interface CheckedChannel {
  readonly channel: WorkspaceChannel;
  readonly counts: ChannelCounts;
}

/** What a check found: on each channel, and between the catalogue's products whatever the channel. */
export interface CheckedCatalogue {
  readonly channels: readonly CheckedChannel[];
  readonly catalogue: CauseCollector;
  /** Products that were looked at. */
  readonly products: number;
  /** Decisions about categories and products that are not there; of a choice of products none are told. */
  readonly idle: readonly Diagnostic[];
}

/** What of the catalogue is checked, and what is told. */
export interface CheckWishes extends Narrowing {
  readonly choice?: Choice;
  /** Products named for each cause. */
  readonly examples?: number;
  /** Threads that work at once; as many as the machine has cores, where nothing is said. */
  readonly workers?: number | undefined;
  /** Told of each finding as it comes, in the order of the catalogue. */
  onFinding?(finding: Diagnostic): void;
}

type SkuTwins = Awaited<ReturnType<OpenCatalogue["store"]["skuTwins"]>>;

/** What is gathered of all that was found of families, in the order of the catalogue. */
interface Gathering {
  join(part: Pick<LoggedPart, "facts">): void;
  /** To be asked when all families came. */
  end(twins: SkuTwins): Promise<CheckedCatalogue>;
}

function gathering(
  { store }: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: CheckWishes,
): Gathering {
  const { examples, onFinding, choice = everything } = wishes;
  const isMeant = isFindingMeant(wishes);
  const checked = channels.map((channel) => ({
    channel,
    counts: channelCounts({
      silences: channel.setup.silences,
      isMeant,
      ...(examples === undefined ? {} : { examples }),
    }),
  }));
  const catalogue = causeCollector(examples);
  let products = 0;
  const categories = new Set<string>();
  const beside = besideChecks((origin, attribute) => store.placeOf(origin, attribute));
  // What stands between products is told where one of those that are meant is among them.
  const isOfChosen = ({ product: sku }: Diagnostic): boolean =>
    choice.isAll || sku === undefined || choice.isMeant({ sku });
  const note = (finding: Diagnostic, ourCategory?: string): void => {
    if (!isMeant(finding) || !isOfChosen(finding)) return;
    // A finding of no channel is silent where all channels at hand silence it.
    if (channels.every(({ setup }) => isSilenced(finding, setup.silences, ourCategory))) return;
    catalogue.add(finding);
    onFinding?.(finding);
  };
  const read = checkedReader(channels.length);
  const visitor: CheckedVisitor = {
    family(meant, own, facts) {
      products += meant;
      const [first] = own;
      const category = first === "" ? undefined : first;
      for (const one of own) if (one !== "") categories.add(one);
      for (const finding of beside.take(facts)) note(finding, category);
    },
    outcome(channel, kept) {
      const counts = checked[channel]?.counts;
      if (onFinding === undefined) counts?.countKept(kept);
      else counts?.takeKept(kept).forEach(onFinding);
    },
  };
  return {
    join: ({ facts }) => read(facts, visitor),
    async end(twins) {
      for (const finding of beside.end()) note(finding);
      for (const [sku, other] of twins)
        note(diagnostic("sku-twin", { sku, other }, { product: sku }, "warning"));
      const ofEach = choice.isAll ? channels.map(({ setup }) => idleDecisions(store, setup, categories)) : [];
      const idle = (await Promise.all(ofEach)).flat();
      idle.forEach((finding) => onFinding?.(finding));
      return { channels: checked, catalogue, products, idle };
    },
  };
}

/** Checks the whole catalogue in one pass, for all channels at once. */
export async function checkCatalogue(
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: CheckWishes = {},
): Promise<CheckedCatalogue> {
  const { store } = open;
  const { choice = everything, workers, placedIn } = wishes;
  const work: CheckWork = { placedIn };
  const own: Omit<InParts<LoggedPart>, keyof Spread | "join"> = {
    ...(await beginParts(open, channels, { work: "check", wishes: work })),
    here: () => checkParts(open, channels, { ...work, choice }),
    idsOf: ({ ids }) => ids,
  };
  // Of a choice nothing is kept: it would stand for the whole.
  const mayKeep = choice.isAll && placedIn === undefined;
  const kept = mayKeep ? await keptWork<SkuTwins>(open, channels, { work: "check" }) : undefined;
  const gathered = gathering(open, channels, wishes);
  const all = async (): Promise<SkuTwins> => {
    await inParts({
      ...own,
      ...(await spreadOver(store, choice.isAll ? workers : 1, channels.length)),
      async join(part, range) {
        gathered.join(part);
        await kept?.add({ ...part, range });
      },
    });
    choice.refuseNothing();
    return store.skuTwins();
  };
  try {
    const again = await kept?.again((stretches, take) =>
      inParts({ ...own, stretches, workers: workersFor(stretches, workers), join: take }),
    );
    for await (const stretch of again?.stretches() ?? []) {
      gathered.join(stretch);
      await kept?.add(stretch);
    }
    const twins =
      again === undefined ? await all() : again.hasSameProducts ? again.more : await store.skuTwins();
    const checked = await gathered.end(twins);
    await kept?.finish(twins);
    return checked;
  } finally {
    await kept?.close();
  }
}
