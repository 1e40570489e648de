import { heading } from "../core/diagnostics/wording.js";
import { countText, causeLines } from "../report/findings.js";
import type { Io } from "../report/io.js";
import { findingJson, jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { wrapText } from "../report/text-width.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import type { CommandFile } from "./command-file.js";
import { channelCounts, exitFor, type ChannelCounts } from "./flow/channel-counts.js";
import { withCatalogue } from "./flow/open-catalogue.js";
import { checkProduct } from "./flow/check/check-product.js";
import { loadChannels, runChannels } from "./flow/run-channels.js";
import { validOptions } from "./options/valid-options.js";

const CAUSES_SHOWN = 12;

/** `lexicant check`: what stands between the catalogue and each channel, by cause. */
export const check: CommandFile = {
  declare: (command) =>
    command
      .argument("[channels...]", "channels (all in use, if none is named)")
      .option("--sku <sku>", "only this product: where it stands on each channel, and every reason")
      .option("--links", "ask each web address that the listings show whether it is there")
      .option("--private-addresses", "with --links: addresses of this machine and its network too")
      .option("--all", "show every cause"),
  async run({ args, options, io }) {
    const given = await validOptions(
      options,
      ["sku"],
      async () => (await import("./options/try-options.js")).TryOptions,
    );
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const channels = await loadChannels(workspace, store, args, await surroundings());
      if (channels.length === 0) {
        io.err(
          'No channel is in use; name one in lexicant.yaml, under channels ("lexicant channels" lists them).\n',
        );
        return 0;
      }
      if (given.sku !== undefined) return checkProduct(given.sku, channels, store, options.json, io);
      if (options["links"] === true)
        return (await import("./flow/check/check-links.js")).checkLinks(channels, store, {
          allowPrivate: options["privateAddresses"] === true,
          json: options.json,
          quiet: options.quiet,
          io,
        });
      const runs = channels.map((channel) => ({ channel, counts: channelCounts() }));
      await runChannels(
        store,
        runs.map(({ channel, counts }) => ({
          channel,
          take(outcome) {
            const findings = counts.take(outcome);
            if (options.json) for (const finding of findings) io.out(findingJson(finding));
          },
        })),
      );
      for (const { channel, counts } of runs) {
        if (options.json) io.out(jsonLine(summaryJson(channel, counts)));
        else io.out(`${report(channel, counts, options["all"] === true, io).join("\n")}\n`);
      }
      return exitFor(runs.map(({ counts }) => counts));
    });
  },
};

const summaryJson = (
  { setup }: WorkspaceChannel,
  { ready, held, leftOut, causes }: ChannelCounts,
): Readonly<Record<string, unknown>> => ({
  type: "channel",
  channel: setup.channel,
  version: setup.definition.version,
  ready,
  held,
  leftOut,
  errors: causes.count("error"),
  warnings: causes.count("warning"),
  advice: causes.count("advice"),
});

/** Our own decisions, briefly: nothing is wrong with these. */
const leftOutLines = ({ leftOutCauses }: ChannelCounts, io: Io): readonly string[] =>
  leftOutCauses.causes().flatMap(({ first, products }) => {
    const [head = "", ...more] = wrapText(
      `${countText(products, "product")}: ${heading(first, products)}`,
      Math.max(40, io.columns - 9),
    );
    return [`${styleFor(io).dim("left out")} ${head}`, ...more.map((line) => `         ${line}`)];
  });

const report = (
  { setup }: WorkspaceChannel,
  counts: ChannelCounts,
  all: boolean,
  io: Io,
): readonly string[] => {
  const style = styleFor(io);
  const { ready, held, leftOut } = counts;
  const causes = counts.causes.causes();
  const next =
    held > 0
      ? `Mend the first cause, then check again; "lexicant build ${setup.channel}" writes the ${countText(ready, "listing")} that ${ready === 1 ? "is" : "are"} ready.`
      : `"lexicant build ${setup.channel}" writes the files.`;
  return [
    `${style.bold(`${setup.definition.label} ${setup.definition.version}`)}: ${style.good(`${ready.toLocaleString("en")} ready`)}, ` +
      `${held.toLocaleString("en")} held, ${leftOut.toLocaleString("en")} left out`,
    ...causeLines(causes, io, all ? Infinity : CAUSES_SHOWN),
    ...leftOutLines(counts, io),
    ...(ready + held + leftOut === 0
      ? ['The catalogue is empty; fill it with "lexicant import FILE".']
      : [next]),
  ];
};
