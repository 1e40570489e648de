/** What a channel hands out, as papers: workbooks with all that they show, tables, texts, trees. */
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ReadPapers } from "./papers/paper-kind.js";
import { paperKindOf } from "./papers/paper-kinds.js";
import { smallFile, SMALL_FILE } from "./small-file.js";
import { tableText, type TableText } from "./table-form.js";

/**
 * Reads a file that a channel hands out, whatever it is: a workbook, a table, lines of text, XML or JSON.
 * @throws Refusal when it is damaged, too large, or none of these
 */
export async function readPapers(path: string, file: string): Promise<ReadPapers> {
  const bytes = await smallFile(path, file, SMALL_FILE);
  if (bytes.length === 0)
    throw new Refusal([diagnostic("not-a-table", { found: "an empty file" }, { place: { file } })]);
  let shown: TableText | undefined;
  const paper = { file, bytes, shown: () => (shown ??= tableText(bytes)) };
  return paperKindOf(paper).read(paper);
}
