import { placeText } from "../../core/diagnostics/place.js";
import { sentence } from "../../workspace/wording.js";
import type { Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { csvLine } from "../../formats/csv-writer.js";
import type { TableRecord } from "../../formats/table-stream.js";
import { stageFiles, type StagedFile, type StagedFiles } from "../../workspace/staged-files.js";
import type { Workspace } from "../../workspace/workspace.js";

export const REASON_COLUMN = "why rejected";
export const REJECTED_FOLDER = ["out", "rejected"] as const;

/** Rejected rows with their reasons, in files of the same columns that can be corrected and imported again. */
export interface RejectedFiles {
  /** A file for the rows of one incoming file. */
  of(source: string, header: readonly string[]): RejectedRows;
  publish(): Promise<void>;
  discard(): Promise<void>;
}

export interface RejectedRows {
  add(record: TableRecord, because: Diagnostic): Promise<void>;
  /** The file's name from the workspace's folder, or undefined when nothing was rejected. */
  name(): string | undefined;
}

export const rejectedFiles = (workspace: Workspace): RejectedFiles => {
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
        async add({ cells }, because) {
          if (file === undefined) {
            columns = header.filter((column) => column !== REASON_COLUMN);
            staged ??= await stageFiles(workspace.path(...REJECTED_FOLDER));
            name = nameFor(source);
            file = await staged.create(name);
            open.push(file);
            await file.write(csvLine([...columns, REASON_COLUMN]));
          }
          const full = columns.map((_, index) => cells[index] ?? "");
          const where = because.place === undefined ? "" : `${placeText(because.place)}: `;
          await file.write(csvLine([...full, where + sentence(because)]));
        },
      };
    },
    async publish() {
      for (const file of open) await file.finish();
      await staged?.publish();
    },
    async discard() {
      await staged?.discard();
    },
  };
};
