/** The columns of a revision's records. */
import type Database from "better-sqlite3";
import type { GrowingIndex } from "../../core/catalogue/attribute-index.js";
import { CLEARED, isUnread, RETRACTED, SAME } from "../../core/catalogue/record.js";
import { TextPicker, type RecordTexts } from "../../core/catalogue/stored-texts.js";
import { slotOfGroup } from "./revisions.js";
import type { IncomingRecord, PlannedColumn, RevisionPlan } from "../store.js";

/** The order in which a revision's texts are stored; it only grows. */
export interface RevisionColumns {
  readonly all: readonly PlannedColumn[];
  readonly slots: readonly number[];
  /** The same of a group's own record: see {@link Revision}. */
  readonly slotsOfGroup: readonly number[];
  add(column: PlannedColumn): void;
  positionOf(attribute: string): number | undefined;
  /** Whether an attribute has one text of any content, so that a number in it is a name of something. */
  isPlainText(attribute: string): boolean;
  textAt(texts: readonly string[], attribute: string): string | undefined;
  /** The same of a record whose other texts nobody may need. */
  textOf(record: RecordTexts, attribute: string): string | undefined;
  /** A record in the order of the plan, brought into the revision's own. */
  inOrder(record: IncomingRecord): IncomingRecord;
}

/** Whether a text holds a value, rather than nothing or a word of the store's own. */
export function isSaid(text: string | undefined): text is string {
  return (
    text !== undefined &&
    text !== "" &&
    text !== CLEARED &&
    text !== RETRACTED &&
    text !== SAME &&
    !isUnread(text)
  );
}

/** A column of another channel's revision. */
const NOT_HERE = -1;

/** Starts with the plan's columns; rows may bring attributes that no row before them had, and a plan's list grows then. */
export function revisionColumns(
  database: Database.Database,
  attributes: GrowingIndex,
  { columns: planned, keys, channel }: Pick<RevisionPlan, "columns" | "keys" | "channel">,
): RevisionColumns {
  const all: PlannedColumn[] = [];
  const slots: number[] = [];
  const slotsOfGroup: number[] = [];
  const picker = new TextPicker();
  const at = new Map<string, number>();
  const addAttribute = database.prepare(
    "INSERT OR IGNORE INTO attribute (slot, name) VALUES ((SELECT count(*) FROM attribute), ?)",
  );
  const add = (column: PlannedColumn): number => {
    const known = at.get(column.attribute);
    if (known !== undefined) return known;
    addAttribute.run(column.attribute);
    const slot = attributes.slotFor(column.attribute);
    slots.push(slot);
    slotsOfGroup.push(slotOfGroup(column, slot));
    at.set(column.attribute, all.length);
    return all.push(column) - 1;
  };
  const finds = new Set(["sku", "group", ...keys]);
  const isOwn = (column: PlannedColumn): boolean =>
    column.channel === channel || (column.channel === undefined && finds.has(column.attribute));
  const addOwn = (column: PlannedColumn): number => (isOwn(column) ? add(column) : NOT_HERE);
  let order = planned.map(addOwn);
  const areSame = (): boolean => order.every((index, position) => index === position);
  let isOwnOrder = areSame();
  return {
    all,
    slots,
    slotsOfGroup,
    add,
    positionOf: (attribute) => at.get(attribute),
    isPlainText(attribute) {
      const { kind, list } = attributes.kindOf(attribute);
      return kind === "text" && !list;
    },
    textAt(texts, attribute) {
      const index = at.get(attribute);
      return index === undefined ? undefined : texts[index];
    },
    textOf(record, attribute) {
      const index = at.get(attribute);
      return index === undefined ? undefined : picker.at(record, index);
    },
    inOrder(record) {
      if (order.length < planned.length) {
        order = planned.map(addOwn);
        isOwnOrder = areSame();
      }
      if (isOwnOrder) return record;
      const { kind, row, texts, doubts } = record;
      const own: string[] = [];
      texts.forEach((text, position) => {
        const index = order[position] ?? position;
        if (index === NOT_HERE) return;
        while (own.length <= index) own.push("");
        own[index] = text;
      });
      return { kind, row, texts: own, doubts };
    },
  };
}
