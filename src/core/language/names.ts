import type { ResultKind } from "./kind.js";

/** The names that expressions of one place may use: attributes in fills, fields in a definition, columns in a source. */
export interface Names {
  /** What the names are called there, for messages. */
  readonly what: "attribute" | "field" | "column";
  readonly all: readonly string[];
  find(name: string): { readonly slot: number; readonly kind: ResultKind } | undefined;
}

export interface NameEntry {
  readonly name: string;
  readonly kind: ResultKind;
}

/** Names whose slots are their positions. */
export const namesOf = (what: Names["what"], entries: readonly NameEntry[]): Names => {
  const found = new Map(entries.map(({ name, kind }, slot) => [name, { slot, kind }]));
  return { what, all: entries.map(({ name }) => name), find: (name) => found.get(name) };
};
