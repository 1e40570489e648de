/** The history's lines, begun and ended. */
import type Database from "better-sqlite3";
import type { FileOrigin, ImportCounts, RevisionKind, RevisionPlan } from "../store.js";
import type { RevisionColumns } from "./revision-columns.js";

type WrittenPlan = Partial<Pick<RevisionPlan, "layer" | "source" | "file" | "rules" | "decided">> & {
  readonly kind: RevisionKind;
  /** ISO 8601 */
  readonly at: string;
  /** The first revision of the act; its own number where it begins one. */
  readonly act?: number | undefined;
  /** Whether its rows put products there. */
  readonly names?: boolean;
  readonly cameFrom?: FileOrigin | undefined;
  readonly undoes?: readonly number[];
  readonly counts?: Partial<ImportCounts>;
};

const jsonOr = (value: unknown, blank: string): string =>
  value === undefined ? blank : JSON.stringify(value);

/** Adds a line to the history. Gives its number. */
export function addRevision(database: Database.Database, written: WrittenPlan): number {
  const { kind, at, layer = "", source = "", file = "", names = false, act } = written;
  const id = Number(
    database
      .prepare(
        `INSERT INTO revision (kind, layer, source, file, at, columns, counts, names, rules, came_from, decided, undoes)
         VALUES (?, ?, ?, ?, ?, '[]', ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        ...[kind, layer, source, file, at, jsonOr(written.counts, "{}"), names ? 1 : 0],
        ...[jsonOr(written.rules, ""), jsonOr(written.cameFrom, ""), jsonOr(written.decided, "[]")],
        jsonOr(written.undoes, "[]"),
      ).lastInsertRowid,
  );
  database.prepare("UPDATE revision SET act = ? WHERE id = ?").run(act ?? id, id);
  return id;
}

interface Ended {
  readonly columns: RevisionColumns["all"];
  /** The channel that alone sees it: kept with each column, for the day that the manifest names its layer no more. */
  readonly channel: string | undefined;
  readonly counts: ImportCounts;
  /** Whether it took back what it said of some products. */
  readonly drops: boolean;
  /** Products of which it only says again what was said. */
  readonly same: Uint8Array | undefined;
}

/** What is known of a revision when all its records are written. */
export function endRevision(
  database: Database.Database,
  id: number,
  { columns, channel, counts, drops, same }: Ended,
): void {
  const kept = channel === undefined ? columns : columns.map((column) => ({ ...column, channel }));
  database
    .prepare("UPDATE revision SET columns = ?, counts = ?, drops = ?, same = ? WHERE id = ?")
    .run(JSON.stringify(kept), JSON.stringify(counts), drops ? 1 : 0, same ?? null, id);
}
