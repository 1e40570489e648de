import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
import { limit } from "./options/option.js";
import { countText } from "../core/diagnostics/phrases.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { chosenChannels } from "../workspace/channel-files.js";
import { definitionsFor } from "../workspace/workspace.js";
import { jobStateText } from "../report/job-state.js";
import { jobJson } from "../report/submit-report.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";

const SHOWN = 20;

const columns = [
  { title: "job", align: "right" },
  { title: "channel" },
  { title: "sent" },
  { title: "for" },
  { title: "files", flexible: true },
  { title: "listings", align: "right" },
  { title: "accepted", align: "right" },
  { title: "refused", align: "right" },
  { title: "state" },
] as const;

/** `lexicant jobs`: what was sent, and how far each channel is. */
export const jobs: CommandFile = command({
  args: [["[channel]", "the channel (all in use)"]],
  options: { limit: limit(`at most so many jobs (${SHOWN} unless in JSON)`) },
  examples: [["jobs", "what went where, latest first"]],
  async run({ given, args, options, io }) {
    return withCatalogue(options.workspace, io, async ({ workspace, store }) => {
      const names = chosenChannels(workspace, args, args.length === 0 ? [] : await definitionsFor(workspace));
      const all = (await Promise.all(names.map((name) => store.jobsOf(name).list()))).flat();
      all.sort((a, b) => b.number - a.number);
      const most = given.limit ?? (options.json ? Infinity : SHOWN);
      const shown = all.slice(0, most);
      if (options.json) {
        for (const job of shown) io.out(jobJson(job));
        return 0;
      }
      if (shown.length === 0) {
        io.out(
          `Nothing was sent yet. Next: lexicant build ${names[0] ?? "CHANNEL"}, then lexicant submit ${names[0] ?? "CHANNEL"}\n`,
        );
        return 0;
      }
      const rows = shown.map((job) => [
        String(job.number),
        job.channel,
        job.at.slice(0, 16).replace("T", " "),
        job.purpose,
        job.files.length > 2
          ? `${job.files[0]?.name ?? ""} and ${job.files.length - 1} more`
          : job.files.map(({ name }) => name).join(", "),
        ...[job.listings, job.accepted, job.refused].map((count) => count.toLocaleString("en")),
        jobStateText(job),
      ]);
      const [head = "", ...lines] = tableLines(columns, rows, io);
      const style = styleFor(io);
      io.out(`${[style.bold(head), ...lines].join("\n")}\n`);
      if (all.length > shown.length && !options.quiet)
        io.err(`${countText(all.length - shown.length, "more", "more")} with --limit ${all.length}\n`);
      return 0;
    });
  },
});
