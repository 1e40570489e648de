/** In a worker: opens a file, reads batches as it is asked. */
import { rowReader, type RowReader } from "../../core/catalogue/row-reader.js";
import { fileSource } from "../../formats/byte-source.js";
import { openTable } from "../../formats/open-table.js";
import { sourceFromText } from "../../workspace/source-files.js";
import { readingFor } from "../../workspace/source-reading.js";
import { withKinds } from "../../workspace/own-kinds.js";
import { openWorkspace } from "../../workspace/workspace.js";
import { surroundingsIn } from "../workspace-store.js";
import type { Begun, Handed } from "../parts/worker-thread.js";
import { memoryOfPacked, packed, plainRow } from "../import/packed-batch.js";
import { readRows, type ReadBatch } from "../import/read-rows.js";
import {
  AHEAD,
  beginningOf,
  NEXT,
  type AskedRows,
  type ReadingRecipe,
  type SaidBatch,
} from "../import/rows-of-file.js";

/** Opens a file in a worker; each time that it is asked, the next batch is read. */
export async function readingBeside(recipe: ReadingRecipe): Promise<Begun> {
  const { root, today, path, known, isKept, options, hasTables } = recipe;
  const workspace = withKinds(await openWorkspace(root), recipe.kinds);
  const file = await fileSource(path, recipe.file);
  const source = await sourceFromText(recipe.source.name, recipe.source.text);
  const table = await openTable(file, options);
  /** What whoever asks knows of the attributes: how many there are, and the columns that they come from. */
  let attributes: readonly string[] = [];
  // Not before it is asked: a file that begins otherwise by now is not tied to what another was read by.
  const begin = async (): Promise<{ reader: RowReader; batches: AsyncGenerator<ReadBatch> }> => {
    const day = { today: { kind: "date", iso: today } } as const;
    const surroundings = hasTables ? await surroundingsIn(workspace, day) : day;
    const { reading } = readingFor(source, table, workspace, surroundings);
    const reader = rowReader(reading);
    attributes = reader.attributes.map(({ column }) => column);
    return { reader, batches: readRows({ table, reading, reader, known, isKept }) };
  };
  let begun: ReturnType<typeof begin> | undefined;
  let number = 0;
  const rows = new Map<number, ReadBatch["rowsAt"]>();
  const next = async (): Promise<Handed> => {
    const { reader, batches } = await (begun ??= begin());
    const step = await batches.next();
    const bytes = file.bytesRead();
    if (step.done === true) return { made: { told: table.told(), bytes } satisfies SaidBatch, memory: [] };
    const columns = reader.attributes.map(({ column }) => column);
    const isOther =
      columns.length > attributes.length || columns.some((column, at) => column !== attributes[at]);
    attributes = columns;
    rows.set(++number, step.value.rowsAt);
    // Whoever asks for the next ones has done with those before.
    rows.delete(number - AHEAD - 1);
    const batch = packed(step.value, isOther ? reader.attributes : []);
    const made: SaidBatch = { batch, number, told: table.told(), bytes };
    return { made, memory: memoryOfPacked(batch) };
  };
  const rowsOf = async ({ batch, records }: AskedRows): Promise<Handed> => {
    const found = (await rows.get(batch)?.(records)) ?? [];
    return { made: found.map(plainRow), memory: [] };
  };
  return {
    seen: beginningOf(table),
    work: (what) => (what === NEXT ? next() : rowsOf(what as AskedRows)),
    end: () => file.close(),
  };
}
