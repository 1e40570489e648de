import { command } from "./command.js";
import { oneOf, wholeNumber, limit } from "./options/option.js";
import { actText } from "../workspace/wording.js";
import type { RankedAct } from "../core/diagnostics/act-collector.js";
import { percentOf, type Share } from "../core/listing/readiness/readiness.js";
import {
  readinessKinds,
  type ReadinessKind,
  type ReadinessRow,
} from "../core/listing/readiness/readiness-tally.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines, type TableColumn } from "../report/table.js";
import type { CommandFile } from "./command-file.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import { tellNoChannel } from "../report/tell-in-use.js";
import { choiceOptions, workers } from "./options/shared-options.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { measureReadiness } from "../flow/readiness/measure-readiness.js";
import { loadChannels, namesOf } from "../flow/run-channels.js";

const ROWS_SHOWN = 30;
const ACTS_SHOWN = 12;

/** `lexicant readiness`: how much of what is demanded is there, and which single act makes most listings ready. */
export const readiness: CommandFile = command({
  args: [["[channels...]", "channels (all in use, if none is named)"]],
  options: {
    by: oneOf(
      "--by <what>",
      "count together by channel, category, brand or product (channel)",
      readinessKinds,
    ),
    below: wholeNumber(
      "--below <percent>",
      "only what has less than this of what is required and recommended",
      { message: "is a whole number of percent", most: 100 },
    ),
    ...choiceOptions,
    workers,
    limit: limit(`show so many rows (${ROWS_SHOWN})`),
  },
  examples: [
    ["readiness", "each channel, and the acts that help most"],
    ["readiness merrowgate --by category --below 80", "where most is missing"],
  ],
  async run({ given, args, options, io }) {
    return withCatalogue(options.workspace, io, async (open) => {
      const { workspace, store, surroundings } = open;
      const channels = await loadChannels(workspace, store, args, await surroundings());
      if (channels.length === 0) return tellNoChannel(io);
      const choice = await chooseProducts(open, given, io, namesOf(channels));
      const by = given.by ?? "channel";
      const tally = await measureReadiness(open, channels, { by, choice, workers: given.workers });
      const rows = tally
        .rows()
        .filter(({ shares, ready, listings }) =>
          given.below === undefined
            ? true
            : percentOf(shares) < given.below || (given.below === 100 && ready < listings),
        );
      const acts = tally.acts();
      if (options.json) {
        for (const row of rows.slice(0, given.limit)) io.out(rowJson(row, by));
        for (const act of acts) io.out(actJson(act));
      } else {
        const shown = { by, limit: given.limit ?? ROWS_SHOWN, below: given.below };
        io.out(`${report(rows, acts, shown, io).join("\n")}\n`);
      }
      return 0;
    });
  },
});

const rowJson = (
  { channel, name, listings, ready, shares, least }: ReadinessRow,
  by: ReadinessKind,
): string =>
  jsonLine({
    type: "readiness",
    channel,
    ...(by === "channel" ? {} : { [by === "product" ? "sku" : by]: name }),
    listings,
    ready,
    required: shares.required,
    recommended: shares.recommended,
    // Where nothing is known to be asked for, nothing is said to be there.
    ...(shares.required.asked + shares.recommended.asked === 0 ? {} : { percent: percentOf(shares) }),
    least,
  });

const actJson = ({ act, alone, listings, channels, example }: RankedAct): string =>
  jsonLine({ type: "act", alone, listings, channels, example, act, says: actText(act) });

/** One decimal, rounded down: 100 says that all is there. */
const percentText = ({ asked, filled }: Share): string =>
  asked === 0 ? "–" : `${Math.floor((filled * 1000) / asked) / 10}%`;

const cells = ({ channel, name, listings, ready, shares }: ReadinessRow): readonly string[] => [
  name,
  channel,
  listings.toLocaleString("en"),
  ready.toLocaleString("en"),
  `${Math.floor((ready * 100) / listings)}%`,
  percentText(shares.required),
  percentText(shares.recommended),
];

const columnsFor = (by: ReadinessKind): readonly TableColumn[] => [
  { title: by === "product" ? "sku" : by, flexible: true },
  { title: "channel" },
  { title: "listings", align: "right" },
  { title: "ready", align: "right" },
  { title: "", align: "right" },
  { title: "required", align: "right" },
  { title: "recommended", align: "right" },
];

const actColumns: readonly TableColumn[] = [
  { title: "makes ready", align: "right" },
  { title: "of", align: "right" },
  { title: "one act", flexible: true },
  { title: "for example", flexible: true },
];

function report(
  rows: readonly ReadinessRow[],
  acts: readonly RankedAct[],
  {
    by,
    limit,
    below,
  }: { readonly by: ReadinessKind; readonly limit: number; readonly below: number | undefined },
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const isWhole = by === "channel";
  if (rows.length === 0)
    return [
      below === undefined
        ? 'Nothing is listed yet; fill the catalogue with "lexicant import FILE", and take channels into use.'
        : `Nothing is below ${below}%.`,
    ];
  const shown = rows.slice(0, limit);
  const part = <T>(all: readonly T[]): readonly T[] => (isWhole ? all.slice(1) : all);
  const [head = "", ...lines] = tableLines(
    part(columnsFor(by)),
    shown.map((row) => part(cells(row))),
    io,
  );
  const single = acts.filter(({ alone }) => alone > 0);
  const [actHead = "", ...actLines] = tableLines(
    actColumns,
    single
      .slice(0, ACTS_SHOWN)
      .map(({ act, alone, listings, example }) => [
        alone.toLocaleString("en"),
        listings.toLocaleString("en"),
        actText(act),
        example,
      ]),
    io,
  );
  const left = rows.length - shown.length;
  return [
    style.bold(head),
    ...lines.map((line, index) => (shown[index]?.ready === shown[index]?.listings ? style.good(line) : line)),
    ...(left > 0 ? [style.dim(`and ${left.toLocaleString("en")} more (--limit)`)] : []),
    ...(single.length === 0
      ? []
      : ["", "What makes most listings ready by itself:", style.bold(actHead), ...actLines]),
    ...(single.length > ACTS_SHOWN
      ? [
          style.dim(
            `and ${countText(single.length - ACTS_SHOWN, "more act", "more acts")} (--json tells all)`,
          ),
        ]
      : []),
    acts.length === 0
      ? "Everything is ready. Next: lexicant build"
      : "All that is missing, in one sheet to fill in: lexicant gaps CHANNEL",
  ];
}
