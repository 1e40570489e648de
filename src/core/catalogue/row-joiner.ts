/**
 * Joins rows that stand beside each other and are of one product. It waits one record, since the next row may add to
 * it.
 */
import { itemsOf } from "./list-text.js";
import type { Diagnostic } from "../diagnostics/diagnostic.js";
import type { Doubt } from "./cell-reader.js";
import { CLEARED, isUnread, LIST_SEPARATOR } from "./record.js";
import type { ReadRow, RowReading } from "./row-reader.js";

/** A record for the store: a product's or a group's own, with the row it begins in, and that row as whoever gave it has it. */
export interface JoinedRecord<Row> {
  readonly from: Row;
  readonly kind: "product" | "group";
  readonly row: number;
  readonly texts: readonly string[];
  readonly findings: readonly Diagnostic[];
  readonly doubts: readonly Doubt[];
  /** Whether rows below it added to it. */
  readonly hasFurther?: boolean;
}

/** Joins rows that belong to one product or group. It waits one record, since the next row may add to it. */
export interface RowJoiner<Row> {
  /** Takes a row; gives the records that are complete now. */
  push(row: Extract<ReadRow, { texts: unknown }>, from: Row): readonly JoinedRecord<Row>[];
  end(): readonly JoinedRecord<Row>[];
}

type Mutable<Row> = { -readonly [K in keyof JoinedRecord<Row>]: JoinedRecord<Row>[K] };

const appended = (texts: readonly string[], added: readonly string[]): readonly string[] =>
  Array.from({ length: Math.max(texts.length, added.length) }, (_, at) => {
    const [before = "", text = ""] = [texts[at], added[at]];
    if (text === "" || text === CLEARED || isUnread(text)) return before;
    const items = new Set([...itemsOf(isUnread(before) ? "" : before), ...itemsOf(text)]);
    return [...items].filter(Boolean).join(LIST_SEPARATOR);
  });

/** Begins to join the rows of one file. */
export function rowJoiner<Row>(
  { groups, keys, furtherRowsAdd }: RowReading,
  attributes: readonly { readonly attribute: string }[],
): RowJoiner<Row> {
  const groupAt = attributes.findIndex(({ attribute }) => attribute === "group");
  const skuAt = attributes.findIndex(({ attribute }) => attribute === "sku");
  let product: Mutable<Row> | undefined;
  let group: Mutable<Row> | undefined;
  let groupName = "";
  const flush = (withGroup: boolean): readonly JoinedRecord<Row>[] => {
    const done = [
      ...(withGroup && group !== undefined ? [group] : []),
      ...(product === undefined ? [] : [product]),
    ];
    product = undefined;
    if (withGroup) group = undefined;
    return done;
  };
  const isShared = (at: number): boolean =>
    groups.layout === "first-row" && groups.shared.has(attributes[at]?.attribute ?? "");

  const further = ({ texts }: Extract<ReadRow, { texts: unknown }>): void => {
    const keyed = new Set(keys);
    const own = texts.map((text, at) =>
      keyed.has(attributes[at]?.attribute ?? "") || at === groupAt ? "" : text,
    );
    const sharedPart = own.map((text, at) => (group !== undefined && isShared(at) ? text : ""));
    const productPart = own.map((text, at) =>
      sharedPart[at] === "" && furtherRowsAdd.has(attributes[at]?.attribute ?? "") ? text : "",
    );
    if (group !== undefined) group.texts = appended(group.texts, sharedPart);
    if (product === undefined) return;
    product.hasFurther = true;
    product.texts = appended(product.texts, productPart);
  };

  /** Splits a group's first row: what members share becomes the group's own record. */
  const openGroup = (row: Mutable<Row>, name: string): void => {
    groupName = name;
    const texts = row.texts.map((text, at) => (isShared(at) || at === groupAt ? text : ""));
    group = { kind: "group", row: row.row, from: row.from, texts, findings: [], doubts: [] };
    row.texts = row.texts.map((text, at) => (isShared(at) ? "" : text));
  };

  return {
    push(read, from) {
      if (read.kind === "further") {
        further(read);
        return [];
      }
      const { kind, texts, findings, doubts } = read;
      const row: Mutable<Row> = { kind, row: read.row, from, texts, findings, doubts };
      const name = groupAt < 0 ? "" : (texts[groupAt] ?? "");
      if (kind === "group") {
        // A group's own row names the group by its key where it has no column for it.
        const named = name === "" ? (texts[skuAt] ?? "") : name;
        row.texts = texts.map((text, at) => (at === skuAt ? "" : at === groupAt ? named : text));
        return [...flush(true), row];
      }
      const startsGroup = groups.layout === "first-row" && name !== "" && name !== groupName;
      const done = flush(name !== groupName);
      if (startsGroup) openGroup(row, name);
      else if (name === "") groupName = "";
      product = row;
      return done;
    },
    end: () => flush(true),
  };
}
