import { resolve } from "node:path";
import { Refusal } from "../core/diagnostics/refusal.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { isHeld } from "../core/listing/listing.js";
import { csvLine } from "../formats/csv-writer.js";
import { findingCells, findingColumns } from "../report/finding-cells.js";
import { standingJson, standingLines } from "../report/product-standings.js";
import { findingJson } from "../report/json.js";
import type { Store } from "../store/store.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import { version } from "../workspace/version.js";
import type { CommandFile, Request } from "./command-file.js";
import type { ExitCode } from "../io/exit-code.js";
import { exitFor } from "../flow/channel-counts.js";
import { checkCatalogue, type Checked } from "../flow/check/check-catalogue.js";
import { checkProduct } from "../flow/check/check-product.js";
import { checkLines, checkSummaries } from "../report/check-report.js";
import { refuseUnknown } from "../flow/check/narrowing.js";
import { withCatalogue, type OpenCatalogue } from "../flow/open-catalogue.js";
import { loadChannels } from "../flow/run-channels.js";
import { tellAdvice } from "../report/tell-advice.js";
import type { CheckOptions } from "./options/check-options.js";
import { validOptions } from "./options/valid-options.js";

/** Products named for each cause where all is asked for. */
const ALL_EXAMPLES = 50;

/** `lexicant check`: what stands between the catalogue and each channel, by cause. */
export const check: CommandFile = {
  declare: (command) =>
    command
      .argument("[channels...]", "channels (all in use, if none is named)")
      .option("--sku <sku>", "only this product: where it stands on each channel, and every reason")
      .option("--category <category>", "only products in this category, ours or the channel's, or below it")
      .option("--field <field>", "only what is found in this field of the channel")
      .option("--code <code>", "only this kind of finding")
      .option("--all", "every cause, with more products to each")
      .option("--max-errors <count>", "end with 0 as long as no more products than this are held")
      .option("--csv", "each finding as a row for a spreadsheet")
      .option("--sarif", "for editors and code hosts: each finding at its row or line (SARIF 2.1.0)")
      .option("--watch", "check again whenever a decision file, a table or the catalogue changes")
      .option("--links", "ask each web address that the listings show whether it is there")
      .option("--private-addresses", "with --links: addresses of this machine and its network too"),
  async run(request) {
    const { options, io } = request;
    const given = await validOptions(
      options,
      ["sku", "category", "field", "code", "maxErrors"],
      async () => (await import("./options/check-options.js")).CheckOptions,
    );
    const forms = ["csv", "sarif", "json", "watch", "links"].filter((name) => options[name] === true);
    if (forms.length > 1)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: `${forms.map((form) => `--${form}`).join(" and ")} do not go together; give one of them`,
        }),
      ]);
    if (options["watch"] === true) return watched(request, given);
    return withCatalogue(options.workspace, io, (open) => once(request, given, open));
  },
};

const watched = async (
  request: Request<Record<string, unknown>>,
  given: Partial<CheckOptions>,
): Promise<ExitCode> => {
  const { options, io } = request;
  const { watchWorkspace } = await import("../flow/check/watch.js");
  const { watchScreen } = await import("../report/watch-screen.js");
  return watchWorkspace(resolve(io.cwd, options.workspace), watchScreen(io), () =>
    withCatalogue(options.workspace, io, (open) => once(request, given, open)),
  );
};

const linksChecked = async (
  { options, io }: Pick<Request<Record<string, unknown>>, "options" | "io">,
  channels: readonly WorkspaceChannel[],
  store: Store,
): Promise<ExitCode> => {
  const { checkLinks } = await import("../flow/check/check-links.js");
  const { linkJson, linkLines } = await import("../report/link-report.js");
  const { json, quiet } = options;
  const tallies = await checkLinks(channels, store, {
    allowPrivate: options["privateAddresses"] === true,
    now: () => io.now(),
    onFinding: (finding) => json && io.out(findingJson(finding)),
    onProgress(asked) {
      if (io.isTerminal && !quiet && !json) io.err(`${asked.toLocaleString("en")} addresses asked\n`);
    },
  });
  for (const tally of tallies) io.out(json ? linkJson(tally) : `${linkLines(tally, io).join("\n")}\n`);
  return tallies.some(({ causes }) => causes.count("error") > 0) ? 1 : 0;
};

const once = async (
  { args, options, io }: Request<Record<string, unknown>>,
  given: Partial<CheckOptions>,
  { workspace, store, surroundings }: OpenCatalogue,
): Promise<ExitCode> => {
  const channels = await loadChannels(workspace, store, args, await surroundings());
  if (channels.length === 0) {
    io.err(
      'No channel is in use; name one in lexicant.yaml, under channels ("lexicant channels" lists them).\n',
    );
    return 0;
  }
  refuseUnknown(given, channels);
  if (given.sku !== undefined) {
    const checked = await checkProduct(given.sku, channels, store, given);
    if (options.json) for (const line of standingJson(checked)) io.out(line);
    else io.out(`${standingLines(checked, io).join("\n")}\n`);
    return checked.standings.some(({ outcome }) => isHeld(outcome)) ? 1 : 0;
  }
  if (options["links"] === true) return linksChecked({ options, io }, channels, store);
  const all = options["all"] === true;
  const check = (onFinding?: (finding: Parameters<typeof findingJson>[0]) => void): Promise<Checked> =>
    checkCatalogue(store, channels, {
      ...given,
      ...(all ? { examples: ALL_EXAMPLES } : {}),
      ...(onFinding === undefined ? {} : { onFinding }),
    });
  const exit = ({ channels: checked }: Checked): ExitCode =>
    exitFor(
      checked.map(({ counts }) => counts),
      given.maxErrors,
    );
  if (options["csv"] === true) {
    io.out(csvLine(findingColumns));
    return exit(await check((finding) => io.out(csvLine(findingCells(finding)))));
  }
  if (options["sarif"] === true) {
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
  tellAdvice(channels, io);
  io.out(`${checkLines(checked, { all, ...given }, io).join("\n")}\n`);
  return exit(checked);
};
