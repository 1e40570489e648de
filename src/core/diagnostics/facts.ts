import type { Damage } from "../values/damage.js";
import type { TroubleFacts } from "./trouble-facts.js";
import type { ReadingProblem } from "../values/read.js";

/** What each finding knows, by its code. A code is never reused for another meaning. */
export interface FactsByCode {
  // listings
  readonly "no-category": Record<string, never>;
  readonly unplaced: {
    readonly ourCategory: string;
    readonly nearest: readonly string[];
    readonly placements: string;
  };
  readonly "retired-category": {
    readonly code: string;
    /** The version of the definition that retired it. */
    readonly since: string;
    /** The path of the category that takes its place, and its code; blank where there is none. */
    readonly successor: string;
    readonly successorCode: string;
  };
  readonly "missing-required": FieldFact & {
    readonly example: string;
    readonly fills: string;
    /** The attributes that its fill reads and that the product does not have. */
    readonly reads: readonly string[];
    readonly hasFill: boolean;
  };
  readonly "missing-recommended": FieldFact & { readonly example: string };
  readonly "not-allowed": FieldFact & { readonly value: string };
  readonly "too-long": FieldFact & {
    readonly value: string;
    readonly limit: number;
    readonly actual: number;
    readonly unit: string;
  };
  readonly "too-short": FieldFact & {
    readonly value: string;
    readonly limit: number;
    readonly actual: number;
    readonly unit: string;
  };
  readonly "too-many-values": FieldFact & { readonly limit: number; readonly actual: number };
  readonly "out-of-range": FieldFact & { readonly value: string; readonly min: string; readonly max: string };
  readonly "unknown-value": FieldFact & {
    readonly value: string;
    readonly nearest: readonly string[];
    readonly lexicon: string;
  };
  readonly "wrong-pattern": FieldFact & { readonly value: string; readonly example: string };
  readonly "wrong-kind": FieldFact & { readonly value: string; readonly problem: ReadingProblem };
  /** An expression that is right in itself and could not be worked out for this product. */
  readonly "not-calculated": FieldFact & { readonly trouble: TroubleFacts };
  readonly "no-rate": FieldFact & { readonly trouble: TroubleFacts };
  readonly "no-table-row": FieldFact & { readonly trouble: TroubleFacts };
  readonly "fill-circle": FieldFact & { readonly trouble: TroubleFacts };
  /** A fill reads an attribute in a language that no product has yet. */
  readonly "unused-language": { readonly attribute: string };
  /** A field of a group is filled from an attribute in which its members differ. */
  readonly "members-differ": FieldFact & { readonly trouble: TroubleFacts };
  readonly "wrong-currency": FieldFact & { readonly value: string; readonly permitted: readonly string[] };
  readonly "torn-list": FieldFact & { readonly value: string; readonly mark: string };
  readonly "rule-broken": { readonly rule: string; readonly says: string };
  readonly "titles-alike": {
    readonly title: string;
    readonly other: string;
    readonly axes: readonly string[];
  };
  /** A field of the group in which members differ, where each shows its own: values, each with one SKU. */
  readonly "members-apart": FieldFact & { readonly values: readonly string[]; readonly members: number };
  /** A title that says the brand and nothing of the product. */
  readonly "brand-as-title": FieldFact & { readonly value: string; readonly fills: string };
  /** Members of one group that stand in several of the channel's categories. */
  readonly "torn-group": {
    readonly category: string;
    readonly other: string;
    readonly otherCategory: string;
  };
  readonly "price-apart": {
    readonly price: string;
    /** The price in the middle of the group's. */
    readonly middle: string;
    readonly times: number;
    readonly members: number;
  };
  readonly "same-description": FieldFact & { readonly members: number };
  readonly "repeated-search-words": FieldFact & { readonly words: readonly string[] };
  readonly "shared-barcode": FieldFact & { readonly value: string; readonly others: readonly string[] };
  readonly "repeated-id": FieldFact & { readonly value: string; readonly other: string };
  readonly "blank-axis": { readonly axis: string; readonly members: number };
  // against what the channel has already
  readonly "group-moved": { readonly before: string; readonly after: string };
  readonly "would-erase": FieldFact & { readonly value: string };
  readonly "category-moved": { readonly before: string; readonly after: string };
  readonly "axes-changed": { readonly before: readonly string[]; readonly after: readonly string[] };
  readonly "sku-became-another": { readonly was: string; readonly now: string };
  readonly "banned-content": FieldFact & { readonly found: string; readonly says: string };
  readonly "unlisted-value": FieldFact & { readonly value: string; readonly nearest: readonly string[] };
  readonly "axis-not-permitted": { readonly axes: readonly string[]; readonly permitted: readonly string[] };
  readonly "group-split": {
    readonly axes: readonly string[];
    readonly permitted: readonly string[];
    readonly alone: boolean;
  };
  readonly "too-many-axes": {
    readonly limit: number;
    readonly actual: number;
    readonly axes: readonly string[];
  };
  readonly "too-many-members": { readonly limit: number; readonly actual: number };
  // what is ready and not for a file of one purpose
  readonly "never-sent": { readonly purpose: string };
  readonly "lacks-for-purpose": { readonly purpose: string; readonly labels: readonly string[] };
  // what our own decisions leave out or hold back
  readonly "not-selected": { readonly condition: string };
  readonly "marked-off": { readonly attribute: string; readonly marks: readonly string[] };
  readonly "digital-left-out": Record<string, never>;
  readonly "hazard-left-out": { readonly hazard: string; readonly taken: readonly string[] };
  readonly "country-left-out": { readonly sold: readonly string[]; readonly countries: readonly string[] };
  readonly "below-least-price": { readonly price: string; readonly least: string };
  readonly "below-least-readiness": { readonly percent: number; readonly least: number };
  readonly "price-too-low": BoundFact;
  readonly "price-too-high": BoundFact;
  readonly "price-jump": {
    readonly before: string;
    readonly after: string;
    readonly percent: number;
    readonly limit: number;
    readonly file: string;
  };
  readonly "check-crashed": { readonly check: string; readonly reason: string };
  // incoming files
  readonly "no-file": { readonly path: string };
  readonly "empty-file": { readonly path: string };
  readonly "no-rows": { readonly path: string; readonly columns: number };
  readonly "repeated-column": { readonly column: string; readonly first: string; readonly second: string };
  readonly "blank-column": { readonly column: string };
  readonly "broken-quote": { readonly line: number };
  readonly "stray-quote": { readonly text: string };
  readonly "wrong-encoding": { readonly byte: string; readonly line: number; readonly encoding: string };
  readonly "not-a-table": { readonly found: string };
  readonly "row-too-long": { readonly limit: number };
  readonly "ragged-row": { readonly expected: number; readonly actual: number };
  readonly "blank-key": { readonly key: string };
  readonly "repeated-key": { readonly key: string; readonly value: string };
  readonly "unreadable-value": {
    readonly attribute: string;
    readonly value: string;
    readonly problem: ReadingProblem;
  };
  readonly "no-key-column": { readonly key: string; readonly columns: readonly string[] };
  readonly "unknown-column": { readonly column: string; readonly nearest: readonly string[] };
  readonly "no-header": { readonly row: number };
  readonly "no-records": { readonly path: string; readonly format: string };
  readonly "broken-data": { readonly format: string; readonly reason: string };
  readonly "broken-record": { readonly reason: string };
  readonly "unsafe-archive": { readonly reason: string };
  readonly "xml-entities": Record<string, never>;
  readonly "file-changed": { readonly path: string };
  /** The limit in megabytes. */
  readonly "file-too-large": { readonly path: string; readonly limit: number };
  readonly "too-many-columns": { readonly limit: number };
  readonly "unknown-sheet": {
    readonly sheet: string;
    readonly nearest: readonly string[];
    readonly known: readonly string[];
  };
  readonly "named-otherwise": {
    readonly path: string;
    readonly named: string;
    readonly found: string;
    readonly format: string;
  };
  readonly "column-never-seen": { readonly column: string; readonly nearest: readonly string[] };
  readonly "proposal-open": { readonly source: string };
  // the catalogue
  readonly "repaired-value": {
    readonly attribute: string;
    readonly value: string;
    readonly now: string;
    readonly damage: Damage;
  };
  readonly "damaged-value": {
    readonly attribute: string;
    readonly value: string;
    readonly damage: Damage;
    readonly candidates: readonly string[];
  };
  readonly "damaged-key": { readonly key: string; readonly value: string };
  readonly "restricted-gtin": { readonly attribute: string; readonly value: string };
  readonly "unmatched-key": { readonly key: string; readonly value: string; readonly adds: boolean };
  readonly "ambiguous-key": {
    readonly key: string;
    readonly value: string;
    readonly skus: readonly string[];
  };
  readonly "reused-sku": { readonly sku: string; readonly was: string; readonly now: string };
  readonly "known-already": { readonly sku: string };
  readonly "same-gtin": { readonly gtin: string; readonly others: readonly string[] };
  // the catalogue, one product beside the others
  readonly "alike-names": { readonly name: string; readonly other: string };
  readonly "shared-picture": {
    readonly url: string;
    readonly families: number;
    readonly skus: readonly string[];
  };
  readonly "copied-description": { readonly families: number; readonly skus: readonly string[] };
  readonly "sku-twin": { readonly sku: string; readonly other: string };
  readonly "single-member": { readonly group: string };
  readonly "group-without-record": { readonly group: string };
  readonly "same-axes": { readonly group: string; readonly other: string; readonly values: string };
  readonly "missing-part": { readonly part: string };
  readonly vanished: { readonly layer: string; readonly dropped: boolean };
  readonly "unknown-revision": { readonly revision: string; readonly latest: number };
  readonly "undone-already": { readonly revision: number; readonly by: number };
  readonly "later-revisions": {
    readonly revision: number;
    readonly later: readonly number[];
    readonly layer: string;
  };
  readonly "nothing-to-undo": Record<string, never>;
  readonly "unknown-attribute": { readonly attribute: string; readonly nearest: readonly string[] };
  readonly "cell-too-long": { readonly sku: string; readonly attribute: string; readonly limit: number };
  readonly "file-exists": { readonly path: string };
  // gap sheets
  readonly "changed-sku": { readonly was: string; readonly now: string };
  readonly "another-shop": { readonly shop: string; readonly own: string };
  readonly "older-sheet": { readonly channel: string; readonly then: string; readonly now: string };
  readonly "answer-without-question": { readonly channel: string; readonly field: string };
  readonly "contradicting-answers": { readonly term: string; readonly first: string; readonly value: string };
  // configuration
  readonly "no-workspace": { readonly folder: string };
  readonly "workspace-exists": { readonly folder: string };
  readonly "folder-not-empty": { readonly folder: string };
  readonly "yaml-syntax": { readonly reason: string };
  readonly "wrong-setting": { readonly key: string; readonly reason: string };
  readonly "unknown-setting": { readonly key: string; readonly nearest: readonly string[] };
  readonly "missing-file": { readonly path: string; readonly what: string };
  readonly "unknown-channel": {
    readonly channel: string;
    readonly nearest: readonly string[];
    readonly known: readonly string[];
  };
  readonly "channel-not-in-use": { readonly channel: string; readonly inUse: readonly string[] };
  readonly "unknown-source": { readonly source: string; readonly known: readonly string[] };
  readonly "unknown-layer": {
    readonly layer: string;
    readonly nearest: readonly string[];
    readonly known: readonly string[];
  };
  readonly "unknown-sku": { readonly sku: string; readonly nearest: readonly string[] };
  readonly "unknown-purpose": {
    readonly purpose: string;
    readonly channel: string;
    readonly known: readonly string[];
  };
  readonly "many-withdrawn": {
    readonly channel: string;
    readonly count: number;
    readonly of: number;
    readonly limit: number;
  };
  readonly "unknown-option": { readonly reason: string };
  readonly "expression-syntax": { readonly reason: string; readonly snippet: string };
  readonly "unknown-name": {
    readonly name: string;
    readonly nearest: readonly string[];
    readonly advice: string;
    readonly snippet: string;
    readonly what: string;
  };
  readonly "unknown-function": {
    readonly name: string;
    readonly nearest: readonly string[];
    readonly advice: string;
    readonly snippet: string;
  };
  readonly "wrong-arguments": { readonly name: string; readonly usage: string; readonly snippet: string };
  readonly "kind-mismatch": { readonly reason: string; readonly snippet: string };
  readonly "expression-too-deep": { readonly limit: number };
  readonly "unknown-category": { readonly category: string; readonly nearest: readonly string[] };
  readonly "unknown-field": { readonly field: string; readonly nearest: readonly string[] };
  readonly "contradicting-rows": { readonly what: string; readonly first: string };
  readonly "closed-category": { readonly category: string };
  // definitions
  readonly "missing-column": { readonly column: string };
  readonly "blank-cell": { readonly column: string };
  readonly "wrong-cell": { readonly column: string; readonly value: string; readonly expected: string };
  readonly "repeated-category": { readonly category: string };
  readonly "orphan-category": { readonly category: string; readonly parent: string };
  readonly "category-cycle": { readonly categories: readonly string[] };
  readonly "field-without-kind": { readonly field: string };
  readonly "empty-value-list": { readonly list: string };
  readonly "wrong-pattern-source": { readonly pattern: string; readonly reason: string };
  // the web addresses that listings show
  readonly "link-missing": LinkFact & { readonly status: number };
  readonly "link-unreachable": LinkFact & { readonly reason: string };
  readonly "link-refused": LinkFact & { readonly reason: string };
  readonly "not-a-picture": LinkFact & { readonly type: string };
  readonly "picture-too-small": LinkFact & {
    readonly width: number;
    readonly height: number;
    readonly least: number;
  };
  // the world
  readonly "cannot-read": { readonly path: string; readonly reason: string };
  readonly "cannot-write": { readonly path: string; readonly reason: string };
  readonly "store-newer": { readonly path: string; readonly found: number; readonly known: number };
  readonly "store-damaged": { readonly path: string; readonly reason: string };
  readonly "store-busy": { readonly path: string };
  readonly "internal-fault": { readonly reason: string };
}

/** A price outside the channel's own bounds; `moved` where it was set to the bound. */
interface BoundFact {
  readonly attribute: string;
  readonly price: string;
  readonly bound: string;
  readonly moved: boolean;
}

interface LinkFact extends FieldFact {
  readonly url: string;
}

interface FieldFact {
  readonly label: string;
}

export type Code = keyof FactsByCode;
