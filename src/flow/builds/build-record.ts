/** The record of a build, `build.json`: what is in its files, and why the rest is not. Written while the parts come. */
import type { KeptJudged } from "../../core/listing/judged.js";
import type { StagedFile } from "../../workspace/landing/staged-file.js";
import type { BuiltFile } from "./built-files.js";
import { recordEntries } from "./record-entries.js";

/** What a build says of itself, beside its files. */
export const RECORD_FILE = "build.json";

/** How the record calls what became of a product that is not in the files; of a ready one that is, it says nothing. */
const states: Partial<Record<KeptJudged["kind"], string>> = {
  held: "held",
  unplaced: "held",
  "left-out": "left out",
};

/** A record that is being written. */
export interface BuildRecord {
  /** Takes what became of a product. */
  take(kept: KeptJudged): void;
  /** Takes a ready listing that is not for these files. */
  omit(kept: KeptJudged): void;
  /** Writes down what was taken. */
  write(): Promise<void>;
  finish(counts: object, files: readonly BuiltFile[]): Promise<void>;
}

/** Starts a record; `about` says which build it is of. */
export async function buildRecord(file: StagedFile, about: object): Promise<BuildRecord> {
  await file.write(`${JSON.stringify(about).slice(0, -1)},\n"notSent": [`);
  const entryOf = recordEntries();
  let entries: string[] = [];
  let separator = "\n";
  return {
    take(kept) {
      const state = states[kept.kind];
      if (state !== undefined) entries.push(entryOf(kept, state));
    },
    omit: (kept) => void entries.push(entryOf(kept, "not in this file")),
    async write() {
      if (entries.length === 0) return;
      await file.write(separator + entries.join(",\n"));
      entries = [];
      separator = ",\n";
    },
    async finish(counts, files) {
      await file.write(`\n],\n"counts": ${JSON.stringify(counts)},\n"files": ${JSON.stringify(files)}\n}\n`);
      await file.finish();
    },
  };
}
