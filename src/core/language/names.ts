import type { Shape } from "./kind.js";

/** A name's slot in the scope that programs run on, and what it yields. */
export interface FoundName extends Shape {
  readonly slot: number;
}

/** The names that expressions of one place may use: attributes in fills, fields in a definition, columns in a source. */
export interface Names {
  /** What the names are called there, for messages. */
  readonly what: "attribute" | "field" | "column";
  readonly all: readonly string[];
  find(name: string): FoundName | undefined;
  /** In fills: what the channel's field of this code is filled with, for `field("code")`. */
  field?(code: string): FoundName | undefined;
  readonly fields?: readonly string[];
}

/** A name that expressions know. */
export interface NameEntry extends Shape {
  readonly name: string;
}

/** Names whose slots are their positions. */
export function namesOf(what: Names["what"], entries: readonly NameEntry[]): Names {
  const found = new Map(entries.map(({ name, ...shape }, slot) => [name, { slot, ...shape }]));
  return { what, all: entries.map(({ name }) => name), find: (name) => found.get(name) };
}
