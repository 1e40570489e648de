import { fieldNamed } from "../core/channel/definition.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { itemsOf, shownItems } from "../core/catalogue/list-text.js";
import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { limit } from "./options/option.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { CommandFile } from "./command-file.js";
import { ledgerRow, ledgerRows, type LedgerRow } from "../flow/exchange/ledger-rows.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { unknownSku } from "../flow/refusals.js";
import { loadChannel } from "../flow/run-channels.js";

const SHOWN = 30;

/** `lexicant ledger CHANNEL [SKU]`: what the channel has, and how it stands there. */
export const ledger: CommandFile = command({
  args: [
    ["<channel>", "the channel"],
    ["[sku]", "one product: each value that was sent"],
  ],
  options: {
    limit: limit(`show so many listings (${SHOWN})`),
  },
  examples: [
    ["ledger merrowgate", "what it has of ours"],
    ["ledger merrowgate BC-1301", "one listing, value by value"],
  ],
  async run({ given, args, options, io }) {
    const [channel = "", sku] = args;
    refuseIdle([[given.limit !== undefined && sku !== undefined, "--limit", "all listings, not with a SKU"]]);
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const { setup } = await loadChannel(workspace, store, channel, await surroundings());
      const kept = store.ledgerOf(channel);
      if (sku !== undefined) {
        const entry = await ledgerRow(sku, kept, store.jobsOf(channel));
        if (entry === undefined) {
          const product = await store.product(sku);
          if (product === undefined) throw new Refusal([await unknownSku(sku, store)]);
          io.out(`${sku} was never sent to ${setup.definition.label}.\n`);
          return 0;
        }
        if (options.json) io.out(entryJson(setup, entry));
        else io.out(`${entryLines(entry, io).join("\n")}\n`);
        return 0;
      }
      const limit = given.limit ?? (options.json ? Infinity : SHOWN);
      const rows = ledgerRows(kept, store.jobsOf(channel));
      io.out(
        options.json
          ? await listJson(setup, rows, limit)
          : `${(await list(setup.definition.label, channel, rows, limit, io)).join("\n")}\n`,
      );
      return 0;
    });
  },
});

function entryLines(row: LedgerRow, io: Io): readonly string[] {
  const style = styleFor(io);
  const { sku, listing, purpose, at, state, job, id, message } = row;
  const when = at === "" ? "with an earlier version" : at.slice(0, 16).replace("T", " ");
  const facts = [
    `${state}${listing === undefined ? "" : ` in ${listing.category === "" ? "no known category" : listing.category}`}`,
    `last heard ${when}${job === undefined ? "" : ` (job ${job})`}${purpose === "" ? "" : `, ${purpose}`}`,
    ...(id === "" ? [] : [`the channel calls it ${id}`]),
  ];
  const said = message === "" ? [] : [`the channel: ${message}`];
  if (listing === undefined)
    return [style.bold(sku), facts.join("; "), ...said, "The channel has nothing of it yet."];
  const rows = Object.entries(listing.values).map(([field, text]) => [field, shownItems(text, " | ")]);
  const [head = "", ...lines] = tableLines(
    [{ title: "field" }, { title: "the channel has", flexible: true }],
    rows,
    io,
  );
  return [`${style.bold(sku)}  ${listing.name ?? ""}`, facts.join("; "), ...said, style.bold(head), ...lines];
}

const columns = [
  { title: "sku" },
  { title: "state" },
  { title: "category", flexible: true },
  { title: "price", align: "right" },
  { title: "when" },
  { title: "by" },
  { title: "its id there" },
] as const;

async function list(
  label: string,
  channel: string,
  found: AsyncGenerator<LedgerRow>,
  limit: number,
  io: Io,
): Promise<readonly string[]> {
  const rows: (readonly string[])[] = [];
  const counts = new Map<string, number>();
  for await (const { sku, state, listing, at, purpose, id } of found) {
    counts.set(state, (counts.get(state) ?? 0) + 1);
    if (rows.length >= limit) continue;
    const when = at.slice(0, 16).replace("T", " ");
    rows.push([sku, state, listing?.category ?? "", listing?.price ?? "", when, purpose, id]);
  }
  if (rows.length === 0)
    return [
      `${label}: nothing was sent yet. Next: lexicant build ${channel}, then lexicant submit ${channel}`,
    ];
  const total = [...counts.values()].reduce((sum, number) => sum + number, 0);
  const hasIds = rows.some(([, , , , , , id]) => id !== "");
  const [head = "", ...lines] = tableLines(
    hasIds ? columns : columns.slice(0, -1),
    hasIds ? rows : rows.map((row) => row.slice(0, -1)),
    io,
  );
  const style = styleFor(io);
  return [
    `${style.bold(label)}: ${[...counts].map(([state, number]) => `${number.toLocaleString("en")} ${state}`).join(", ")}`,
    style.bold(head),
    ...lines,
    ...(total > rows.length
      ? [style.dim(`and ${countText(total - rows.length, "more", "more")} (--limit)`)]
      : []),
  ];
}

/** A listing as the channel has it; of a field with several values all of them. */
function entryJson({ channel, definition }: ChannelSetup, row: LedgerRow): string {
  const { sku, listing, purpose, at, state, job, id, message } = row;
  const common = { type: "ledger", channel, sku, state, purpose, at, id, message, job: job ?? null };
  if (listing === undefined) return jsonLine({ ...common, listing: null });
  const { values, ...facts } = listing;
  const shown = Object.entries(values).map(([code, text]) => [
    code,
    fieldNamed(definition, code)?.list === true ? itemsOf(text) : text,
  ]);
  return jsonLine({
    ...common,
    listing: { ...facts, values: Object.fromEntries(shown) as Record<string, unknown> },
  });
}

async function listJson(
  setup: ChannelSetup,
  rows: AsyncGenerator<LedgerRow>,
  limit: number,
): Promise<string> {
  let [text, shown] = ["", 0];
  for await (const row of rows) {
    if (shown++ >= limit) break;
    text += entryJson(setup, row);
  }
  return text;
}
