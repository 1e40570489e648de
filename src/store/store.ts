import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import type { Family } from "../core/catalogue/family.js";
import type { Product } from "../core/catalogue/product.js";
import type { Origin } from "../core/catalogue/record.js";
import type { Place } from "../core/diagnostics/place.js";
import type { Sku } from "../core/ids.js";

/** What an import brings: where it comes from, where it goes, and which attributes in which order. */
export interface ImportPlan {
  readonly layer: string;
  readonly source: string;
  readonly file: string;
  /** ISO 8601 time of the import. */
  readonly at: string;
  /** Attribute of each text, with the column it was read from. */
  readonly columns: readonly { readonly attribute: string; readonly column: string }[];
}

/** One row of an import: canonical texts in the order of the plan's columns. "" is no opinion. */
export interface IncomingRecord {
  readonly sku: Sku;
  readonly row: number;
  readonly texts: readonly string[];
}

export type RecordFate = "added" | "changed" | "unchanged" | "repeated";

export interface ImportCounts {
  readonly read: number;
  readonly added: number;
  readonly changed: number;
  readonly unchanged: number;
  readonly rejected: number;
}

/** An import on its way: it lands whole with `commit`, or leaves no trace. */
export interface ImportTransaction {
  /** Takes a batch; says what became of each record, in order. */
  put(records: readonly IncomingRecord[]): Promise<readonly RecordFate[]>;
  commit(counts: ImportCounts): Promise<void>;
  rollback(): Promise<void>;
}

export interface CatalogueCounts {
  readonly products: number;
  readonly families: number;
}

/** The embedded store of one workspace. All of the catalogue passes through here in batches. */
export interface Store {
  attributes(): Promise<AttributeIndex>;
  counts(): Promise<CatalogueCounts>;
  /** All products in catalogue order, a family never torn over two batches. */
  families(): AsyncGenerator<readonly Family[]>;
  product(sku: string): Promise<Product | undefined>;
  /** The group's members in catalogue order. */
  groupMembers(group: string): Promise<readonly Sku[]>;
  /** SKUs that a person can have meant, for messages: a bounded sample around the one written. */
  skusNear(sku: string): Promise<readonly string[]>;
  /** File, row and column that a value came from, and its layer. */
  placeOf(origin: Origin, attribute: string): Place & { readonly layer: string };
  beginImport(plan: ImportPlan): Promise<ImportTransaction>;
  close(): Promise<void>;
}
