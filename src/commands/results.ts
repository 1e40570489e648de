import { resolve } from "node:path";
import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { flag, wholeNumber } from "./options/option.js";
import { awaitResults, resultsOfChannel, withChannelAlone } from "../flow/exchange/exchange-work.js";
import { exchangeProgress } from "../report/exchange-progress.js";
import { resultsJson, resultsLines } from "../report/results-report.js";
import { WAIT_MINUTES } from "./submit.js";

/** `lexicant results CHANNEL`: what the channel says comes back to the very product and cell. */
export const results: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["[report]", "a result report that you have already (it is fetched)"],
  ],
  options: {
    job: wholeNumber("--job <number>", "this job, as lexicant jobs counts them (all that are open)"),
    wait: flag("--wait", "ask until the channel has done with it"),
    minutes: wholeNumber("--minutes <number>", `with --wait: so long at most (${WAIT_MINUTES})`, {
      most: 1440,
    }),
  },
  examples: [
    ["results merrowgate", "fetch what is there, and note it"],
    ["results gavelstead answer.xml", "read a report that came by hand"],
  ],
  async run({ given, args, options, io }) {
    const [channel = "", report] = args;
    refuseIdle([
      [given.minutes !== undefined && !given.wait, "--minutes", "--wait"],
      [given.wait && report !== undefined, "--wait", "a report that is fetched, not with a file"],
    ]);
    return withChannelAlone(options, channel, io, async () => {
      const wish = {
        report: report === undefined ? undefined : resolve(io.cwd, report),
        job: given.job,
        isAgain: given.job !== undefined && !given.wait,
      };
      const watch = exchangeProgress(io, options.quiet);
      const found = given.wait
        ? await awaitResults(
            options,
            channel,
            { ...wish, minutes: given.minutes ?? WAIT_MINUTES },
            io,
            (reading) => watch.reading(reading),
          )
        : await resultsOfChannel(options, channel, wish, io);
      watch.end();
      for (const one of found)
        io.out(options.json ? resultsJson(one) : `${resultsLines(one, channel, io).join("\n")}\n`);
      return found.some(
        ({ job, reading }) => job.refused > 0 || reading.length > 0 || job.accepted < job.listings,
      )
        ? 1
        : 0;
    });
  },
});
