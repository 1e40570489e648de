/**
 * The store of a workspace as everything above it knows it: asynchronous, in batches, every fault a refusal of ours. An
 * engine is a folder beside this file.
 */
import type { KindOf } from "../core/values/attribute-kind.js";
import type { RecordTexts } from "../core/catalogue/stored-texts.js";
import type { ChannelJobs } from "./jobs.js";
import type { ChannelLedger } from "./ledger.js";
import type { LinkAnswers } from "./link-answers.js";
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import type { Doubt } from "../core/catalogue/cell-reader.js";
import type { Family } from "../core/catalogue/family.js";
import type { Product } from "../core/catalogue/product.js";
import type { Origin, RecordColumn } from "../core/catalogue/record.js";
import type { Place } from "../core/diagnostics/place.js";
import type { Sku } from "../core/ids.js";

/** A layer of the workspace, lowest first; one that is scoped shows on its channel alone, above all others. */
export interface LayerName {
  readonly layer: string;
  readonly channel?: string;
}

/** `sent`: a build was handed to a channel; its source is the channel, its file the kind of build. */
export type RevisionKind = "import" | "edit" | "undo" | "sent";

/** Whether rows may add products, change them, or both. */
export type ImportMode = "add" | "update" | "both";

/** A text of the records that are put into a revision. */
export type PlannedColumn = RecordColumn;

/** The file that revisions name which take products out of the catalogue. */
export const REMOVAL = "remove";

/** What a revision brings: where it comes from, where it goes, and which attributes in which order. */
export interface RevisionPlan {
  readonly kind: "import" | "edit";
  readonly layer: string;
  /** The channel whose columns alone are taken; what finds products is read of them all. */
  readonly channel?: string;
  readonly source: string;
  readonly file: string;
  /** ISO 8601 time. */
  readonly at: string;
  /** Attribute of each text; more may be added to its end while records come. */
  readonly columns: readonly PlannedColumn[];
  /** Attributes by which products are found, tried in order. */
  readonly keys: readonly string[];
  readonly mode: ImportMode;
  /** What a text must differ from to be a change: its own layer's, or the merged value (sheets of the catalogue itself). */
  readonly compare: "layer" | "merged";
  /** Whether what the layer said before and this delivery does not say again is taken back. */
  readonly replace: boolean;
  /** Whether keys are also written to the products that were found by them, always or where they have none; else they only find. */
  readonly writesKeys?: boolean | "where-blank";
  /** Whether a row that would add a product and has nothing but its keys is refused. */
  readonly refusesBare?: boolean;
  /** Whether each change is told with the values before and after it. */
  readonly tellChanges: boolean;
  /** How the source reads each attribute; where that is another way than before, what it read then goes. */
  readonly rules?: SourceRules;
  /** Where the file lies, and what tells whether it is still the same. */
  readonly cameFrom?: FileOrigin;
  /** What was decided with it outside of the catalogue, so that an undo takes that back too. A revision with any is kept. */
  readonly decided?: readonly Decision[];
}

/** A source's way of reading: the text by which it reads each attribute, and a mark of all that it says besides. */
export interface SourceRules {
  readonly columns: Readonly<Record<string, string>>;
  readonly rest: string;
}

/** Where a file came from. */
export interface FileOrigin {
  /** From the workspace's folder where it lies in it, else whole. */
  readonly path: string;
  readonly mark: string;
}

/** A row of a channel's lexicon. */
export interface DecidedTerm {
  readonly channel: string;
  readonly field: string;
  readonly category: string;
  readonly term: string;
  readonly value: string;
}

/** A source's file that was written with its first import, and the layer that the manifest got for it. */
export interface DecidedSource {
  /** The file's name without its ending. */
  readonly sourceFile: string;
  readonly text: string;
  readonly layer: string | undefined;
  /** Layers for single channels that it got as well. */
  readonly forChannels?: readonly { readonly layer: string; readonly channel: string }[];
}

/** What a revision decided outside of the catalogue. */
export type Decision = DecidedTerm | DecidedSource;

/** A merged value that a record changed. */
export interface ValueChange {
  readonly attribute: string;
  readonly before: string;
  readonly after: string;
}

/** One record: canonical texts in the order of the plan's columns. "" is no opinion. */
export interface IncomingRecord extends RecordTexts {
  readonly kind: "product" | "group";
  readonly row: number;
  /** Damaged values that the catalogue may prove. */
  readonly doubts: readonly Doubt[];
}

/** A row that came just so before, of which all was noted then: the product that it is of. */
export interface RecordAgain {
  readonly kind: "again";
  readonly row: number;
  readonly product: number;
}

/** What a doubt came to: the value that the catalogue has already, or nothing that can be trusted. */
export interface SettledDoubt {
  readonly doubt: Doubt;
  readonly proved: string | undefined;
}

