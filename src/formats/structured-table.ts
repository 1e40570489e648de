import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { GrowingHeader } from "./growing-header.js";
import type { Format, TableRecord, TableStream } from "./table-stream.js";

const SAMPLE = 1000;

/** A table of records without a header row: enough are read to know their columns, the rest come as they are asked for. */
export const structuredTable = async (
  file: string,
  format: Format,
  header: GrowingHeader,
  records: AsyncGenerator<readonly TableRecord[]>,
  told: () => readonly string[],
): Promise<TableStream> => {
  const sample: TableRecord[] = [];
  while (sample.length < SAMPLE) {
    const step = await records.next();
    if (step.done === true) break;
    sample.push(...step.value);
  }
  if (sample.length === 0)
    throw new Refusal([diagnostic("no-records", { path: file, format: format.toUpperCase() })]);
  async function* batches(): AsyncGenerator<readonly TableRecord[]> {
    yield sample;
    yield* records;
  }
  return {
    file,
    format,
    header: header.names,
    headerGrows: true,
    column: header.expect,
    unseen: header.unseen,
    headerRow: 0,
    sample,
    batches: batches(),
    told,
  };
};
