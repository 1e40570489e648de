import { shownItems } from "../core/catalogue/list-text.js";
import { command } from "./command.js";
import { flag, named } from "./options/option.js";
import type { Product } from "../core/catalogue/product.js";
import { CLEARED, isUnread, RETRACTED, writtenIn } from "../core/catalogue/record.js";
import { placeText } from "../core/diagnostics/place.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { wrapText } from "../report/text-width.js";
import { tableLines } from "../report/table.js";
import type { PastOpinion, Store } from "../store/store.js";
import type { CommandFile } from "./command-file.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import { refuseUnused, unknownSku } from "../flow/refusals.js";
import { refuseIdle } from "./options/refuse-idle.js";
import { productJson } from "../report/product-json.js";

const ATTRIBUTE_WIDTH = 20;

/** `lexicant show SKU`: one product with each value's layer, file, row and column. */
export const show: CommandFile = command({
  args: [["<sku>", "the product's SKU"]],
  options: {
    history: flag("--history", "all that files and edits ever said of it"),
    channel: named("--channel <name>", "as this channel is to see it"),
  },
  examples: [
    ["show BC-1301-WHITE-M", "each value with its file, row and column"],
    ["show BC-1301-WHITE-M --history", "all that was ever said of it"],
  ],
  async run({ given, args, options, io }) {
    const [sku = ""] = args;
    return withCatalogue(options.workspace, io, async ({ workspace, store }) => {
      refuseUnused(given.channel, workspace);
      refuseIdle([[given.channel !== undefined && given.history, "--channel", "values, not with --history"]]);
      if (given.history) {
        const opinions = await store.opinions(sku);
        if (opinions.length > 0) {
          if (options.json)
            for (const opinion of opinions) io.out(jsonLine({ type: "opinion", sku, ...opinion }));
          else io.out(`${historyLines(sku, opinions, io).join("\n")}\n`);
          return 0;
        }
      }
      const product = await store.product(sku, given.channel);
      if (product === undefined) throw new Refusal([await unknownSku(sku, store)]);
      if (options.json) {
        io.out(
          jsonLine({
            ...productJson(product),
            from: Object.fromEntries(values(product, store).map(({ name, from }) => [name, from])),
            unread: unreadCells(product, store).map(({ name, text, from }) => ({
              attribute: name,
              text,
              from,
            })),
          }),
        );
        return 0;
      }
      const siblings = product.group === undefined ? [] : await store.groupMembers(product.group);
      io.out(`${lines(product, store, siblings, io).join("\n")}\n`);
      return 0;
    });
  },
});

const historyColumns = [
  { title: "attribute" },
  { title: "value", flexible: true },
  { title: "revision", align: "right" },
  { title: "said by", flexible: true },
  { title: "" },
] as const;

/** Every opinion about a product, by attribute, latest first. */
function historyLines(sku: string, opinions: readonly PastOpinion[], io: Io): readonly string[] {
  const byAttribute = new Map<string, PastOpinion[]>();
  for (const opinion of opinions)
    byAttribute.set(opinion.attribute, [...(byAttribute.get(opinion.attribute) ?? []), opinion]);
  const rows = [...byAttribute.values()].flatMap((all) =>
    all.map(({ attribute, text, revision, place, undone }, index) => [
      index === 0 ? attribute : "",
      pastText(text),
      String(revision),
      `${place.layer}: ${placeText(place)}`,
      undone ? "undone" : "",
    ]),
  );
  const [head = "", ...lines] = tableLines(historyColumns, rows, io);
  return [
    `${styleFor(io).bold(sku)}: all that was said of it, latest first`,
    styleFor(io).bold(head),
    ...lines,
  ];
}

function pastText(text: string): string {
  if (isUnread(text)) return `(not read) ${writtenIn(text)}`;
  if (text === CLEARED) return "(none)";
  return text === RETRACTED ? "(taken back)" : shownItems(text, ", ").replace(/\s+/g, " ");
}

interface ShownValue {
  readonly name: string;
  readonly text: string;
  readonly from: ReturnType<Store["placeOf"]> | undefined;
}

const values = (product: Product, store: Store): readonly ShownValue[] =>
  product.attributes.names.flatMap((name, slot) => {
    const text = product.text(slot);
    const origin = product.origin(slot);
    return text === undefined
      ? []
      : [{ name, text, from: origin === undefined ? undefined : store.placeOf(origin, name) }];
  });

/** Cells that would stand above the values shown, and that could not be read. */
const unreadCells = (product: Product, store: Store): readonly ShownValue[] =>
  product.attributes.names.flatMap((name, slot) => {
    const cell = product.unread(slot);
    return cell === undefined ? [] : [{ name, text: cell.written, from: store.placeOf(cell.origin, name) }];
  });

/** Who said it: a layer's file, or the parts that a bundle's stock follows from. */
const sayer = (from: NonNullable<ShownValue["from"]>): string =>
  from.layer === "" ? `follows from ${from.file}` : `${from.layer}: ${placeText(from)}`;

const unreadLines = (cells: readonly ShownValue[], io: Io): readonly string[] =>
  cells.length === 0
    ? []
    : [
        "",
        styleFor(io).severity("warning", "Could not be read, and counts for nothing:"),
        ...cells.flatMap(({ name, text, from }) => [
          `${styleFor(io).bold(name.padEnd(ATTRIBUTE_WIDTH))} ${shownItems(text, ", ")}`,
          `${" ".repeat(ATTRIBUTE_WIDTH)} ${styleFor(io).dim(from === undefined ? "" : sayer(from))}`,
        ]),
      ];

function lines(product: Product, store: Store, siblings: readonly string[], io: Io): readonly string[] {
  const style = styleFor(io);
  const shown = values(product, store);
  const title = shown.find(({ name }) => name === "name")?.text ?? "";
  const origins = new Set(
    shown.map(({ from }) =>
      from === undefined ? "" : `${from.layer}: ${from.file}, row ${from.row ?? "?"}`,
    ),
  );
  const single = origins.size === 1;
  const width = Math.max(30, io.columns - ATTRIBUTE_WIDTH - 1);
  const rows = shown.flatMap(({ name, text, from }) => {
    const place = from === undefined ? "" : single ? `column "${from.column ?? ""}"` : sayer(from);
    const [first = "", ...rest] = wrapText(shownItems(text, "\n"), width);
    return [
      `${style.bold(name.padEnd(ATTRIBUTE_WIDTH))} ${first}`,
      ...rest.map((line) => `${" ".repeat(ATTRIBUTE_WIDTH)} ${line}`),
      `${" ".repeat(ATTRIBUTE_WIDTH)} ${style.dim(place)}`,
    ];
  });
  return [
    `${style.bold(product.sku)}  ${title}`,
    ...(siblings.length > 1
      ? [
          style.dim(
            `one of ${countText(siblings.length, "member")} of ${product.group ?? ""}: ${siblings.slice(0, 6).join(", ")}${siblings.length > 6 ? ", …" : ""}`,
          ),
        ]
      : []),
    ...(single ? [style.dim(`all values from ${[...origins][0] ?? ""}`)] : []),
    "",
    ...rows,
    ...unreadLines(unreadCells(product, store), io),
  ];
}
