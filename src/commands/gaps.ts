import { command } from "./command.js";
import { flag, formed } from "./options/option.js";
import { existsSync } from "node:fs";
import { extname, relative, resolve } from "node:path";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { gapCollector, type Gaps, type GapSheet } from "../core/gaps/gap-collector.js";
import { csvLine } from "../formats/csv-writer.js";
import type { FormSheet } from "../core/gaps/form.js";
import { countText } from "../core/diagnostics/phrases.js";
import { NOT_ASKED } from "../core/gaps/sheet-marks.js";
import { GAP_TITLE, gapGrid, type GapFacts } from "../core/gaps/gap-grid.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import { wrapText } from "../report/text-width.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import { wholeFile } from "../workspace/landing/whole-file.js";
import type { CommandFile } from "./command-file.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import { answersBegun } from "../flow/gaps/begun-sheet.js";
import type { Store } from "../store/store.js";
import { choiceOptions } from "./options/shared-options.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { loadChannels, namesOf, runChannels } from "../flow/run-channels.js";

/** `lexicant gaps CHANNEL…`: a sheet that asks for just what is missing or wrong. */
export const gaps: CommandFile = command({
  args: [["<channels...>", "the channels; what several ask for is asked once"]],
  options: {
    out: formed(
      "--out <file>",
      "the sheet: .xlsx or .csv (out/gaps/CHANNEL.xlsx, in the workspace)",
      /\.(?:xlsx|csv)$/i,
      "ends in .xlsx or .csv",
    ),
    ...choiceOptions,
    recommended: flag("--recommended", "ask for what is only recommended, too"),
    force: flag("--force", "write over a sheet that is there, with whatever was filled in"),
  },
  examples: [
    ["gaps merrowgate", "a workbook that asks for what Merrowgate misses"],
    ["gaps merrowgate fjordhandel --category Seeds --out seeds.xlsx", "for two channels, of one category"],
  ],
  async run({ given, args, options, io }) {
    return withCatalogue(options.workspace, io, async (open) => {
      const { workspace, store, surroundings } = open;
      const channels = await loadChannels(workspace, store, args, await surroundings());
      const path =
        given.out === undefined
          ? workspace.path("out", "gaps", `${channels.map(({ setup }) => setup.channel).join("-")}.xlsx`)
          : resolve(io.cwd, given.out);
      if (!given.force && existsSync(path)) await refuseStanding(path, given.out, store, io);
      const choice = await chooseProducts(open, given, io, namesOf(channels));
      const isCsv = extname(path).toLowerCase() === ".csv";
      const collector = gapCollector({
        merged: channels.length > 1,
        recommended: given.recommended,
        single: isCsv,
      });
      await runChannels(
        store,
        channels.map((channel) => ({
          channel,
          take: (outcome, family) => collector.take(channel.setup, family, outcome),
        })),
        { choice },
      );
      const found = collector.gaps();
      const facts = factsOf(channels, workspace.manifest.shop);
      const taken = new Set<string>();
      const grids = found.sheets.map((sheet) => gapGrid(sheet, facts, taken));
      const shown = relative(io.cwd, path);
      if (grids.length > 0) await write(path, shown, isCsv, grids);
      if (options.json) for (const line of jsonLines(found, grids, channels, shown)) io.out(line);
      else io.out(`${report(found, grids, channels, shown, io).join("\n")}\n`);
      return 0;
    });
  },
});

/** What stands where the sheet goes is kept: a file that was named, and whatever a person began to fill. */
async function refuseStanding(path: string, named: string | undefined, store: Store, io: Io): Promise<void> {
  const begun = await answersBegun(path, store);
  const shown = named ?? relative(io.cwd, path);
  if (begun !== undefined && begun > 0)
    throw new Refusal([diagnostic("sheet-begun", { path: shown, answers: begun })]);
  if (named !== undefined || begun === undefined)
    throw new Refusal([diagnostic("file-exists", { path: shown })]);
}

