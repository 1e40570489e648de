/** A definition as its files say it, before anything is held against anything: rows and settings with their places. */
import type { Severity } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import type { ExpressionSource } from "../language/program.js";
import type { CategoryRow, RetiredRow } from "./category-tree.js";
import type { ResultLayout, Role } from "./definition.js";
import type { PurposeName } from "./purpose-names.js";
import type { GroupedModel } from "./group-model.js";
import type { ExchangeSource } from "./exchange-source.js";
import type { Pattern } from "./field.js";
import type { PermittedValue } from "./value-list.js";

/** A row of a definition's table: cells by column name ("" when blank or absent). */
export interface TableRow {
  cell(column: string): string;
  place(column?: string): Place;
}

/** A purpose as `definition.yaml` says it. */
export interface PurposeSource {
  readonly purpose: PurposeName;
  readonly blank?: "leave" | "erase";
  readonly must?: readonly string[];
  readonly may?: readonly string[];
  readonly opens?: boolean;
  readonly action?: string;
  readonly place: Place;
}

/** A layout as `definition.yaml` says it. */
export interface LayoutSource {
  readonly name: string;
  readonly format: string;
  readonly file: string;
  readonly prefix?: string;
  readonly namespace?: string;
  readonly item?: Readonly<Record<string, string>>;
  /** What its files are for, where it is not every purpose. */
  readonly purposes?: readonly PurposeName[];
  /** Bounds of its files, where they are others than the channel's. */
  readonly file_limits?: { readonly rows?: number; readonly megabytes?: number };
  /** What a format has to know beside its columns: sheet, element names, separators. */
  readonly settings?: Readonly<Record<string, unknown>>;
  readonly columns?: readonly (
    | string
    | {
        readonly name: string;
        readonly field?: string;
        readonly part?: string;
        readonly joined_by?: string;
        /** So many columns side by side, one for each value of a list. */
        readonly repeat?: number;
        /** The one value of a list that it shows, from 1. */
        readonly item?: number;
        readonly at?: string;
        /** What the column says of the row itself, in the place of a field. */
        readonly says?: string;
      }
  )[];
  readonly place: Place;
}

/** A definition as its files say it: shape checked, sense not yet. */
export interface DefinitionSource {
  readonly place: Place;
  readonly channel: string;
  readonly label: string;
  readonly version: string;
  readonly languages: readonly string[];
  readonly currencies: readonly string[];
  readonly countries: readonly string[];
  readonly identifiedBy: string;
  readonly categoryField: string | undefined;
  readonly categoryBy: "path" | "code";
  /** The fields that hold what checks between listings look at. */
  readonly roles: { readonly [role in Role]?: string | undefined };
  readonly groups: {
    readonly model: "separate" | GroupedModel;
    readonly toldApartBy: string | undefined;
    readonly groupField: string | undefined;
    readonly place: Place;
  };
  readonly purposes: readonly PurposeSource[];
  readonly fileLimits: { readonly rows?: number; readonly megabytes?: number; readonly name_once?: boolean };
  readonly results: ResultLayout | undefined;
  readonly exchange?: ExchangeSource | undefined;
  /** Rows of `axes.csv` and `banned.csv`, where there are any. */
  readonly axes: readonly TableRow[];
  readonly banned: readonly TableRow[];
  readonly crossRules: readonly {
    readonly code: string;
    readonly scope: string;
    readonly holds: ExpressionSource;
    readonly says: string;
    readonly severity: Severity;
    readonly place: Place;
  }[];
  readonly layouts: readonly LayoutSource[];
  readonly categories: readonly CategoryRow[];
  readonly retired: readonly RetiredRow[];
  readonly fields: readonly TableRow[];
  readonly valueLists: readonly {
    readonly name: string;
    readonly place: Place;
    readonly values: readonly PermittedValue[];
  }[];
}

/** Compiles a pattern with an engine that cannot run long; says why when the pattern is wrong. */
export type PatternCompiler = (source: string) => Pattern | { readonly reason: string };
