import { countText } from "../report/findings.js";
import { jsonLine } from "../report/json.js";
import type { CommandFile } from "./command-file.js";
import { withCatalogue } from "./flow/open-catalogue.js";
import { loadChannel } from "./flow/run-channels.js";

/** `lexicant sent CHANNEL`: the last build is with the channel; what comes next is held against it. */
export const sent: CommandFile = {
  declare: (command) => command.argument("<channel>", "the channel that the last build was sent to"),
  async run({ args, options, io }) {
    const [channel = ""] = args;
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const { setup } = await loadChannel(workspace, store, channel, await surroundings());
      const listings = store.ledgerOf(channel).markSent(io.now().toISOString());
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
};
