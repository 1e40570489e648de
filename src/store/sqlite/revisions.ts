/** The history in memory: few revisions beside the products, needed for every record. */
import type Database from "better-sqlite3";
import { EDITS } from "../../core/catalogue/edits-layer.js";
import type { GrowingIndex } from "../../core/catalogue/attribute-index.js";
import { REMOVAL } from "../store.js";
import type {
  Decision,
  FileOrigin,
  HistoryEntry,
  LayerName,
  PlannedColumn,
  RevisionKind,
  RevisionPlan,
  SourceRules,
} from "../store.js";

/** A revision with the slots that its records' texts go to. */
export interface Revision {
  readonly id: number;
  readonly kind: RevisionKind;
  readonly layer: string;
  readonly source: string;
  readonly file: string;
  readonly at: string;
  /** By what it was read; undefined where no source file did. */
  readonly rules: SourceRules | undefined;
  readonly columns: readonly PlannedColumn[];
  readonly slots: readonly number[];
  /**
   * The same of a group's own record, which says nothing of who is in the group: its members say that each of itself, so
   * that one leaves when nothing says so any more.
   */
  readonly slotsOfGroup: readonly number[];
  /** Height of its layer; scoped layers lie above all others. */
  readonly rank: number;
  /** The channel that alone sees it. */
  readonly channel: string | undefined;
  readonly live: boolean;
  /** Whether it took back what it said of some products. */
  readonly drops: boolean;
}

/** Whether a revision takes products out of the catalogue. */
export const isRemoval = ({ kind, file, drops }: Revision): boolean =>
  kind === "edit" && file === REMOVAL && drops;

/** A revision that says nothing of any product: an undo, a build that was sent. */
export const bareRevision = (own: Pick<Revision, "id" | "kind" | "at" | "source">): Revision => ({
  layer: "",
  file: "",
  rules: undefined,
  columns: [],
  slots: [],
  slotsOfGroup: [],
  rank: -1,
  channel: undefined,
  drops: false,
  live: true,
  ...own,
});

interface RevisionRow {
  readonly id: number;
  readonly kind: RevisionKind;
  readonly layer: string;
  readonly source: string;
  readonly file: string;
  readonly at: string;
  readonly columns: string;
  readonly counts: string;
  readonly act: number;
  readonly undone_by: number | null;
  readonly undoes: string;
  readonly drops: number;
  readonly rules: string;
  readonly came_from: string;
  readonly decided: string;
}

const parsed = (text: string): unknown => (text === "" ? undefined : JSON.parse(text));

const SCOPED = 1_000_000;

/** Where a layer lies, and the channel that alone sees it. */
interface LayerPlace {
  readonly rank: number;
  readonly channel: string | undefined;
}

/** Where a layer lies: one that the manifest no longer names counts as lowest. */
function layerRanks(layers: readonly LayerName[]): (layer: string) => LayerPlace {
  const known = new Map(
    layers.map(({ layer, channel }, index) => [
      layer,
      { rank: index + (channel === undefined ? 0 : SCOPED), channel },
    ]),
  );
  return (layer) => {
    const named = known.get(layer);
    if (named !== undefined) return named;
    if (layer === EDITS) return { rank: SCOPED - 1, channel: undefined };
    return layer.startsWith(`${EDITS}-`)
      ? { rank: 2 * SCOPED, channel: layer.slice(EDITS.length + 1) }
      : { rank: -1, channel: undefined };
  };
}

/** A layer that the manifest no longer names is still seen by nobody but the channel that it was for. */
const scopeOf = (place: LayerPlace, columns: readonly PlannedColumn[]): LayerPlace =>
  place.rank >= 0
    ? place
    : { ...place, channel: columns.find(({ channel }) => channel !== undefined)?.channel };

/** Where the layer of a revision lies; one that its very act begins will be the manifest's last. */
export function placeOfLayer(
  layers: readonly LayerName[],
  { layer, channel }: Pick<RevisionPlan, "layer" | "channel">,
): LayerPlace {
  const known = layerRanks(layers)(layer);
  return known.rank >= 0 ? known : { rank: layers.length + (channel === undefined ? 0 : SCOPED), channel };
}

/** The slot of a column in a group's own record. */
export const slotOfGroup = ({ attribute }: PlannedColumn, slot: number): number =>
  attribute === "group" ? -1 : slot;

const read = (database: Database.Database, order: "ASC" | "DESC"): readonly RevisionRow[] =>
  database
    .prepare(
      `SELECT id, kind, layer, source, file, at, columns, counts, act, undone_by, undoes, drops, rules, came_from, decided FROM revision ORDER BY id ${order}`,
    )
    .all() as RevisionRow[];

/** All revisions by id; few beside the products, and needed for every record. */
export function loadRevisions(
  database: Database.Database,
  attributes: GrowingIndex,
  layers: readonly LayerName[],
): ReadonlyMap<number, Revision> {
  const rankOf = layerRanks(layers);
  return new Map(
    read(database, "ASC").map(
      ({ id, kind, layer, source, file, at, columns: written, undone_by, drops, rules }) => {
        const columns = JSON.parse(written) as readonly PlannedColumn[];
        const slots = columns.map(({ attribute }) => attributes.slotFor(attribute));
        return [
          id,
          {
            id,
            kind,
            layer,
            source,
            file,
            at,
            rules: parsed(rules) as SourceRules | undefined,
            columns,
            slots,
            slotsOfGroup: columns.map((column, at) => slotOfGroup(column, slots[at] ?? -1)),
            ...scopeOf(rankOf(layer), columns),
            live: undone_by === null,
            drops: drops !== 0,
          },
        ];
      },
    ),
  );
}

/** The history, latest first. */
export function historyOf(database: Database.Database): readonly HistoryEntry[] {
  return read(database, "DESC").map(
    ({ id, act, kind, layer, source, file, at, counts, undone_by, undoes, ...row }) => ({
      revision: id,
      act,
      kind,
      layer,
      source,
      file,
      at,
      counts: JSON.parse(counts) as HistoryEntry["counts"],
      undoneBy: undone_by ?? undefined,
      undoes: JSON.parse(undoes) as number[],
      cameFrom: parsed(row.came_from) as FileOrigin | undefined,
      decided: JSON.parse(row.decided) as readonly Decision[],
    }),
  );
}
