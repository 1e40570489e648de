import { openCsv } from "../csv-reader.js";
import type { FileKind } from "./file-kind.js";

/** Text with a mark between cells: what a file is where nothing else shows. */
export const csv: FileKind = {
  format: "csv",
  words: "plain text",
  extensions: ["csv", "tsv", "tab", "txt"],
  isSheet: true,
  hasOpenMarks: true,
  canBeShared: true,
  holds: () => true,
  open: openCsv,
};
