import { purposeNames } from "../core/channel/purpose-names.js";
import type { ExitCode } from "../io/exit-code.js";
import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
import { refuseIdle, refuseTogether } from "./options/refuse-idle.js";
import { flag, oneOf, text, wholeNumber } from "./options/option.js";
import { awaitResults, outlookOf, submitChannel, withChannelAlone } from "../flow/exchange/exchange-work.js";
import { tryFiles } from "../flow/exchange/try-files.js";
import type { Submitted } from "../flow/exchange/submit.js";
import { exchangeProgress } from "../report/exchange-progress.js";
import { resultsJson, resultsLines } from "../report/results-report.js";
import { outlookJson, outlookLines, submittedJson, submittedLines } from "../report/submit-report.js";
import { triedJson, triedLines } from "../report/tried-report.js";

/** How long `--wait` waits where nobody says. */
export const WAIT_MINUTES = 30;

/** `lexicant submit CHANNEL`: the last build goes to the channel, once, whatever happens meanwhile. */
export const submit: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["[files...]", "files of one build (all of the last)"],
  ],
  options: {
    purpose: oneOf(
      "--purpose <purpose>",
      "the last build for this: full, amend, offer, stock, withdraw",
      purposeNames,
    ),
    wait: flag("--wait", "wait until the channel has done with it, and fetch the results"),
    minutes: wholeNumber("--minutes <number>", `with --wait: so long at most (${WAIT_MINUTES})`, {
      most: 1440,
    }),
    checkOnly: flag("--check-only", "have the channel look at the files without effect, where it does that"),
    arrived: text(
      "--arrived <reference>",
      "what was unclear has arrived: the channel's reference",
      "is the channel's reference",
      200,
    ),
    sendAgain: flag("--send-again", "what was unclear has not arrived: send it once more"),
    repeat: flag(
      "--repeat",
      "send it although just these files went there before: the channel has lost them",
    ),
    dryRun: flag("--dry-run", "say what would go where, and send nothing"),
  },
  examples: [
    ["submit merrowgate", "send the last build, or go on where a sending was broken off"],
    ["submit merrowgate --purpose withdraw --wait", "send the last file of endings, and wait for the answer"],
    ["submit merrowgate --check-only", "ask the channel without effect"],
  ],
  async run({ given, args, options, io }) {
    const [channel = "", ...files] = args;
    refuseIdle([[given.minutes !== undefined && !given.wait, "--minutes", "--wait"]]);
    refuseTogether([
      [given.arrived !== undefined, "--arrived"],
      [given.sendAgain, "--send-again"],
    ]);
    refuseTogether([
      [given.dryRun, "--dry-run"],
      [given.checkOnly, "--check-only"],
      [given.wait, "--wait"],
    ]);
    const wishes = { files, purpose: given.purpose, isRepeated: given.repeat };
    if (given.dryRun) {
      const outlook = await outlookOf(options, channel, wishes, io);
      io.out(
        options.json ? outlookJson(outlook, channel) : `${outlookLines(outlook, channel, io).join("\n")}\n`,
      );
      return 0;
    }
    if (given.checkOnly) {
      const tried = await tryFiles(options, channel, wishes, io);
      io.out(options.json ? triedJson(tried, channel) : `${triedLines(tried, channel, io).join("\n")}\n`);
      return tried.answers.every(({ answer }) => answer.isGood) ? 0 : 1;
    }
    return withChannelAlone(options, channel, io, async () => {
      const settling =
        given.arrived !== undefined
          ? ({ kind: "arrived", reference: given.arrived } as const)
          : given.sendAgain
            ? ({ kind: "again" } as const)
            : undefined;
      const watch = exchangeProgress(io, options.quiet);
      const submitted = await submitChannel(options, channel, { ...wishes, settling }, io, watch);
      watch.end();
      if (options.json) io.out(submittedJson(submitted));
      else if (!options.quiet) io.out(`${submittedLines(submitted, channel, io, given.wait).join("\n")}\n`);
      const exit = exitFor(submitted);
      if (!given.wait || exit === 3) return exit;
      const results = await awaitResults(
        options,
        channel,
        { report: undefined, job: submitted.job.number, minutes: given.minutes ?? WAIT_MINUTES },
        io,
        (reading) => watch.reading(reading),
      );
      watch.end();
      for (const one of results)
        io.out(options.json ? resultsJson(one) : `${resultsLines(one, channel, io).join("\n")}\n`);
      return results.some(({ job }) => job.accepted < job.listings) ? 1 : exit;
    });
  },
});

/** Sent, refused by the channel, or not come about. */
export function exitFor({ files, job }: Submitted): ExitCode {
  if (files.some(({ sending }) => sending.kind === "unclear" || sending.kind === "not sent")) return 3;
  return job.files.some(({ state }) => state === "thrown out") ? 1 : 0;
}