const factsOf = (channels: readonly WorkspaceChannel[], shop: string): GapFacts => ({
  shop,
  channels: Object.fromEntries(channels.map(({ setup }) => [setup.channel, setup.definition.version])),
  labels: Object.fromEntries(channels.map(({ setup }) => [setup.channel, setup.definition.label])),
});

/** Writes the sheets whole: as a workbook, or the only one as CSV. */
const write = (path: string, shown: string, isCsv: boolean, grids: readonly FormSheet[]): Promise<void> =>
  wholeFile(path, shown, async (file) => {
    if (!isCsv) {
      const { formWorkbook } = await import("../formats/form-workbook.js");
      await file.writeBytes(await formWorkbook(GAP_TITLE, grids));
      return;
    }
    await file.write("\ufeff");
    for (const row of grids[0]?.rows ?? [])
      await file.write(
        csvLine(row.map(({ text, role }) => (role === "idle" && text === "" ? NOT_ASKED : text))),
      );
  });

const openCells = ({ questions }: GapSheet): number => questions.reduce((sum, { open }) => sum + open, 0);

const jsonLines = (
  { sheets, held, answerable, unplaced, others }: Gaps,
  grids: readonly FormSheet[],
  channels: readonly WorkspaceChannel[],
  file: string,
): readonly string[] => [
  ...sheets.map((sheet, index) =>
    jsonLine({
      type: "gap-sheet",
      sheet: grids[index]?.name,
      channel: channels.find(({ setup }) => setup.definition.label === sheet.channel)?.setup.channel ?? "",
      branch: sheet.branch,
      products: sheet.rows.length,
      cells: openCells(sheet),
      questions: sheet.questions.map(({ target, label, askers, open, alone }) => ({
        target,
        label,
        askers,
        open,
        alone,
      })),
    }),
  ),
  jsonLine({
    type: "gaps",
    channels: channels.map(({ setup }) => setup.channel),
    file: sheets.length === 0 ? null : file,
    held,
    answerable,
    unplaced,
    cells: sheets.reduce((sum, sheet) => sum + openCells(sheet), 0),
    others: Object.fromEntries(others),
  }),
];

const columns = [
  { title: "sheet" },
  { title: "products", align: "right" },
  { title: "cells", align: "right" },
  { title: "asks for", flexible: true },
] as const;

function report(
  { sheets, held, answerable, unplaced, others }: Gaps,
  grids: readonly FormSheet[],
  channels: readonly WorkspaceChannel[],
  file: string,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const names = channels.map(({ setup }) => setup.definition.label).join(", ");
  if (sheets.length === 0)
    return [
      held === 0
        ? `${names}: nothing is held, so there is nothing to ask. Next: lexicant build`
        : `${names}: ${countText(held, "listing")} held, and no answer in a sheet would settle it: lexicant check`,
    ];
  const cells = sheets.reduce((sum, sheet) => sum + openCells(sheet), 0);
  const products = new Set(sheets.flatMap(({ rows }) => rows.map(({ sku }) => sku))).size;
  const [head = "", ...lines] = tableLines(
    columns,
    sheets.map((sheet, index) => [
      grids[index]?.name ?? "",
      sheet.rows.length.toLocaleString("en"),
      openCells(sheet).toLocaleString("en"),
      sheet.questions.map(({ label, open }) => `${label} (${open})`).join(", "),
    ]),
    io,
  );
  const left = [...others].map(([code, count]) => `${code} ${count.toLocaleString("en")}`).join(", ");
  return [
    `${style.bold(names)}: ${countText(held, "listing")} held; ${style.good(`${answerable.toLocaleString("en")} can become ready`)} by ${countText(cells, "cell")} for ${countText(products, "product")}`,
    style.bold(head),
    ...lines,
    ...(unplaced > 0
      ? [
          `${countText(unplaced, "listing")} ${unplaced === 1 ? "has" : "have"} no place there yet and ${unplaced === 1 ? "is" : "are"} not asked about: lexicant place CHANNEL`,
        ]
      : []),
    ...(left === "" ? [] : wrapText(`Not to be settled by a sheet: ${left}; see lexicant check`, io.columns)),
    `Fill in the white cells, then: lexicant import ${file}`,
  ];
}
