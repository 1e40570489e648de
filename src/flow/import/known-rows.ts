/** Rows of a source's last delivery that need not be read again. */
import { mkdir } from "node:fs/promises";
import { dirname, join } from "node:path";
import type { RowHash } from "../../core/catalogue/row-hash.js";
import { RowGatherer, rowsOf, type KeptRows } from "../../core/catalogue/row-table.js";
import type { RowReading } from "../../core/catalogue/row-reader.js";
import type { TableStream } from "../../formats/table-stream.js";
import type { CatalogueState, Store } from "../../store/store.js";
import type { Source } from "../../workspace/source-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import { builtFrom } from "../../workspace/version.js";
import { createFramed, openFramed, orNothing } from "../parts/framed-file.js";
import { workMark } from "../parts/work-mark.js";
import type { ChosenSource } from "./choose-source.js";

/**
 * Rows of a source's last delivery that need not be read again: each came just so, nothing was to be told of it, and of its
 * product nothing changed since. It is nothing but a cache: where it cannot be written or read, every row is read.
 */
export interface KnownRows {
  /** Those of the last delivery; undefined where there are none. */
  readonly before: KeptRows | undefined;
  /** Notes that a row came, which says all that there is to know of its product from this source. */
  note(row: RowHash, product: number): void;
  /** To be asked when the delivery is whole in the catalogue: gives what keeps it for the next one, once it has landed. */
  end(): Promise<() => Promise<void>>;
}

interface AboutRows {
  readonly mark: string;
  readonly state: CatalogueState;
}

/** Whether a row says all of its product, but for further rows below it, and finds it by its SKU alone. */
const isPlain = (
  { groups, pairs, keys, gathers, marks }: RowReading,
  { settings }: Source,
  { headerGrows }: TableStream,
): boolean =>
  groups.layout === "rows" &&
  gathers === undefined &&
  marks === undefined &&
  pairs.length === 0 &&
  keys.length === 1 &&
  keys[0] === "sku" &&
  settings.mode !== "add" &&
  !headerGrows;

/** All that says how a row is read, beside the row: the file's own marks too, which its first rows show. */
function markOf(
  workspace: Workspace,
  { table, source }: Pick<ChosenSource, "table" | "source">,
  reading: RowReading,
  further: object,
): string {
  const { columns, decimalMark, openMarks, dateOrder, currency, currencies } = reading;
  return workMark(workspace, [], {
    work: "import",
    program: builtFrom(),
    source: source.yaml.text,
    header: table.header,
    format: table.format,
    decimalMark,
    openMarks,
    kinds: columns.map(({ attribute }) => workspace.kindOf(attribute)),
    dateOrder,
    currency,
    currencies,
    days: columns.map(({ areDays }) => areDays),
    ...further,
  });
}

async function loaded(
  path: string,
  mark: string,
): Promise<(AboutRows & { readonly rows: KeptRows }) | undefined> {
  const file = await openFramed(path);
  if (file === undefined) return undefined;
  try {
    const about = file.about as AboutRows;
    if (about.mark !== mark) return undefined;
    for await (const rows of file.values()) return { ...about, rows: rows as KeptRows };
    return undefined;
  } finally {
    await file.close();
  }
}

/** What is known of the rows of a source's file; undefined where they depend on each other. */
export async function knownRows(
  { workspace, store }: { readonly workspace: Workspace; readonly store: Store },
  chosen: Pick<ChosenSource, "table" | "source" | "from">,
  reading: RowReading,
  further: object,
  /** Its number among the files that the source reads in this act: names of files have days in them. */
  turn: number,
): Promise<KnownRows | undefined> {
  const { table, source, from } = chosen;
  if (from.kind === "sheet" || !isPlain(reading, source, table)) return undefined;
  // Apart from what checks keep, of which only the newest stays.
  const folder = join(dirname(workspace.storePath), "kept", "rows");
  const path = join(folder, `${source.name}-${turn}`);
  const mark = markOf(workspace, chosen, reading, further);
  const before = await orNothing(loaded(path, mark));
  const touched = before === undefined ? undefined : await store.productsSince(before.state);
  const now = new RowGatherer();
  return {
    before:
      before === undefined || touched === undefined
        ? undefined
        : rowsOf(before.rows, (product) => !touched.has(product)),
    note: (hash, product) => now.add(hash, product),
    async end() {
      // As it is now: what the same act changes behind this file is a change since.
      const about: AboutRows = { mark, state: await store.state() };
      return async () => {
        await orNothing(
          (async () => {
            await mkdir(folder, { recursive: true });
            const file = await createFramed(path);
            await file.add(now.take());
            await file.finish(about);
          })(),
        );
      };
    },
  };
}
