/** How a channel shows a field, held against a value of ours in the channel's own cells. */
import { groupFieldOf } from "../../core/channel/group-model.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import type { Alteration, LiveLayout } from "../../core/channel/exchange-definition.js";
import type { Field } from "../../core/channel/field.js";
import type { LayoutColumn, LayoutDefinition } from "../../core/channel/layout-definition.js";
import { recordFormat } from "../../core/channel/record-format.js";
import { listText } from "../../core/catalogue/list-text.js";
import { ownOf } from "../../core/own.js";
import { liveValue, type LiveListing } from "../../core/listing/live-listing.js";
import { sameBut } from "../../core/values/altered.js";
import { currencyOf } from "../../core/values/currencies.js";
import { readValue } from "../../core/values/read.js";
import { canonicalText } from "../../core/values/show.js";
import type { MaybeBlank } from "../../core/values/value.js";
import { textsInCell, textsOfValue } from "../../layouts/read-cell.js";

/** What an export says of a listing, by the layout's column names. */
export type LiveCells = Readonly<Record<string, string>>;

/** Reads and compares what an export says of one field. */
export interface LiveField {
  readonly field: Field;
  /** Whether it is about price or stock: what goes stale first. */
  readonly isOffer: boolean;
  /** Whether the export says just this, but for what the channel is known to alter. */
  isSame(cells: LiveCells, expected: LiveListing["values"]): boolean;
  /** What the export says, as the ledger keeps values; "" for nothing. */
  read(cells: LiveCells, like: LiveListing["values"]): string;
}

const currencyIn = (text: string | undefined): string | undefined => / ([A-Z]{3})$/.exec(text ?? "")?.[1];

/** What a column's cell says, of a tree or a table alike; spaces at its ends are nobody's. */
const textsIn = (cells: LiveCells, column: LayoutColumn, layout: LayoutDefinition): readonly string[] =>
  textsInCell((ownOf(cells, column.name) ?? "").trim(), column, layout);

const spaced = (texts: readonly string[]): readonly string[] =>
  texts.map((text) => text.replace(/\s+/gu, " ").trim());

function readText(
  text: string,
  { field, columns, definition, layout }: Tools,
  like: string | undefined,
): string {
  const [first] = columns;
  // Without a currency or unit beside it the number is in that of what was sent.
  const currency =
    currencyIn(like) ?? (currencyOf([], definition.currencies[0]) as { currency?: string }).currency;
  const unit = first?.part === "amount" && field.unit !== undefined ? field.unit.code : undefined;
  const reading = readValue(field.kind, text, {
    decimalMark: layout.style.decimalMark,
    ...(currency === undefined ? {} : { currency }),
    ...(unit === undefined ? {} : { unit }),
  });
  return "value" in reading ? canonicalText(reading.value) : text;
}

interface Tools {
  readonly field: Field;
  readonly columns: readonly LayoutColumn[];
  readonly definition: ChannelDefinition;
  readonly layout: LayoutDefinition;
}

/** The fields that an export has columns for, and how each is read. */
export function liveFields(
  definition: ChannelDefinition,
  layout: LayoutDefinition,
  live: LiveLayout,
): readonly LiveField[] {
  const offers = new Set<string>(
    definition.purposeRules
      .filter(({ purpose }) => purpose === "offer" || purpose === "stock")
      .flatMap(({ must, may }) => [...must, ...may]),
  );
  const price = definition.roles.price?.code;
  const groupField = groupFieldOf(definition.groups);
  const byField = new Map<Field, LayoutColumn[]>();
  for (const column of layout.columns)
    byField.set(column.field, [...(byField.get(column.field) ?? []), column]);
  return [...byField].flatMap(([field, columns]): readonly LiveField[] => {
    // What tells which listing it is cannot differ; to which group it belongs its place says.
    if (field.code === definition.identifiedBy || field.code === groupField) return [];
    const ways = new Set<Alteration>([...(live.alters["*"] ?? []), ...(live.alters[field.code] ?? [])]);
    const tools: Tools = { field, columns, definition, layout };
    const { isOneLine } = recordFormat(live.format);
    const same = (own: readonly string[], other: readonly string[]): boolean =>
      isOneLine ? sameBut(ways, spaced(own), spaced(other)) : sameBut(ways, own, other);
    const read = (cells: LiveCells, like: LiveListing["values"]): string => {
      const whole = columns.filter(({ part }) => part === "whole" || part === "amount");
      const items = whole.flatMap((column) => textsIn(cells, column, layout));
      if (items.length === 0) return "";
      if (field.list) return listText(items.map((item) => readText(item, tools, undefined)));
      const more = columns
        .filter(({ part }) => part === "currency" || part === "unit")
        .flatMap((column) => textsIn(cells, column, layout));
      return readText([items[0] ?? "", ...more].join(" "), tools, ownOf(like, field.code));
    };
    return [
      {
        field,
        isOffer: field.code === price || offers.has(field.code),
        isSame(cells, expected) {
          const value: MaybeBlank = liveValue({ values: expected }, field);
          const isAsWritten = columns.every((column) =>
            same(textsIn(cells, column, layout), textsOfValue(value, column, layout)),
          );
          return isAsWritten || read(cells, expected) === (ownOf(expected, field.code) ?? "");
        },
        read,
      },
    ];
  });
}