/** A key on which a row and its product disagree. */
export interface KeyApart {
  readonly key: string;
  readonly value: string;
  /** What the product has; "" for nothing. */
  readonly has: string;
  /** The key by which it was found. */
  readonly by: string;
}

/** A key that the catalogue proved to be damaged. */
export interface MendedKey {
  readonly key: string;
  readonly value: string;
  readonly now: string;
}

/** What became of a record. */
export type RecordFate =
  | {
      readonly fate: "added" | "changed" | "unchanged";
      readonly sku: Sku;
      readonly doubts?: readonly SettledDoubt[];
      /** Other products with the barcode that this record brought. */
      readonly sameGtin?: readonly Sku[];
      /** Where the plan asks for them. */
      readonly changes?: readonly ValueChange[];
      /** The product, where the same row will have nothing new to say of it. */
      readonly settled?: number;
      /** Set where the mode leaves known products alone. */
      readonly known?: true;
      /** Keys of the row that the product has not, and that were not written. */
      readonly keysApart?: readonly KeyApart[];
      /** A key that a spreadsheet took the zeros before it from. */
      readonly keyMended?: MendedKey;
      /** Other numbers that it took them from: what the product has stays. */
      readonly zerosKept?: readonly MendedKey[];
    }
  /** What came again says what it said. */
  | { readonly fate: "again" }
  /** It would add a product of which nothing but keys is said. */
  | { readonly fate: "bare"; readonly sku: Sku }
  | { readonly fate: "repeated"; readonly key: string; readonly value: string }
  /** A person took its product out of the catalogue, and it stays out until that is undone. */
  | { readonly fate: "removed"; readonly sku: Sku; readonly revision: number }
  | { readonly fate: "unmatched"; readonly key: string; readonly value: string }
  | {
      readonly fate: "ambiguous";
      readonly key: string;
      readonly value: string;
      readonly skus: readonly Sku[];
      /** Whether they have it but for zeros before it, which a spreadsheet may have taken. */
      readonly butForZeros?: true;
    }
  /** Two keys of the row find two products. */
  | {
      readonly fate: "disagree";
      readonly keys: readonly [KeyFound, KeyFound];
    }
  | { readonly fate: "reused"; readonly sku: Sku; readonly was: string; readonly now: string };

/** A key's value, and the product that it finds. */
export interface KeyFound {
  readonly key: string;
  readonly value: string;
  readonly sku: Sku;
}

/** The account of an import. */
export interface ImportCounts {
  readonly read: number;
  readonly added: number;
  readonly changed: number;
  readonly unchanged: number;
  readonly rejected: number;
}

/** One revision being written. */
export interface RevisionWriter {
  /** Takes a batch; says what became of each record, in order. */
  put(records: readonly (IncomingRecord | RecordAgain)[]): Promise<readonly RecordFate[]>;
  /** For a replaced layer: tells each product that vanished, and takes back what the layer says of it, if asked. */
  vanished(drop: boolean, tell: (sku: Sku) => void): Promise<number>;
  /** Takes back all that the layer says of products, each by its SKU: the layer no longer names them. */
  drop(skus: readonly string[]): Promise<void>;
  /** The revision of before whose rules were others, where values that those gave were taken back or read anew. */
  formerRules(): number | undefined;
  /** Ends the revision; one that changed nothing leaves no trace. Gives its number, or undefined. */
  finish(counts: ImportCounts): Promise<number | undefined>;
}

/** One act of a person on the catalogue, of one or more revisions: it lands whole with `commit`, or leaves no trace. */
export interface CatalogueTransaction {
  revision(plan: RevisionPlan): Promise<RevisionWriter>;
  /** Marks revisions as undone, or an undo as undone. Gives the revision that says so. */
  undo(ids: readonly number[], at: string): Promise<number>;
  /** Families with the products that this act touched, as they are now. */
  touchedFamilies(): AsyncGenerator<readonly Family[]>;
  /** SKUs that this act added and that differ from another product's by no more than case, spaces or leading zeros. */
  skuTwins(): Promise<readonly (readonly [Sku, Sku])[]>;
  isKnown(sku: string): Promise<boolean>;
  /** Whether a group has a row of its own. */
  hasGroupRecord(group: string): Promise<boolean>;
  /** With the mark of the files that land with it. */
  commit(mark?: string): Promise<void>;
  rollback(): Promise<void>;
}

/** One line of the catalogue's history. */
export interface HistoryEntry {
  readonly revision: number;
  /** The first revision of the same command. */
  readonly act: number;
  readonly kind: RevisionKind;
  readonly layer: string;
  readonly source: string;
  readonly file: string;
  readonly at: string;
  readonly counts: Partial<ImportCounts>;
  readonly undoneBy: number | undefined;
  readonly undoes: readonly number[];
  readonly cameFrom: FileOrigin | undefined;
  readonly decided: readonly Decision[];
}

