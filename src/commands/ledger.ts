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
import type { ChannelLedger, LedgerEntry } from "../store/ledger.js";
import type { CommandFile } from "./command-file.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { unknownSku } from "../flow/refusals.js";
import { loadChannel } from "../flow/run-channels.js";

const SHOWN = 30;

/** `lexicant ledger CHANNEL [SKU]`: what the channel was sent, when and for what. */
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
        const entry = (await kept.of({ skus: [sku] })).get(sku);
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
      io.out(
        options.json
          ? await listJson(setup, kept, limit)
          : `${(await list(setup.definition.label, channel, kept, limit, io)).join("\n")}\n`,
      );
      return 0;
    });
  },
});

async function* all(kept: ChannelLedger): AsyncGenerator<LedgerEntry> {
  for await (const batch of kept.entries()) yield* batch;
}

const stateOf = ({ listing }: LedgerEntry): string => {
  if (listing.withdrawn === true) return "withdrawn";
  return listing.isGroup === true ? "group" : "listed";
};

const entryLines = (entry: LedgerEntry, io: Io): readonly string[] => {
  const style = styleFor(io);
  const { sku, listing, purpose, at } = entry;
  const rows = Object.entries(listing.values).map(([field, text]) => [field, shownItems(text, " | ")]);
  const [head = "", ...lines] = tableLines([{ title: "field" }, { title: "sent", flexible: true }], rows, io);
  return [
    `${style.bold(sku)}  ${listing.name ?? ""}`,
    `${stateOf(entry)} in ${listing.category === "" ? "no known category" : listing.category}; last sent ${at === "" ? "with an earlier version" : at.slice(0, 16).replace("T", " ")}, ${purpose}`,
    style.bold(head),
    ...lines,
  ];
};

const columns = [
  { title: "sku" },
  { title: "state" },
  { title: "category", flexible: true },
  { title: "price", align: "right" },
  { title: "sent" },
  { title: "by" },
] as const;

const list = async (
  label: string,
  channel: string,
  kept: ChannelLedger,
  limit: number,
  io: Io,
): Promise<readonly string[]> => {
  const rows: (readonly string[])[] = [];
  const counts = new Map<string, number>();
  for await (const entry of all(kept)) {
    const state = stateOf(entry);
    counts.set(state, (counts.get(state) ?? 0) + 1);
    if (rows.length >= limit) continue;
    const { sku, listing, at, purpose } = entry;
    rows.push([
      sku,
      state,
      listing.category,
      listing.price ?? "",
      at.slice(0, 16).replace("T", " "),
      purpose,
    ]);
  }
  if (rows.length === 0)
    return [`${label}: nothing was sent yet. Next: lexicant build ${channel}, then lexicant sent ${channel}`];
  const total = [...counts.values()].reduce((sum, number) => sum + number, 0);
  const [head = "", ...lines] = tableLines(columns, rows, io);
  const style = styleFor(io);
  return [
    `${style.bold(label)}: ${[...counts].map(([state, number]) => `${number.toLocaleString("en")} ${state}`).join(", ")}`,
    style.bold(head),
    ...lines,
    ...(total > rows.length
      ? [style.dim(`and ${countText(total - rows.length, "more", "more")} (--limit)`)]
      : []),
  ];
};

/** A listing as it was sent; of a field with several values all of them. */
const entryJson = (
  { channel, definition }: ChannelSetup,
  { sku, listing, purpose, at }: LedgerEntry,
): string => {
  const { values, ...facts } = listing;
  const shown = Object.entries(values).map(([code, text]) => [
    code,
    fieldNamed(definition, code)?.list === true ? itemsOf(text) : text,
  ]);
  return jsonLine({
    type: "ledger",
    ...{ channel, sku, purpose, at },
    listing: { ...facts, values: Object.fromEntries(shown) as Record<string, unknown> },
  });
};

const listJson = async (setup: ChannelSetup, kept: ChannelLedger, limit: number): Promise<string> => {
  let [text, shown] = ["", 0];
  for await (const entry of all(kept)) {
    if (shown++ >= limit) break;
    text += entryJson(setup, entry);
  }
  return text;
};
