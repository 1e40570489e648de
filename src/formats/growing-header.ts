import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { LIST_SEPARATOR } from "../core/catalogue/record.js";
import { COLUMN_LIMIT } from "./table-stream.js";

/** Columns of a format without a header row: each path gets a column when a record first has it. */
export interface GrowingHeader {
  readonly names: readonly string[];
  /** The column of a path, which a record may have yet to bring. */
  expect(path: string): number;
  /** Expected paths that no record brought. */
  unseen(): readonly string[];
  /** Adds a value to the record under way; a second one of the same path makes a list. */
  add(path: string, text: string): void;
  /** The record's cells; the next record begins. */
  take(): readonly string[];
}

export const growingHeader = (file: string): GrowingHeader => {
  const names: string[] = [];
  const slots = new Map<string, number>();
  const filled = new Set<number>();
  let cells: string[] = [];
  const slotOf = (path: string): number => {
    const known = slots.get(path);
    if (known !== undefined) return known;
    if (names.length >= COLUMN_LIMIT)
      throw new Refusal([diagnostic("too-many-columns", { limit: COLUMN_LIMIT }, { place: { file } })]);
    slots.set(path, names.length);
    return names.push(path) - 1;
  };
  return {
    names,
    expect: slotOf,
    unseen: () => names.filter((_, slot) => !filled.has(slot)),
    add(path, text) {
      const slot = slotOf(path);
      filled.add(slot);
      while (cells.length <= slot) cells.push("");
      const before = cells[slot] ?? "";
      cells[slot] = before === "" ? text : `${before}${LIST_SEPARATOR}${text}`;
    },
    take() {
      const taken = cells;
      while (taken.length < names.length) taken.push("");
      cells = [];
      return taken;
    },
  };
};
