import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
import { flag, oneOf, wholeNumber } from "./options/option.js";
import { logForms, logTo } from "../flow/log.js";
import { syncChannel } from "../flow/sync/sync-channel.js";
import { jsonLine } from "../report/json.js";
import { WAIT_MINUTES } from "./submit.js";

/** `lexicant sync CHANNEL`: the whole round, for a clock to call. */
export const sync: CommandFile = command({
  args: [["<channel>", "the channel"]],
  options: {
    log: oneOf("--log <form>", "the log on standard error: json or text (json)", logForms),
    minutes: wholeNumber("--minutes <number>", `wait so long for results at most (${WAIT_MINUTES})`, {
      most: 1440,
    }),
    yes: flag(
      "--yes",
      "also where more changes than channel.yaml allows (sync.most_withdrawn, sync.most_prices_moved)",
    ),
  },
  examples: [["sync merrowgate", "for cron: import, check, build, submit, wait, results"]],
  async run({ given, args, options, io }) {
    const [channel = ""] = args;
    const log = logTo(io, given.log ?? "json").child({ channel });
    log.info("sync begins");
    const wishes = { isConfirmed: given.yes, minutes: given.minutes ?? WAIT_MINUTES };
    const { exit, says } = await syncChannel(options, channel, wishes, log, io);
    if (exit === 0) log.info({ exit }, says);
    else log.error({ exit }, says);
    if (options.json) io.out(jsonLine({ type: "sync", channel, exit, says }));
    return exit;
  },
});
