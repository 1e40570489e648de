/** Records of trees as a table, columns found by the first of them. */
import { addAll } from "../core/many.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { listText } from "../core/catalogue/list-text.js";
import { leavesOf } from "../core/records/leaves.js";
import type { RecordNode } from "../core/records/node.js";
import { recordPath, type RecordPath } from "../core/records/path.js";
import { refuseLongNames, type Format, type TableRecord, type TableStream } from "./table-stream.js";

const SAMPLE = 1000;
// So many records wait at most for what stands behind them in the file.
const WAITING_LIMIT = 50_000;

/** A record as it comes out of a file: its tree, or why it cannot be trusted. */
export interface TreeRecord {
  /** Its line, where the format has one a record; else records are counted. */
  readonly row?: number;
  readonly tree: RecordNode | undefined;
  readonly fault?: Diagnostic;
}

interface RecordColumn {
  readonly path: RecordPath | undefined;
  isAsked: boolean;
  wasSeen: boolean;
}

// Each column is looked for in each record: trees of more are none of goods.
const PATH_LIMIT = 4096;

/** Columns of records without a header: paths that the first of them have, and those that are asked for. */
class PathColumns {
  readonly names: string[] = [];
  private readonly slots = new Map<string, number>();
  private readonly columns: RecordColumn[] = [];
  private asked: { readonly slot: number; readonly path: RecordPath }[] = [];
  private leadingOut: RecordPath[] = [];

  constructor(
    private readonly file: string,
    private readonly format: Format,
  ) {}

  slotOf(name: string): number {
    const known = this.slots.get(name);
    if (known !== undefined) return known;
    if (this.names.length >= PATH_LIMIT)
      throw new Refusal([
        diagnostic("too-many-columns", { limit: PATH_LIMIT }, { place: { file: this.file } }),
      ]);
    refuseLongNames([name], this.file);
    this.slots.set(name, this.names.length);
    this.columns.push({ path: recordPath(this.written(name)), isAsked: false, wasSeen: false });
    return this.names.push(name) - 1;
  }

  /** Sources of before name JSON's inner values with points. */
  private written(name: string): string {
    return this.format === "xml" || name.includes("/") ? name : name.replace(/(?<=[^./])\.(?=[^./])/g, "/");
  }

  ask(name: string): number | undefined {
    const alike = this.slots.has(name) ? name : this.written(name);
    const slot = this.slotOf(alike);
    const column = this.columns[slot];
    if (column?.path === undefined) return undefined;
    if (!column.isAsked) {
      column.isAsked = true;
      this.asked.push({ slot, path: column.path });
      if (column.path.leadsOut) this.leadingOut.push(column.path);
    }
    return slot;
  }

  unseen(): readonly string[] {
    return this.names.filter(
      (_, slot) => this.columns[slot]?.isAsked === true && !this.columns[slot].wasSeen,
    );
  }

  leadsOut(): boolean {
    return this.leadingOut.length > 0;
  }

  isSettled(tree: RecordNode): boolean {
    return this.leadingOut.every((path) => path.isSettled(tree));
  }

  /** The cells of those columns that are asked for; of all, as long as none is. */
  cells(tree: RecordNode): readonly string[] {
    if (this.asked.length === 0) return this.allCells(tree);
    const cells = new Array<string>(this.names.length).fill("");
    for (const { slot, path } of this.asked) cells[slot] = this.cellOf(path, tree);
    this.see(cells);
    return cells;
  }

  allCells(tree: RecordNode): readonly string[] {
    const cells = this.columns.map(({ path }) => (path === undefined ? "" : this.cellOf(path, tree)));
    this.see(cells);
    return cells;
  }

  private see(cells: readonly string[]): void {
    cells.forEach((cell, slot) => {
      const column = this.columns[slot];
      if (cell !== "" && column !== undefined) column.wasSeen = true;
    });
  }

  /** Several values keep the places of those that are blank. */
  private cellOf(path: RecordPath, tree: RecordNode): string {
    const values = path.valuesIn(tree);
    if (values.length < 2) return values[0] ?? "";
    const texts = values.map((value) => value ?? "");
    const filled = texts.filter(Boolean);
    if (filled.length === 0) return "";
    return listText(texts);
  }
}

/** The place of a record in an element that holds none. */
const isHolder = ({ text, children }: RecordNode): boolean => text === undefined && children.length === 0;

/** A table of records without a header row: enough are read to know their columns, the rest come as they are asked for. */
export async function structuredTable(
  file: string,
  format: Format,
  records: AsyncGenerator<readonly TreeRecord[]>,
  told: () => readonly string[],
  path?: string,
): Promise<TableStream> {
  const waiting: TreeRecord[] = [];
  const reading = { isOver: false };
  const pull = async (): Promise<void> => {
    const step = await records.next();
    if (step.done === true) reading.isOver = true;
    else addAll(waiting, step.value);
  };
  while (waiting.length < SAMPLE && !reading.isOver) await pull();
  if (waiting.length === 0)
    throw new Refusal([diagnostic("no-records", { path: file, format: format.toUpperCase() })]);
  const columns = new PathColumns(file, format);
  const sampled = waiting.slice();
  for (const { tree } of sampled)
    if (tree !== undefined) for (const { path } of leavesOf(tree)) columns.slotOf(path);
  /** What holds no records of its own is one only to a source that reads what stands above them. */
  const counts = ({ tree }: TreeRecord): boolean =>
    tree === undefined || columns.leadsOut() || !isHolder(tree);
  const asRecord = ({ row: line, tree, fault }: TreeRecord, number: number): TableRecord => {
    const row = line ?? number;
    const cells = tree === undefined ? [] : columns.cells(tree);
    if (fault !== undefined) return { row, cells, fault };
    return { row, cells, whole: () => (tree === undefined ? [] : columns.allCells(tree)) };
  };
  async function* batches(): AsyncGenerator<readonly TableRecord[]> {
    for (let number = 0; ;) {
      const ready = waiting.findIndex(
        ({ tree }) =>
          tree !== undefined && !reading.isOver && waiting.length < WAITING_LIMIT && !columns.isSettled(tree),
      );
      const taken = waiting.splice(0, ready < 0 ? waiting.length : ready);
      const counted = taken.filter(counts);
      if (counted.length > 0) yield counted.map((record) => asRecord(record, ++number));
      if (reading.isOver && waiting.length === 0) return;
      if (!reading.isOver) await pull();
    }
  }
  return {
    file,
    format,
    header: columns.names,
    headerGrows: true,
    column: (name) => columns.ask(name),
    unseen: () => columns.unseen(),
    headerRow: 0,
    get sample() {
      return sampled.filter(counts).map((record, at) => asRecord(record, at + 1));
    },
    trees: sampled.flatMap(({ tree }) => (tree === undefined || isHolder(tree) ? [] : [tree])),
    ...(path === undefined ? {} : { records: path }),
    batches: batches(),
    told,
  };
}
