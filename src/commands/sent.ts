import { countText } from "../report/findings.js";
import { jsonLine } from "../report/json.js";
import type { CommandFile } from "./command-file.js";
import { withCatalogue } from "./flow/open-catalogue.js";
import { loadChannel } from "./flow/run-channels.js";

/** `lexicant sent CHANNEL`: the last build is with the channel; changes of prices are measured against it from now on. */
export const sent: CommandFile = {
  declare: (command) => command.argument("<channel>", "the channel that the last build was sent to"),
  async run({ args, options, io }) {
    const [channel = ""] = args;
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const { setup } = await loadChannel(workspace, store, channel, await surroundings());
      const isWatched = setup.prices?.greatestChange !== undefined;
      const prices = isWatched ? store.pricesOf(channel).markSent() : 0;
      if (options.json) io.out(jsonLine({ type: "sent", channel, prices }));
      else if (!isWatched)
        io.out(
          `Nothing to note: prices are watched only where channels/${channel}/channel.yaml has prices: greatest_change.\n`,
        );
      else if (prices === 0) io.out(`There is no build to be sent yet. Next: lexicant build ${channel}\n`);
      else
        io.out(
          `${countText(prices, "price")} of ${setup.definition.label} noted as sent; a change of more than ${setup.prices.greatestChange}% is held from now on.\n`,
        );
      return 0;
    });
  },
};
