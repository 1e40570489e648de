import { besideChecks } from "../../core/catalogue/beside/beside.js";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { isSilenced } from "../../core/diagnostics/silence.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { channelCounts, type ChannelCounts } from "../channel-counts.js";
import { everything, type Choice } from "../choice/chosen.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { inParts } from "../parts/in-parts.js";
import { spreadOver } from "../parts/spread.js";
import { namesOf } from "../run-channels.js";
import { checkParts, type CheckedPart, type CheckWork } from "./check-parts.js";
import { isFindingMeant, type Narrowing } from "./narrowing.js";

export interface CheckedChannel {
  readonly channel: WorkspaceChannel;
  readonly counts: ChannelCounts;
}

/** What a check found: on each channel, and between the catalogue's products whatever the channel. */
export interface Checked {
  readonly channels: readonly CheckedChannel[];
  readonly catalogue: CauseCollector;
  /** Products that were looked at. */
  readonly products: number;
}

export interface CheckWishes extends Narrowing {
  readonly choice?: Choice;
  /** Products named for each cause. */
  readonly examples?: number;
  /** Threads that work at once; as many as the machine has cores, where nothing is said. */
  readonly workers?: number | undefined;
  /** Told of each finding as it comes, in the order of the catalogue. */
  onFinding?(finding: Diagnostic): void;
}

/** Checks the whole catalogue in one pass, for all channels at once. */
export const checkCatalogue = async (
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: CheckWishes = {},
): Promise<Checked> => {
  const { store, workspace } = open;
  const { examples, onFinding, choice = everything, workers, field, code, placedIn } = wishes;
  const isMeant = isFindingMeant(wishes);
  const checked = channels.map((channel) => ({
    channel,
    counts: channelCounts(examples === undefined ? {} : { examples }),
  }));
  const catalogue = causeCollector(examples);
  let products = 0;
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
  const work: CheckWork = { examples, wantsFindings: onFinding !== undefined, field, code, placedIn };
  const seen = await store.hold();
  await inParts<CheckedPart>({
    ...(await spreadOver(store, choice.isAll ? workers : 1, channels.length)),
    seen,
    recipe: {
      ...{ work: "check", root: workspace.root, wishes: work },
      today: (await open.surroundings()).today.iso,
      channels: namesOf(channels),
    },
    here: () => checkParts(open, channels, { ...work, choice }),
    idsOf: ({ ids }) => ids,
    join(part) {
      products += part.products;
      for (const [at, counts] of part.channels.entries()) checked[at]?.counts.join(counts);
      const ofFamily = beside.take(part.beside);
      let next = 0;
      for (const [number, category] of part.categories.entries()) {
        for (const finding of ofFamily()) note(finding, category === "" ? undefined : category);
        for (let own = part.findings[next]; own?.[0] === number; own = part.findings[++next])
          onFinding?.(own[1]);
      }
    },
  });
  choice.refuseNothing();
  for (const finding of beside.end()) note(finding);
  for (const [sku, other] of await store.skuTwins())
    note(diagnostic("sku-twin", { sku, other }, { product: sku }, "warning"));
  return { channels: checked, catalogue, products };
};