/** One opinion about one value, past or present. */
export interface PastOpinion {
  readonly revision: number;
  readonly attribute: string;
  readonly text: string;
  readonly place: Place & { readonly layer: string };
  readonly at: string;
  readonly undone: boolean;
}

/**
 * A stretch of the catalogue: families whose numbers are not below `from` and below `until`. Stretches that follow each
 * other give all families in catalogue order, each once.
 */
export interface FamilyRange {
  readonly from: number;
  readonly until: number;
  /** Of these families alone, by number in catalogue order. */
  readonly only?: readonly number[];
}

/** What a catalogue was like at a time: a mark of each of its revisions, and the last product that there was. */
export interface CatalogueState {
  readonly revisions: readonly string[];
  readonly newest: number;
}

/** The embedded store of one workspace. All of the catalogue passes through here in batches. */
export interface Store {
  attributes(): Promise<AttributeIndex>;
  isEmpty(): Promise<boolean>;
  /** All products, or those of a stretch, in catalogue order, a family never torn over two batches. */
  families(range?: FamilyRange): AsyncGenerator<readonly Family[]>;
  /** Stretches that together are the whole catalogue, or one stretch of it, in its order: about so many, of at most so many products. */
  stretches(count: number, mostProducts: number, within?: FamilyRange): Promise<readonly FamilyRange[]>;
  /** From now on the catalogue is seen as it is now, whatever is written meanwhile. Gives a mark of what is seen. */
  hold(): Promise<string>;
  state(): Promise<CatalogueState>;
  /**
   * The families that changed since, in catalogue order, those that are no more too: their products, what deliveries say
   * of them, what a channel has of them. Undefined where that is not known, or more products changed than is said.
   */
  familiesSince(state: CatalogueState, mostProducts: number): Promise<readonly number[] | undefined>;
  /** Which products changed since; undefined where that is not known. */
  productsSince(state: CatalogueState): Promise<{ has(product: number): boolean } | undefined>;
  /** The numbers of the families that products belong to; of a product that nobody knows -1. */
  familyNumbers(skus: readonly string[]): Promise<readonly number[]>;
  product(sku: string, channel?: string): Promise<Product | undefined>;
  /** The family that a product belongs to; undefined where no product has the SKU. */
  familyOf(sku: string): Promise<Family | undefined>;
  /** The group's members in catalogue order. */
  groupMembers(group: string): Promise<readonly Sku[]>;
  /** SKUs that a person can have meant, for messages: a bounded sample around the one written. */
  skusNear(sku: string): Promise<readonly string[]>;
  /** File, row and column that a value came from, and its layer. */
  placeOf(origin: Origin, attribute: string): Place & { readonly layer: string };
  /** The layers that say anything of a product. */
  layersOf(sku: string): Promise<readonly string[]>;
  /** Latest first. */
  history(): Promise<readonly HistoryEntry[]>;
  /** All that revisions said of a product, latest first. */
  opinions(sku: string): Promise<readonly PastOpinion[]>;
  begin(): Promise<CatalogueTransaction>;
  /** What web addresses answered before. */
  linkAnswers(): LinkAnswers;
  /** What a channel was given before. */
  ledgerOf(channel: string): ChannelLedger;
  /** What was sent to a channel, and what it answered. */
  jobsOf(channel: string): ChannelJobs;
  /** What is done to ledgers holds together, with the mark of the files that land with it, or not at all. */
  together(mark: string, work: () => Promise<void>): Promise<void>;
  /** Products that have a barcode in common with another. */
  sharedBarcodes(): Promise<readonly (readonly Product[])[]>;
  /** SKUs that differ from another product's by no more than case, spaces or leading zeros. */
  skuTwins(): Promise<readonly (readonly [Sku, Sku])[]>;
  close(): Promise<void>;
}

/** Held by the one process that may write to a workspace; the system lets it go with the process. */
export interface WriterLock {
  release(): void;
}

/** Where a store lies, and what it is to know of the workspace. */
export interface StoreOptions {
  readonly path: string;
  /** The path as messages show it. */
  readonly shownPath: string;
  /** Layers from lowest to highest. */
  readonly layers: readonly LayerName[];
  /** The kinds of attributes, where a shop has declared some of its own. */
  readonly kindOf?: KindOf;
  /** Whether nothing is to be written: then a copy will do, where the store itself lies on a disk that takes nothing. */
  readonly onlyReads?: boolean;
  /** What the engine may keep of the store in memory; for one who reads in order, little is as good as much. */
  readonly cacheMegabytes?: number;
}
