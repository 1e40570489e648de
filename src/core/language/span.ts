/** A stretch of an expression's source, as character offsets; `end` is behind the last character. */
export interface Span {
  readonly start: number;
  readonly end: number;
}
