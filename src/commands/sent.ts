import { command } from "./command.js";
import { flag } from "./options/option.js";
import { basename } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import type { BuildNote, SentCounts } from "../store/ledger.js";
import type { CommandFile } from "./command-file.js";
import { takesWhole } from "../flow/exchange/plan-job.js";
import { withCatalogueToChange } from "../flow/open-catalogue.js";
import { loadChannel } from "../flow/run-channels.js";

/** `lexicant sent CHANNEL`: a build is with the channel; what comes next is held against it. */
export const sent: CommandFile = command({
  args: [
    ["<channel>", "the channel that a build was sent to"],
    ["[file]", "a file of the build that is meant (the last one)"],
  ],
  options: {
    dryRun: flag("--dry-run", "say what would be noted, and note nothing"),
  },
  examples: [
    ["sent merrowgate", "the last build is with Merrowgate"],
    ["sent lanternlist out/lanternlist/lanternlist.tsv", "the build that this file is of"],
  ],
  async run({ given, args, options, io }) {
    const [channel = "", file] = args;
    return withCatalogueToChange(given.dryRun)(options, io, async ({ workspace, store, surroundings }) => {
      const { setup } = await loadChannel(workspace, store, channel, await surroundings());
      const ledger = store.ledgerOf(channel);
      const builds = await ledger.builds();
      const build = file === undefined ? builds[0] : buildOf(basename(file), builds);
      const { dryRun } = given;
      const counts: SentCounts =
        build === undefined
          ? { listings: 0, ended: 0, revision: undefined }
          : await ledger.markSent({
              kind: build.kind,
              at: io.now().toISOString(),
              whole: takesWhole(setup.definition, build),
              isTrial: dryRun,
            });
      const { listings, ended, revision } = counts;
      if (options.json)
        io.out(
          jsonLine({
            type: "sent",
            channel,
            listings,
            ended,
            revision: revision ?? null,
            dryRun,
            kind: build?.kind ?? null,
            files: build?.files ?? [],
          }),
        );
      else if (!options.quiet) io.out(`${sentLines(setup, build, counts, dryRun, io).join("\n")}\n`);
      return listings === 0 ? 1 : 0;
    });
  },
});

function sentLines(
  { channel, definition, prices }: ChannelSetup,
  build: BuildNote | undefined,
  { listings, ended, revision }: SentCounts,
  dryRun: boolean,
  io: Io,
): readonly string[] {
  if (build === undefined || listings === 0)
    return [`There is no build to be sent yet. Next: lexicant build ${channel}`];
  const most = prices?.greatestChange;
  const count = countText(listings, "listing");
  return [
    dryRun
      ? `${count} of ${definition.label} would be noted as sent (${build.files.join(", ")}).`
      : `${count} of ${definition.label} noted as sent (${build.files.join(", ")}); "lexicant check" holds what comes next against them${most === undefined ? "" : `, and a price that changes by more than ${most}% is held`}.`,
    ...(ended === 0
      ? []
      : [
          `${countText(ended, "listing")} that the channel had ${ended === 1 ? "is" : "are"} not in ${build.files.length === 1 ? "it" : "them"}: ${definition.label} takes whole files, so ${ended === 1 ? "it ends" : "they end"} there.`,
        ]),
    dryRun
      ? styleFor(io).bold("Nothing was changed: this was a dry run.")
      : `Not so? lexicant undo ${revision ?? ""}`,
  ];
}

/** The last build of a kind that a file is of: the ledger knows no other. */
function buildOf(file: string, builds: readonly BuildNote[]): BuildNote {
  const found = builds.find(({ files }) => files.includes(file));
  if (found !== undefined) return found;
  const known = builds.flatMap(({ files }) => files);
  const near = nearest(file, known);
  const others =
    builds.length === 0 ? "; there is none yet" : `; its files are ${known.slice(0, 5).join(", ")}`;
  const reason = `"${file}" is no file of the last build${near.length === 0 ? others : `; nearest: ${near.join(", ")}`}`;
  throw new Refusal([diagnostic("unknown-option", { reason })]);
}
