import type { Severity } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import type { Source } from "../language/program.js";
import type { CategoryRow } from "./category-tree.js";
import type { PurposeName } from "./definition.js";
import type { Pattern } from "./field.js";
import type { PermittedValue } from "./value-list.js";

/** A row of a definition's table: cells by column name ("" when blank or absent). */
export interface TableRow {
  cell(column: string): string;
  place(column?: string): Place;
}

export interface LayoutSource {
  readonly name: string;
  readonly format: string;
  readonly file: string;
  readonly prefix?: string;
  readonly namespace?: string;
  readonly item?: Readonly<Record<string, string>>;
  readonly columns?: readonly (
    | string
    | { readonly name: string; readonly field: string; readonly part?: string; readonly joined_by?: string }
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
  readonly groups: { readonly model: "separate"; readonly toldApartBy: string; readonly place: Place };
  readonly purposes: readonly PurposeName[];
  readonly crossRules: readonly {
    readonly code: string;
    readonly scope: string;
    readonly holds: Source;
    readonly says: string;
    readonly severity: Severity;
    readonly place: Place;
  }[];
  readonly layouts: readonly LayoutSource[];
  readonly categories: readonly CategoryRow[];
  readonly fields: readonly TableRow[];
  readonly valueLists: readonly {
    readonly name: string;
    readonly place: Place;
    readonly values: readonly PermittedValue[];
  }[];
}

/** Compiles a pattern with an engine that cannot run long; says why when the pattern is wrong. */
export type PatternCompiler = (source: string) => Pattern | { readonly reason: string };
