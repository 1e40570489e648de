import { command, type Work } from "./command.js";
import { flag, text, wholeNumber } from "./options/option.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import { isNarrowed } from "../flow/choice/choice-wishes.js";
import type { Choice } from "../flow/choice/chosen.js";
import { skusIn } from "../flow/choice/sku-list.js";
import { tellNoChannel } from "../report/tell-in-use.js";
import { refuseIdle, refuseTogether, type IdleOption } from "./options/refuse-idle.js";
import { choiceOptions, workers } from "./options/shared-options.js";
import { isHeld } from "../core/listing/listing.js";
import { csvLine } from "../formats/csv-writer.js";
import { findingCells, findingColumns } from "../report/finding-cells.js";
import { standingJson, standingLines } from "../report/product-standings.js";
import { findingJson } from "../report/json.js";
import type { Store } from "../store/store.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import { version } from "../workspace/version.js";
import type { CommandFile } from "./command-file.js";
import type { ExitCode } from "../io/exit-code.js";
import { exitFor } from "../flow/channel-counts.js";
import { checkCatalogue, type CheckedCatalogue } from "../flow/check/check-catalogue.js";
import { checkProduct } from "../flow/check/check-product.js";
import { checkLines, checkSummaries } from "../report/check-report.js";
import { refuseUnknown } from "../flow/check/narrowing.js";
import { withCatalogue, type OpenCatalogue } from "../flow/open-catalogue.js";
import { loadChannels, namesOf } from "../flow/run-channels.js";
import { tellAdvice } from "../report/tell-advice.js";

/** Products named for each cause where all is asked for. */
const ALL_EXAMPLES = 50;

const table = {
  ...choiceOptions,
  placedIn: text(
    "--placed-in <category>",
    "only products that stand in this category of the channel, or below it",
    "is a category of the channel, by path or code",
    300,
  ),
  field: text(
    "--field <field>",
    "only what is found in this field of the channel",
    "is a field of the channel",
    300,
  ),
  code: text(
    "--code <code>",
    "only this kind of finding",
    "is a finding's code, such as missing-required",
    300,
  ),
  all: flag("--all", "every cause, with more products to each"),
  maxErrors: wholeNumber(
    "--max-errors <count>",
    "end with 0 as long as no more products than this are held",
    { least: 0 },
  ),
  csv: flag("--csv", "each finding as a row for a spreadsheet"),
  sarif: flag("--sarif", "for editors and code hosts: each finding at its row or line (SARIF 2.1.0)"),
  workers,
  watch: flag("--watch", "check again whenever a decision file, a table or the catalogue changes"),
  links: flag("--links", "ask each web address that the listings show whether it is there"),
  privateAddresses: flag(
    "--private-addresses",
    "with --links: addresses of this machine and its network too",
  ),
};

/** `lexicant check`: what stands between the catalogue and each channel, by cause. */
export const check: CommandFile = command({
  args: [["[channels...]", "channels (all in use, if none is named)"]],
  options: table,
  examples: [
    ["check", "every channel in use, by cause"],
    ["check merrowgate --sku BC-1301", "where one product stands, with every reason"],
    ["check --lacking merrowgate --csv > to-do.csv", "each finding as a row"],
    ["check --watch", "again whenever something changes"],
  ],
  async run(work) {
    const { given, options, io } = work;
    refuseTogether([
      [given.csv, "--csv"],
      [given.sarif, "--sarif"],
      [options.json, "--json"],
      [given.watch, "--watch"],
    ]);
    refuseTogether([
      [given.csv, "--csv"],
      [given.sarif, "--sarif"],
      [given.watch, "--watch"],
      [given.links, "--links"],
    ]);
    refuseIdle([
      [given.privateAddresses && !given.links, "--private-addresses", "--links"],
      [
        given.all && (given.csv || given.sarif || options.json || given.links),
        "--all",
        "an answer for people",
      ],
      [given.workers !== undefined && given.links, "--workers", "a check of listings, not with --links"],
      [given.maxErrors !== undefined && given.links, "--max-errors", "a check of listings, not with --links"],
      ...(["field", "code"] as const).map((name): IdleOption => [
        given.links && given[name] !== undefined,
        `--${name}`,
        "a check of listings, not with --links",
      ]),
      [given.links && given.placedIn !== undefined, "--placed-in", "a check of listings, not with --links"],
    ]);
    if (given.watch) return watched(work);
    return withCatalogue(options.workspace, io, (open) => once(work, open));
  },
});

