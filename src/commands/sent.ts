import { command } from "./command.js";
import { basename } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import { jsonLine } from "../report/json.js";
import type { CommandFile } from "./command-file.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { loadChannel } from "../flow/run-channels.js";

/** `lexicant sent CHANNEL`: the last build is with the channel; what comes next is held against it. */
export const sent: CommandFile = command({
  args: [
    ["<channel>", "the channel that the last build was sent to"],
    ["[file]", "one of its files, so that no other build is meant by mistake"],
  ],
  options: {},
  async run({ args, options, io }) {
    const [channel = "", file] = args;
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const { setup } = await loadChannel(workspace, store, channel, await surroundings());
      const ledger = store.ledgerOf(channel);
      if (file !== undefined) refuseOther(basename(file), await ledger.builtFiles());
      const listings = await ledger.markSent(io.now().toISOString());
      io.landed();
      const most = setup.prices?.greatestChange;
      if (options.json) io.out(jsonLine({ type: "sent", channel, listings }));
      else if (listings === 0) io.out(`There is no build to be sent yet. Next: lexicant build ${channel}\n`);
      else
        io.out(
          `${countText(listings, "listing")} of ${setup.definition.label} noted as sent; "lexicant check" holds what comes next against them${most === undefined ? "" : `, and a price that changes by more than ${most}% is held`}.\n`,
        );
      return 0;
    });
  },
});

/** The file that was sent must be of the last build: the ledger knows no other. */
const refuseOther = (file: string, built: readonly string[]): void => {
  if (built.includes(file)) return;
  const near = nearest(file, built);
  const reason = `"${file}" is no file of the last build${near.length === 0 ? (built.length === 0 ? "; there is none yet" : `; its files are ${built.slice(0, 5).join(", ")}`) : `; nearest: ${near.join(", ")}`}`;
  throw new Refusal([diagnostic("unknown-option", { reason })]);
};
