import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { flag } from "./options/option.js";
import { withAncestors } from "../core/channel/category-tree.js";
import { placeText } from "../core/diagnostics/place.js";
import { fillTally, type TalliedFill } from "../core/listing/fill/fill-tally.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import { wrapText } from "../report/text-width.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import type { CommandFile } from "./command-file.js";
import { namedCategory } from "../flow/channel-definition.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { loadChannel, runChannels } from "../flow/run-channels.js";
import { tellAdvice } from "../report/tell-advice.js";

/** `lexicant fills CHANNEL [CATEGORY]`: what fills each field, from where, and how often nothing comes of it. */
export const fills: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["[category]", "only products placed in this category or below it, by code or path"],
  ],
  options: {
    all: flag("--all", "optional fields too that stay blank"),
  },
  examples: [["fills merrowgate", "what fills each field, and how much stays blank"]],
  async run({ given, args, options, io }) {
    const [channel = "", wanted] = args;
    refuseIdle([[given.all && options.json, "--all", "an answer for people: JSON has all"]]);
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const found = await loadChannel(workspace, store, channel, await surroundings());
      const within = wanted === undefined ? undefined : namedCategory(found.setup.definition, wanted);
      const tally = fillTally();
      let listings = 0;
      await runChannels(store, [
        {
          channel: found,
          take(outcome) {
            if (outcome.kind !== "ready" && outcome.kind !== "held") return;
            const { listing, findings } = outcome;
            const { category } = listing.plan.rules;
            if (within !== undefined && !withAncestors(category).includes(within)) return;
            listings++;
            tally.take(listing, found.setup, findings);
          },
        },
      ]);
      const rows = tally.rows();
      if (!options.json) tellAdvice([found], options, io);
      if (options.json) for (const row of rows) io.out(jsonLine(fillJson(channel, row)));
      else io.out(`${report(found, rows, listings, within?.path, given.all, io).join("\n")}\n`);
      return 0;
    });
  },
});

function fillJson(channel: string, row: TalliedFill): Readonly<Record<string, unknown>> {
  const { field, fill, listings, required, recommended, filled, blank, missing, wrong } = row;
  return {
    type: "fill",
    channel,
    field: field.code,
    label: field.label,
    fill: fill?.program.source.text ?? null,
    place: fill?.program.source.place ?? null,
    standsFor: fill?.usual?.program.source.place ?? null,
    listings,
    required,
    recommended,
    filled,
    blank,
    missing,
    wrong,
  };
}

const columns = [
  { title: "field" },
  { title: "need" },
  { title: "filled", align: "right" },
  { title: "blank", align: "right" },
  { title: "wrong", align: "right" },
  { title: "by", flexible: true },
  { title: "in" },
] as const;

function needText({ listings, required, recommended }: TalliedFill): string {
  if (required === listings) return "required";
  if (required > 0) return `required for ${required.toLocaleString("en")}`;
  return recommended > 0 ? "recommended" : "optional";
}

const count = (number: number): string => (number === 0 ? "" : number.toLocaleString("en"));

function cells(row: TalliedFill, categoryField: string | undefined): readonly string[] {
  const { field, fill, filled, blank, wrong } = row;
  const { place } = fill?.program.source ?? {};
  const own = fill?.program.source.text.replace(/\s+/g, " ").trim();
  const by =
    field.code === categoryField
      ? "the placement"
      : (own ?? (field.defaultValue === "" ? "nothing" : `the channel: ${field.defaultValue}`));
  const at =
    place === undefined ? "" : placeText({ file: place.file.split("/").at(-1) ?? "", line: place.line ?? 0 });
  return [field.code, needText(row), count(filled), count(blank), count(wrong), by, at];
}

/** Optional, and nothing comes of it: no reader misses it. */
const isIdle = ({ filled, required, recommended, wrong }: TalliedFill): boolean =>
  filled + required + recommended + wrong === 0;

/** A line that shows what is missing stands out. */
function coloured(line: string, row: TalliedFill, io: Io): string {
  const style = styleFor(io);
  if (row.missing > 0 || row.wrong > 0) return style.severity("error", line);
  return row.fill === undefined && row.filled === 0 ? style.dim(line) : line;
}

function share(rows: readonly TalliedFill[]): string {
  const required = rows.reduce((sum, row) => sum + row.required, 0);
  const missing = rows.reduce((sum, row) => sum + row.missing, 0);
  if (required === 0) return "nothing is required";
  const percent = Math.floor(((required - missing) * 1000) / required) / 10;
  return `${percent}% of what is required is filled (${(required - missing).toLocaleString("en")} of ${required.toLocaleString("en")})`;
}

function report(
  { setup }: WorkspaceChannel,
  rows: readonly TalliedFill[],
  listings: number,
  within: string | undefined,
  all: boolean,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const { channel, definition, files } = setup;
  const title = `${style.bold(`${definition.label} ${definition.version}`)}${within === undefined ? "" : `, ${within}`}`;
  if (listings === 0) return [`${title}: no product is placed here yet. Next: lexicant place ${channel}`];
  const shown = all ? rows : rows.filter((row) => !isIdle(row));
  const idle = rows.length - shown.length;
  const [head = "", ...lines] = tableLines(
    columns,
    shown.map((row) => cells(row, definition.categoryField)),
    io,
  );
  const [worst] = [...rows].sort((a, b) => b.missing - a.missing);
  return [
    `${title}: ${countText(listings, "listing")}; ${share(rows)}`,
    style.bold(head),
    ...lines.map((line, index) => {
      const row = shown[index];
      return row === undefined ? line : coloured(line, row, io);
    }),
    ...(idle > 0
      ? [
          style.dim(
            `and ${countText(idle, "optional field")} that ${idle === 1 ? "stays" : "stay"} blank (--all)`,
          ),
        ]
      : []),
    worst === undefined || worst.missing === 0
      ? `Nothing that is required is blank. What else is in the way: lexicant check ${channel}`
      : wrapText(
          `Most is missing in ${worst.field.code} (${worst.field.label}): ${countText(worst.missing, "listing")}. Change its fill in ${files.fills}, or give the products what it reads.`,
          io.columns,
        ).join("\n"),
  ];
}
