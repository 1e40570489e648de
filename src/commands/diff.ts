import { fieldNamed } from "../core/channel/definition.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { itemsOf, shownItems } from "../core/catalogue/list-text.js";
import { command } from "./command.js";
import { oneOf, limit } from "./options/option.js";
import { rowsOf, type FileRow } from "../core/listing/shape/file-family.js";
import { shape } from "../core/listing/shape/shape.js";
import { differenceOf, type Difference } from "../core/purpose/difference.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { LedgerState } from "../store/ledger.js";
import type { CommandFile } from "./command-file.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import type { Choice } from "../flow/choice/chosen.js";
import { choiceOptions } from "./options/shared-options.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { loadChannel, runChannels } from "../flow/run-channels.js";
import { textRegister } from "../core/catalogue/beside/text-register.js";

const SHOWN = 40;

interface FoundChange {
  readonly counts: { fresh: number; changed: number; same: number; ended: number };
  readonly fields: Map<string, number>;
}

/** `lexicant diff CHANNEL`: what a full build would change, by product and field. */
export const diff: CommandFile = command({
  args: [["<channel>", "the channel"]],
  options: {
    against: oneOf(
      "--against <state>",
      "what it is held against: sent, or built (sent, where anything was)",
      ["sent", "built"] as const,
      "is sent or built",
    ),
    ...choiceOptions,
    limit: limit(`show so many changes (${SHOWN})`),
  },
  examples: [
    ["diff lanternlist", "what the next whole file changes"],
    ["diff merrowgate --category Hives --against built", "one category, against the last build"],
  ],
  async run({ given, args, options, io }) {
    const [channel = ""] = args;
    return withCatalogue(options.workspace, io, async (open) => {
      const { workspace, store, surroundings } = open;
      const loaded = await loadChannel(workspace, store, channel, await surroundings());
      const { setup } = loaded;
      const choice = await chooseProducts(open, given, io, [channel]);
      const ledger = store.ledgerOf(channel);
      const against: LedgerState = given.against ?? ((await ledger.isEmpty()) ? "built" : "sent");
      const limit = given.limit ?? (options.json ? Infinity : SHOWN);
      const found: FoundChange = { counts: { fresh: 0, changed: 0, same: 0, ended: 0 }, fields: new Map() };
      const rows: (readonly string[])[] = [];
      const going = textRegister();
      const tell = (difference: Difference): void => {
        count(found, difference);
        if (options.json && difference.kind !== "same") io.out(differenceJson(difference, setup));
        for (const cells of cellsOf(difference)) if (rows.length < limit) rows.push(cells);
      };
      await runChannels(
        store,
        [
          {
            channel: loaded,
            take: () => undefined,
            async family(outcomes, family) {
              const rows = shape(outcomes, family, setup).flatMap(rowsOf);
              const before = await ledger.of({ skus: rows.map(({ sku }) => sku), state: against });
              for (const row of rows) {
                going.add(row.sku, 1);
                if (!isMeant(row, choice, channel)) continue;
                const listing = before.get(row.sku)?.listing;
                tell(differenceOf(row, listing?.withdrawn === true ? undefined : listing, setup.definition));
              }
            },
          },
        ],
        { choice },
      );
      for await (const batch of ledger.entries(against))
        for (const { sku, listing } of batch) {
          if (listing.withdrawn === true || going.has(sku) || !choice.isMeant({ sku }, channel)) continue;
          found.counts.ended++;
          if (options.json) io.out(jsonLine({ type: "difference", channel, kind: "not in it", sku }));
          else if (rows.length < limit) rows.push([sku, "", "listed", "not in the file"]);
        }
      const { fresh, ...others } = found.counts;
      if (options.json)
        io.out(
          jsonLine({
            type: "diff",
            channel,
            against,
            new: fresh,
            ...others,
            fields: Object.fromEntries(found.fields),
          }),
        );
      else io.out(`${report(setup.definition.label, against, found, rows, io).join("\n")}\n`);
      return 0;
    });
  },
});

/** A group's own row goes where any of its members is meant. */
const isMeant = (row: FileRow, choice: Choice, channel: string): boolean =>
  row.kind === "group" || choice.isMeant(row, channel);

/** A difference for programs: of a field with several values all of them. */
function differenceJson(difference: Difference, { channel, definition }: ChannelSetup): string {
  const valueOf = (code: string, text: string): unknown =>
    fieldNamed(definition, code)?.list === true ? itemsOf(text) : text;
  const { kind, sku } = difference;
  const changes =
    difference.kind === "changed"
      ? {
          changes: difference.changes.map(({ field, before, after }) => ({
            field,
            before: valueOf(field, before),
            after: valueOf(field, after),
          })),
        }
      : {};
  return jsonLine({ type: "difference", channel, kind, sku, ...changes });
}

function count({ counts, fields }: FoundChange, difference: Difference): void {
  if (difference.kind === "new") counts.fresh++;
  if (difference.kind === "same") counts.same++;
  if (difference.kind !== "changed") return;
  counts.changed++;
  for (const { field } of difference.changes) fields.set(field, (fields.get(field) ?? 0) + 1);
}

const shown = (text: string): string => (text === "" ? "blank" : shownItems(text, " | "));

function cellsOf(difference: Difference): readonly (readonly string[])[] {
  if (difference.kind === "new") return [[difference.sku, "", "not listed", "new"]];
  if (difference.kind === "same") return [];
  return difference.changes.map(({ field, before, after }, index) => [
    index === 0 ? difference.sku : "",
    field,
    shown(before),
    shown(after),
  ]);
}

const columns = [
  { title: "sku" },
  { title: "field" },
  { title: "was", flexible: true },
  { title: "becomes", flexible: true },
] as const;

function report(
  label: string,
  against: LedgerState,
  { counts, fields }: FoundChange,
  rows: readonly (readonly string[])[],
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const { fresh, changed, same, ended } = counts;
  if (fresh + changed + ended === 0)
    return [`${style.bold(label)}: a full build holds what was ${against}, ${countText(same, "row")}.`];
  const [head = "", ...lines] = tableLines(columns, rows, io);
  const all = fresh + ended + [...fields.values()].reduce((sum, number) => sum + number, 0) - rows.length;
  const most = [...fields].sort((a, b) => b[1] - a[1]).slice(0, 6);
  return [
    `${style.bold(label)}, against what was ${against}: ${changed.toLocaleString("en")} changed, ${fresh.toLocaleString("en")} new, ${ended.toLocaleString("en")} not in it any more, ${same.toLocaleString("en")} as before`,
    ...(most.length === 0
      ? []
      : [`by field: ${most.map(([field, number]) => `${field} ${number.toLocaleString("en")}`).join(", ")}`]),
    style.bold(head),
    ...lines,
    ...(all > 0 ? [style.dim(`and ${all.toLocaleString("en")} more (--limit)`)] : []),
  ];
}
