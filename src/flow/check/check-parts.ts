import { besideFacts } from "../../core/catalogue/beside/beside.js";
import type { Facts } from "../../core/catalogue/beside/facts.js";
import { textOf } from "../../core/catalogue/product.js";
import type { Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { ListedId } from "../../core/listing/check/listed-ids.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { channelCounts, type PlainCounts } from "../channel-counts.js";
import { everything, type Choice } from "../choice/chosen.js";
import type { PartWork } from "../parts/in-parts.js";
import { channelPass } from "../run-channels.js";
import { isFindingMeant, isOutcomeMeant, type Narrowing } from "./narrowing.js";

/** What is to be found, as data. */
export interface CheckWork extends Narrowing {
  /** Products named for each cause. */
  readonly examples?: number | undefined;
  /** Whether each finding is wanted, and not the causes alone. */
  readonly wantsFindings: boolean;
}

/** What one part of the catalogue came to: plain, so that it can go from thread to thread. */
export interface CheckedPart {
  /** Products that were looked at. */
  readonly products: number;
  readonly channels: readonly PlainCounts[];
  /** Our category of each family's first product. */
  readonly categories: readonly string[];
  /** What is to be known of each family beside all others. */
  readonly beside: Facts;
  /** What was found of products on channels, with the number of the family in this part; empty where only causes are wanted. */
  readonly findings: readonly (readonly [family: number, finding: Diagnostic])[];
  /** Ids that are not the SKUs themselves, by channel. */
  readonly ids: readonly (readonly ListedId[])[];
}

/** What of a piece is handed over from thread to thread. */
export const memoryOfChecked = ({ beside }: CheckedPart): readonly ArrayBuffer[] => [beside.numbers.buffer];

/** Checks one stretch of the catalogue after the other. */
export const checkParts = async (
  { store }: { readonly store: Store },
  channels: readonly WorkspaceChannel[],
  work: CheckWork & { readonly choice?: Choice },
): Promise<PartWork<CheckedPart>> => {
  const { examples, wantsFindings, choice = everything } = work;
  const isMeant = isFindingMeant(work);
  const newCounts = (channel: WorkspaceChannel) =>
    channelCounts({
      silences: channel.setup.silences,
      isMeant,
      ...(examples === undefined ? {} : { examples }),
    });
  const beside = besideFacts();
  let counts = channels.map(newCounts);
  let products = 0;
  let categories: string[] = [];
  let findings: (readonly [number, Diagnostic])[] = [];
  const pass = await channelPass(
    store,
    channels.map((channel, at) => {
      const isWithin = isOutcomeMeant(work, channel);
      return {
        channel,
        take(outcome) {
          if (!isWithin(outcome)) return;
          const shown = counts[at]?.take(outcome) ?? [];
          if (wantsFindings) for (const finding of shown) findings.push([categories.length - 1, finding]);
        },
      };
    }),
    {
      choice,
      look(family) {
        const [first] = family.members;
        products += choice.isAll
          ? family.members.length
          : family.members.filter((product) => choice.isMeant(product)).length;
        categories.push(first === undefined ? "" : (textOf(first, "category") ?? ""));
        beside.add(family);
      },
    },
  );
  return async (range, before = []) => {
    for (const [at, { setup }] of channels.entries()) setup.ids.begin(before[at]);
    await pass(range);
    const made: CheckedPart = {
      ...{ products, categories, findings },
      beside: beside.take(),
      channels: counts.map((one) => one.plain()),
      ids: channels.map(({ setup }) => setup.ids.all()),
    };
    [counts, products, categories, findings] = [channels.map(newCounts), 0, [], []];
    return made;
  };
};
