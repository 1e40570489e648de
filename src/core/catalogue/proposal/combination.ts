/** What columns say together, and what the ways of finding it have in common. */
import { attributeKind } from "../vocabulary.js";
import { columnName } from "./column-name.js";
import type { SampleColumn } from "./sample-column.js";
import type { ProposedAttribute, ProposedPair } from "./source-proposal.js";

/** What several columns, or one column with several values in it, say together; the columns are used up by it. */
export interface Combination {
  readonly attributes: readonly ProposedAttribute[];
  readonly pairs: readonly ProposedPair[];
  readonly used: readonly SampleColumn[];
  /** The column that tells the currency of others. */
  readonly currency?: SampleColumn;
}

/** A way of seeing columns together: what is found among those that are left. */
export type Combine = (columns: readonly SampleColumn[]) => readonly Combination[];

/** An attribute that several columns give. */
export const proposed = (
  attribute: string,
  expression: string,
  columns: readonly SampleColumn[],
  confidence: number,
): ProposedAttribute => ({
  attribute,
  expression,
  columns: columns.map(({ column }) => column),
  confidence,
  samples: columns[0]?.shape.samples ?? [],
  known: true,
});

/** What columns say together that give attributes and no pairs. */
export const combination = (
  attributes: readonly ProposedAttribute[],
  used: readonly SampleColumn[],
): Combination => ({
  attributes,
  pairs: [],
  used,
});

/** The column that most surely means an attribute, without a currency of its own. */
export const best = (columns: readonly SampleColumn[], attribute: string): SampleColumn | undefined =>
  columns
    .filter(({ name }) => name.attribute === attribute && name.currency === undefined)
    .sort((a, b) => b.name.certainty - a.name.certainty)[0];

/** Whether words mean a measure, or nothing else than it. */
export function meansOf(about: string, attribute: string | undefined): boolean {
  if (attribute === undefined || attributeKind(attribute).kind !== "measure") return false;
  return about === "" || columnName(about).attribute === attribute;
}

/** The column whose name or path has most of another's beginning; the nearer one of several. */
export function nearestTo(to: SampleColumn, columns: readonly SampleColumn[]): SampleColumn | undefined {
  const shared = ({ column }: SampleColumn): number => {
    let at = 0;
    while (at < column.length && column[at] === to.column[at]) at++;
    return column.includes("/") || to.column.includes("/") ? at : 0;
  };
  const away = ({ index }: SampleColumn): number => Math.abs(index - to.index);
  return columns
    .filter((column) => column !== to)
    .sort((a, b) => shared(b) - shared(a) || away(a) - away(b))[0];
}

/** Whether two paths are parts of one thing. */
export const areParts = (one: string, other: string): boolean =>
  one.includes("/") && one.replace(/[^/]*$/, "") === other.replace(/[^/]*$/, "");
