/** Has a channel look at files without effect. */
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { TrialAnswer } from "../../exchange/carrier.js";
import { askPatiently, patienceOf } from "../../exchange/patience.js";
import type { Io } from "../../io/io.js";
import { withCatalogue } from "../open-catalogue.js";
import { loadChannel } from "../run-channels.js";
import { exchangeOf, withCarrier } from "./account.js";
import { told, type ExchangeCaller } from "./exchange-work.js";
import { factsOf, planJob, type SubmitWishes } from "./plan-job.js";

/** What a channel says of files that it only looked at. */
export interface TriedFiles {
  readonly label: string;
  readonly answers: readonly { readonly name: string; readonly answer: TrialAnswer }[];
}

/** Has a channel look at the files of a build without effect. Nothing is noted. */
export function tryFiles(
  caller: ExchangeCaller,
  name: string,
  wishes: SubmitWishes,
  io: Io,
): Promise<TriedFiles> {
  return withCatalogue(caller.workspace, io, async ({ workspace, store, surroundings }) => {
    const channel = await loadChannel(workspace, store, name, await surroundings());
    const { definition } = channel.setup;
    if (exchangeOf(channel, "files are sent").trial === undefined)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: `--check-only: ${definition.label} does not look at files without effect; "lexicant check ${name}" does`,
        }),
      ]);
    const plan = await planJob(channel, workspace, store.ledgerOf(name), store.jobsOf(name), wishes);
    return told(name, "checking", () =>
      withCarrier(channel, workspace, io, async (carrier) => {
        const answers: { name: string; answer: TrialAnswer }[] = [];
        for (const { sentAs, path, bytes, sha256 } of plan.files) {
          const file = {
            name: sentAs,
            path,
            bytes,
            key: sha256,
            facts: factsOf(definition, plan.purpose, 0),
          };
          answers.push({
            name: sentAs,
            answer: await askPatiently(() => carrier.trial(file), patienceOf(io)),
          });
        }
        return { label: definition.label, answers };
      }),
    );
  });
}
