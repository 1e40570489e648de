/** Files that mend what the last export showed. */
import type { PurposeName } from "../../core/channel/purpose-names.js";
import type { Io } from "../../io/io.js";
import type { Choice } from "../choice/chosen.js";
import { everything } from "../choice/chosen.js";
import { buildAll, type ChannelBuilt } from "../builds/build-all.js";
import type { BuildWishes } from "../builds/build-wishes.js";
import { withWritableCatalogue } from "../open-catalogue.js";
import { loadChannels } from "../run-channels.js";
import { takesWhole } from "./plan-job.js";
import type { ExchangeCaller } from "./exchange-work.js";
import type { Reconciled } from "./reconcile.js";

/** A file that mends what a channel shows. */
export interface MendingBuild extends ChannelBuilt {
  readonly wishes: BuildWishes;
}

const choiceOf = (skus: ReadonlySet<string>): Choice => ({
  ...everything,
  isAll: false,
  isMeant: ({ sku }) => skus.has(sku),
});

/** Which files mend it: of changes, of whole listings, of endings; each undefined where nothing is for it. */
function mendings(
  { toAmend, toSend, toEnd }: Reconciled,
  purposes: readonly PurposeName[],
  isWhole: boolean,
): readonly { readonly purpose: PurposeName; readonly skus: ReadonlySet<string> | undefined }[] {
  const amends = purposes.includes("amend");
  const whole = new Set([...toSend, ...(amends ? [] : toAmend)]);
  // A channel that takes whole files is sent all: what is not in one ends.
  if (isWhole) return whole.size + toEnd.size === 0 ? [] : [{ purpose: "full", skus: undefined }];
  return [
    ...(amends && toAmend.size > 0 ? [{ purpose: "amend" as const, skus: toAmend }] : []),
    ...(whole.size > 0 ? [{ purpose: "full" as const, skus: whole }] : []),
    ...(toEnd.size > 0 && purposes.includes("withdraw")
      ? [{ purpose: "withdraw" as const, skus: toEnd }]
      : []),
  ];
}

/** Builds the files that mend what the last export showed; nothing is sent. */
export async function mendLive(
  caller: ExchangeCaller,
  name: string,
  found: Reconciled,
  { isTrial, confirmed }: { readonly isTrial: boolean; readonly confirmed: boolean },
  io: Io,
): Promise<readonly MendingBuild[]> {
  const built: MendingBuild[] = [];
  const probe = async (index: number): Promise<boolean> => {
    const done = await withWritableCatalogue(caller, io, async (open) => {
      const { workspace, store, surroundings } = open;
      const channels = await loadChannels(workspace, store, [name], await surroundings(), undefined, "live");
      const definition = channels[0]?.setup.definition;
      if (definition === undefined) return { isOver: true };
      const one = mendings(found, definition.purposes, takesWhole(definition, { kind: "full" }))[index];
      if (one === undefined) return { isOver: true };
      const { purpose, skus } = one;
      const ends = purpose === "withdraw";
      const wishes: BuildWishes = {
        purpose,
        isTrial,
        confirmed,
        only: undefined,
        changedOnly: false,
        keepLive: false,
        limit: Infinity,
        kind: purpose === "full" && skus !== undefined ? "chosen" : purpose,
        choice: ends || skus === undefined ? everything : choiceOf(skus),
        ending: ends ? [...(skus ?? [])] : undefined,
        confirmedPrices: "all",
        at: io.now().toISOString(),
        against: "live",
      };
      const run = { root: workspace.path("out"), dryRun: isTrial, workers: 1, parts: undefined };
      const [own] = await buildAll(open, channels, wishes, run);
      if (own !== undefined) built.push({ ...own, wishes });
      return { isOver: false };
    });
    return done.isOver;
  };
  // Each file is a landing of its own.
  for (let index = 0; !(await probe(index)); index++);
  return built;
}