type CheckCommand = Work<typeof table>;

async function watched(work: CheckCommand): Promise<ExitCode> {
  const { options, io } = work;
  const { watchWorkspace } = await import("../flow/check/watch.js");
  const { watchScreen } = await import("../report/watch-screen.js");
  return watchWorkspace(options.workspace, io.cwd, watchScreen(io), io.untilEnded, () =>
    withCatalogue(options.workspace, io, (open) => once(work, open)),
  );
}

async function linksChecked(
  { given, options, io }: CheckCommand,
  channels: readonly WorkspaceChannel[],
  store: Store,
  choice: Choice,
): Promise<ExitCode> {
  const { checkLinks } = await import("../flow/check/check-links.js");
  const { linkJson, linkLines } = await import("../report/link-report.js");
  const { json, quiet } = options;
  const tallies = await checkLinks(channels, store, {
    choice,
    allowPrivate: given.privateAddresses,
    now: () => io.now(),
    onFinding: (finding) => json && io.out(findingJson(finding)),
    onProgress(asked) {
      if (io.isTerminal && !quiet && !json) io.err(`${asked.toLocaleString("en")} addresses asked\n`);
    },
  });
  for (const tally of tallies) io.out(json ? linkJson(tally) : `${linkLines(tally, io).join("\n")}\n`);
  return tallies.some(({ causes }) => causes.count("error") > 0) ? 1 : 0;
}

/** One product by its SKU alone is shown as it stands on each channel, rather than by causes. */
async function onlySku({ given, io }: CheckCommand): Promise<string | undefined> {
  const { sku, where, category, group, lacking, changed, csv, sarif } = given;
  if (sku === undefined || sku.startsWith("@") || csv || sarif) return undefined;
  if (isNarrowed({ where, category, group, lacking, changed })) return undefined;
  const [first, ...others] = await skusIn(sku, io);
  return others.length === 0 ? first : undefined;
}

async function once(work: CheckCommand, open: OpenCatalogue): Promise<ExitCode> {
  const { workspace, store, surroundings } = open;
  const { args, given, options, io } = work;
  const channels = await loadChannels(workspace, store, args, await surroundings());
  if (channels.length === 0) return tellNoChannel(io);
  refuseUnknown(given, channels);
  const choice = await chooseProducts(open, given, io, namesOf(channels));
  const sku = given.links ? undefined : await onlySku(work);
  if (sku !== undefined) {
    const checked = await checkProduct(sku, channels, store, given);
    if (options.json) for (const line of standingJson(checked)) io.out(line);
    else io.out(`${standingLines(checked, io).join("\n")}\n`);
    return checked.standings.some(({ outcome }) => isHeld(outcome)) ? 1 : 0;
  }
  if (given.links) return linksChecked(work, channels, store, choice);
  const check = (
    onFinding?: (finding: Parameters<typeof findingJson>[0]) => void,
  ): Promise<CheckedCatalogue> =>
    checkCatalogue(open, channels, {
      ...given,
      choice,
      ...(given.all ? { examples: ALL_EXAMPLES } : {}),
      ...(onFinding === undefined ? {} : { onFinding }),
    });
  const exit = ({ channels: checked }: CheckedCatalogue): ExitCode =>
    exitFor(
      checked.map(({ counts }) => counts),
      given.maxErrors,
    );
  if (given.csv) {
    io.out(csvLine(findingColumns));
    return exit(await check((finding) => io.out(csvLine(findingCells(finding)))));
  }
  if (given.sarif) {
    const { sarifLog } = await import("../report/sarif.js");
    const { locatorIn } = await import("../flow/check/locate.js");
    const log = sarifLog({ version: version(), locate: locatorIn(workspace) });
    const checked = await check((finding) => log.add(finding));
    io.out(`${log.text()}\n`);
    return exit(checked);
  }
  if (options.json) {
    for (const finding of channels.flatMap(({ advice }) => advice)) io.out(findingJson(finding));
    const checked = await check((finding) => io.out(findingJson(finding)));
    for (const line of checkSummaries(checked)) io.out(line);
    return exit(checked);
  }
  const checked = await check();
  tellAdvice([...channels, { advice: checked.idle }], options, io);
  io.out(`${checkLines(checked, given, io).join("\n")}\n`);
  return exit(checked);
}
