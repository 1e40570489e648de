import { besideChecks } from "../../core/catalogue/beside/beside.js";
import { textOf, type Product } from "../../core/catalogue/product.js";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { isSilenced } from "../../core/diagnostics/silence.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { channelCounts, type ChannelCounts } from "../channel-counts.js";
import { runChannels } from "../run-channels.js";
import { everything, type Choice } from "../choice/chosen.js";
import { placeIn } from "../value-place.js";
import { isFindingMeant, isOutcomeMeant, type Narrowing } from "./narrowing.js";

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
  /** Told of each finding as it comes, in the order of the catalogue. */
  onFinding?(finding: Diagnostic): void;
}

/** Checks the whole catalogue in one pass, for all channels at once. */
export const checkCatalogue = async (
  store: Store,
  channels: readonly WorkspaceChannel[],
  wishes: CheckWishes = {},
): Promise<Checked> => {
  const { examples, onFinding, choice = everything } = wishes;
  const isMeant = isFindingMeant(wishes);
  const runs = channels.map((channel) => ({
    channel,
    counts: channelCounts({
      silences: channel.setup.silences,
      isMeant,
      ...(examples === undefined ? {} : { examples }),
    }),
    isOutcomeMeant: isOutcomeMeant(wishes, channel),
  }));
  const catalogue = causeCollector(examples);
  let products = 0;
  const beside = besideChecks(placeIn(store));
  // What stands between products is told where one of those that are meant is among them.
  const isOfChosen = ({ product: sku }: Diagnostic, product: Product | undefined): boolean =>
    choice.isAll || (sku === undefined ? product !== undefined : choice.isMeant({ sku }));
  const note = (finding: Diagnostic, product: Product | undefined): void => {
    const ourCategory = product === undefined ? undefined : textOf(product, "category");
    if (!isMeant(finding) || !isOfChosen(finding, product)) return;
    // A finding of no channel is silent where all channels at hand silence it.
    if (channels.every(({ setup }) => isSilenced(finding, setup.silences, ourCategory))) return;
    catalogue.add(finding);
    onFinding?.(finding);
  };
  await runChannels(
    store,
    runs.map(({ channel, counts, isOutcomeMeant: isWithin }) => ({
      channel,
      take(outcome) {
        if (!isWithin(outcome)) return;
        const shown = counts.take(outcome);
        if (onFinding !== undefined) shown.forEach(onFinding);
      },
    })),
    {
      choice,
      look(family) {
        products += choice.isAll
          ? family.members.length
          : family.members.filter((product) => choice.isMeant(product)).length;
        for (const finding of beside.take(family)) note(finding, family.members[0]);
      },
    },
  );
  for (const finding of beside.end()) note(finding, undefined);
  for (const [sku, other] of await store.skuTwins())
    note(diagnostic("sku-twin", { sku, other }, { product: sku }, "warning"), undefined);
  return { channels: runs, catalogue, products };
};
