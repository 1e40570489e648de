/** What any schema or sample comes to: the fields of a listing by their paths, and how its documents are built. */
import type { Kind } from "../../values/value.js";

/** A field as a schema or a sample of a tree shows it. */
export interface SchemaField {
  /** From the row's element on: `parcel/weight`, `price/@currency`, `@number`; `.` is its own text. */
  readonly path: string;
  readonly name: string;
  readonly label: string;
  readonly help: string;
  readonly kind: Kind | undefined;
  readonly isRequired: boolean;
  /** The most values that it takes; undefined where one; Infinity where nothing bounds them. */
  readonly many: number | undefined;
  /** Facts by their names in `fields.csv`. */
  readonly limits: Readonly<
    Partial<Record<"min" | "max" | "min_length" | "max_length" | "decimals" | "pattern", string>>
  >;
  readonly values: readonly string[];
  readonly examples: readonly string[];
  readonly default: string;
  readonly line: number;
  /** Whether it belongs to the members within a group's element. */
  readonly isMembers: boolean;
}

/** What a schema, or a sample of a file, says of the files that a channel takes. */
export interface SchemaReading {
  readonly file: string;
  readonly format: "xml" | "rss" | "atom" | "json" | "jsonl" | "jsonld";
  readonly title: string;
  readonly namespace: string;
  readonly prefix: string;
  /** Names of the elements around the listings, of a listing, and of a member within its group. */
  readonly root: string;
  readonly row: string;
  readonly member: string;
  readonly fields: readonly SchemaField[];
  /** A sample shows what there was, and not what must be. */
  readonly isSample: boolean;
  /** What a person should know of how it was read. */
  readonly told: readonly string[];
}
