/** What a kind of paper must be able to do. One file a kind, one line in `paper-kinds.ts`. */
import type { TableText } from "../table-form.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Paper } from "../../core/learning/paper.js";

/** Papers of a file, and what to know of it. */
export interface ReadPapers {
  readonly papers: readonly Paper[];
  /** What a person should know of the file. */
  readonly told: readonly string[];
}

/** A file that a channel hands out, while its kind is told. */
export interface PaperFile {
  /** Its name, as a person knows it. */
  readonly file: string;
  readonly bytes: Buffer;
  /** The same as text, in the encoding and form that it shows; asked for by those alone who read texts. */
  shown(): TableText;
}

/** One kind of file that a channel hands out. */
export interface PaperKind {
  /** Whether a file is one, by what it holds and, where that may be several things, by its name. */
  holds(file: PaperFile): boolean;
  /** @throws Refusal when it is damaged, too large, or none that can be read */
  read(file: PaperFile): Promise<ReadPapers> | ReadPapers;
}

/** The most parts that a tree may have, and how far within each other. */
export const MOST_NODES = 500_000;
/** How far parts may stand within each other. */
export const DEEPEST = 60;

/** A file that is not whole, or not what it seems. */
export function broken(file: string, format: string, reason: string, line = 0): Refusal {
  return new Refusal([
    diagnostic("broken-data", { format, reason }, { place: { file, ...(line > 0 ? { line } : {}) } }),
  ]);
}
