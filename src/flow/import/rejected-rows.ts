/** Rejected rows with their reasons, in files that can be corrected and imported again. */
import { createHash } from "node:crypto";
import { placeText } from "../../core/diagnostics/place.js";
import { sentence } from "../../workspace/wording.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { joinList, placesIn } from "../../core/catalogue/list-cell.js";
import { holdsSeveral, itemsOf, listText } from "../../core/catalogue/list-text.js";
import { csvLine } from "../../formats/csv-writer.js";
import type { TableRecord, TableStream } from "../../formats/table-stream.js";
import type { StagedFiles } from "../../workspace/landing/open-folders.js";
import type { StagedFile } from "../../workspace/landing/staged-file.js";
import type { WritableWorkspace } from "../open-catalogue.js";

/** The column with the reasons. */
export const REASON_COLUMN = "why rejected";

/** How a cell begins that holds several values, as records of XML and JSON have them: a table has no cell of that kind. */
const SEVERAL = "[several] ";
const BETWEEN = "|";

/** A cell as a table has it. */
const asWritten = (cell: string): string =>
  holdsSeveral(cell) ? SEVERAL + joinList(itemsOf(cell), BETWEEN) : cell;

/** A cell of rejected rows as it was before they were written. */
const asRead = (cell: string): string =>
  cell.startsWith(SEVERAL) ? listText(placesIn(cell.slice(SEVERAL.length), BETWEEN)) : cell;

/** The cells of a row as its file has them, or had them before it was rejected. */
export const cellsAsCame = (
  { cells }: TableRecord,
  { header }: Pick<TableStream, "header">,
): readonly string[] => (header[0] === REASON_COLUMN ? cells.map(asRead) : cells);

/** What is wrong with a row as it was written, so that it stays so until a person changes it. */
const ofTheRow: ReadonlySet<string> = new Set([
  "stray-quote",
  "swallowed-rows",
  "ragged-row",
  "broken-record",
  "repeated-key",
  "still-rejected",
]);

/** A mark of the row's cells: one that comes back with the same was not corrected. */
const markOf = (cells: readonly string[]): string =>
  `[row ${createHash("sha256").update(JSON.stringify(cells)).digest("hex").slice(0, 10)}]`;

/** A row of a rejected file that nobody changed since, where the fault is in the row itself. */
export function stillRejected(
  { row, cells }: TableRecord,
  { header, file }: Pick<TableStream, "header" | "file">,
): Diagnostic | undefined {
  if (header[0] !== REASON_COLUMN) return undefined;
  const [reason = "", ...own] = cells;
  const mark = / (\[row [0-9a-f]{10}\])$/.exec(reason);
  if (mark === null || mark[1] !== markOf(own)) return undefined;
  const shown = reason.slice(0, mark.index).replace(/^.*?, row \d+(?:, column "[^"]*")?: /, "");
  return diagnostic("still-rejected", { reason: shown }, { place: { file, row } });
}
/** Where files of rejected rows lie. */
export const REJECTED_FOLDER = ["out", "rejected"] as const;

/** Rejected rows with their reasons, in files of the same columns that can be corrected and imported again. */
export interface RejectedFiles {
  /** A file for the rows of one incoming file. */
  of(source: string, header: readonly string[]): RejectedRows;
  /** Ends the files; they come with all else. */
  finish(): Promise<void>;
}

/** Takes a file's rejected rows. */
export interface RejectedRows {
  add(record: TableRecord, because: Diagnostic): Promise<void>;
  /** The file's name from the workspace's folder, or undefined when nothing was rejected. */
  name(): string | undefined;
}

/** Begins with the rejected rows of an import. */
export function rejectedFiles({ workspace, landing }: WritableWorkspace): RejectedFiles {
  let staged: StagedFiles | undefined;
  const taken = new Set<string>();
  const open: StagedFile[] = [];
  const nameFor = (source: string): string => {
    let name = `${source}.csv`;
    for (let number = 2; taken.has(name); number++) name = `${source}-${number}.csv`;
    taken.add(name);
    return name;
  };
  return {
    of(source, header) {
      let file: StagedFile | undefined;
      let name: string | undefined;
      // An open header has grown since; the columns that were there at the first rejected row are the file's.
      let columns: readonly string[] = [];
      return {
        name: () => (name === undefined ? undefined : `${REJECTED_FOLDER.join("/")}/${name}`),
        async add({ cells: read, whole }, because) {
          const cells = (whole?.() ?? read).map(asWritten);
          if (file === undefined) {
            columns = header.filter((column) => column !== REASON_COLUMN);
            staged ??= await landing.into(workspace.path(...REJECTED_FOLDER));
            name = nameFor(source);
            file = await staged.create(name);
            open.push(file);
            await file.write(csvLine([REASON_COLUMN, ...columns]));
          }
          const where = because.place === undefined ? "" : `${placeText(because.place)}: `;
          // The row as it was, with the cells it lacks or has too many: its reason stands first, so that none is moved.
          const mark = ofTheRow.has(because.code) ? ` ${markOf(cells)}` : "";
          await file.write(csvLine([`${where}${sentence(because)}${mark}`, ...cells]));
        },
      };
    },
    async finish() {
      for (const file of open) await file.finish();
    },
  };
}
