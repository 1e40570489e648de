import { resolve } from "node:path";
import { countText } from "../core/diagnostics/phrases.js";
import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
import { refuseIdle, refuseTogether } from "./options/refuse-idle.js";
import { flag, limit } from "./options/option.js";
import { liveExport } from "../flow/exchange/live-export.js";
import { withChannelAlone } from "../flow/exchange/exchange-work.js";
import { mendLive } from "../flow/exchange/mend-live.js";
import {
  forgetExport,
  reconcileChannel,
  type Disagreement,
  type Reconciled,
} from "../flow/exchange/reconcile.js";
import { withWritableCatalogue } from "../flow/open-catalogue.js";
import { loadChannel } from "../flow/run-channels.js";
import { buildJson, buildLines } from "../report/build-report.js";
import { jsonLine } from "../report/json.js";
import { disagreementJson, reconcileJson, reconcileLines } from "../report/reconcile-report.js";

const SHOWN = 30;

/** `lexicant reconcile CHANNEL`: does the channel show what we sent? */
export const reconcile: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["[file]", "its export of live listings, where you have it already (it is fetched)"],
  ],
  options: {
    fix: flag("--fix", "build the files that would mend it; submit sends them"),
    adopt: flag("--adopt", "take the export for what the channel has: the ledger is made anew from it"),
    yes: flag("--yes", "with --fix: also where many listings end at once"),
    limit: limit(`show so many (${SHOWN})`),
  },
  examples: [
    ["reconcile merrowgate", "what is live and not ours, ours and not live, or changed there"],
    ["reconcile fjordhandel live.csv --fix", "by a file that came by hand, and build what mends it"],
    ["reconcile merrowgate --adopt", "begin with what the channel shows"],
  ],
  async run({ given, args, options, io }) {
    const [channel = "", file] = args;
    refuseTogether([
      [given.fix, "--fix"],
      [given.adopt, "--adopt"],
    ]);
    refuseIdle([[given.yes && !given.fix, "--yes", "--fix"]]);
    const most = given.limit ?? (options.json ? Infinity : SHOWN);
    const kept: Disagreement[] = [];
    return withChannelAlone(options, channel, io, async () => {
      const { path, isFetched } = await liveExport(
        options,
        channel,
        file === undefined ? undefined : resolve(io.cwd, file),
        io,
      );
      const found = await withWritableCatalogue(
        options,
        io,
        async ({ workspace, store, surroundings, landing }) => {
          const own = await loadChannel(workspace, store, channel, await surroundings());
          const at = io.now().toISOString();
          const reconciled = await reconcileChannel(path, own, store, at, (one) => {
            if (kept.length < most) kept.push(one);
          });
          if (isFetched) await forgetExport(path);
          const ledger = store.ledgerOf(channel);
          const adopted = { revision: undefined as number | undefined };
          if (given.adopt)
            await landing.land((mark) =>
              store.together(mark, async () => {
                adopted.revision = (await ledger.adopt(at, reconciled.ids)).revision;
              }),
            );
          return { reconciled, label: own.setup.definition.label, revision: adopted.revision };
        },
      );
      const { reconciled, label, revision } = found;
      if (options.json) {
        for (const one of kept) io.out(disagreementJson(one, channel));
        io.out(reconcileJson(reconciled, channel));
      } else io.out(`${reconcileLines(reconciled, kept, label, io).join("\n")}\n`);
      if (given.adopt) {
        if (options.json) io.out(jsonLine({ type: "adopted", channel, revision: revision ?? null }));
        else
          io.out(
            `${countText(reconciled.live, "listing")} noted as what ${label} has. Not so? lexicant undo ${revision ?? ""}\n`,
          );
        return 0;
      }
      if (given.fix) {
        const mending = await mendLive(
          options,
          channel,
          reconciled,
          { isTrial: false, confirmed: given.yes },
          io,
        );
        for (const { wishes, ...one } of mending) {
          const shown = { ...one, wishes, dryRun: false };
          io.out(options.json ? buildJson(shown, io) : `${buildLines(shown, io).join("\n")}\n`);
        }
        const made = mending.filter(({ files }) => files.length > 0);
        if (!options.json && made.length > 0) {
          const lines = made.map(
            ({ wishes: { purpose, kind } }) =>
              `lexicant submit ${channel} --purpose ${purpose}${kind === "full" ? " --repeat" : ""}`,
          );
          io.out(`To mend it: ${lines.join(", ")}\n`);
        }
      } else if (!options.json && total(reconciled) > 0)
        io.out(`To mend it: lexicant reconcile ${channel} --fix. What the channel shows is right? --adopt\n`);
      return total(reconciled) > 0 ? 1 : 0;
    });
  },
});

const total = ({ counts }: Reconciled): number =>
  Object.values(counts).reduce((sum, count) => sum + count, 0);
