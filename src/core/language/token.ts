import type { Span } from "./span.js";

/** Words of the language. */
export const keywords = [
  "or",
  "and",
  "not",
  "if",
  "then",
  "else",
  "in",
  "under",
  "is",
  "given",
  "blank",
  "yes",
  "no",
] as const;

export type Keyword = (typeof keywords)[number];

/** A piece of a text in quotes. */
export type TextPart =
  | { readonly part: "words"; readonly words: string }
  /** Source of a brace's inside: parsed by the parser, which knows what an expression is. */
  | { readonly part: "brace"; readonly start: number; readonly end: number };

/** A piece of source, with where it stands. */
export type Token = { readonly span: Span } & (
  | { readonly token: "name"; readonly name: string; readonly quoted: boolean }
  | { readonly token: "keyword"; readonly word: Keyword }
  | { readonly token: "number"; readonly digits: string }
  | { readonly token: "text"; readonly parts: readonly TextPart[] }
  | { readonly token: "sign"; readonly sign: string }
  | { readonly token: "end" }
);
