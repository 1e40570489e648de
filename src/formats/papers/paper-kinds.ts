/** Every kind of paper, in the order in which a file is asked whether it is one. */
import { jsonPapers } from "./json-papers.js";
import type { PaperFile, PaperKind } from "./paper-kind.js";
import { refuseBinary, textPapers } from "./text-papers.js";
import { workbookPapers } from "./workbook-papers.js";
import { xmlPapers } from "./xml-papers.js";

/** Kinds of bytes, which come before those of text. */
const binary: readonly PaperKind[] = [workbookPapers];
const texts: readonly PaperKind[] = [xmlPapers, jsonPapers];

/**
 * The kind of a file.
 * @throws Refusal when it is neither text nor a workbook
 */
export function paperKindOf(file: PaperFile): PaperKind {
  const found = binary.find(({ holds }) => holds(file));
  if (found !== undefined) return found;
  refuseBinary(file);
  return texts.find(({ holds }) => holds(file)) ?? textPapers;
}
