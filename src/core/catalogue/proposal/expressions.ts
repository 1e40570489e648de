import { keywords } from "../../language/token.js";

/** A column's name as an expression has it: in backquotes where it is no plain word. */
export function columnExpression(column: string): string {
  return /^[\p{L}_][\p{L}\p{N}_]*$/u.test(column) && !(keywords as readonly string[]).includes(column)
    ? column
    : `\`${column.replaceAll("`", "'")}\``;
}

/** `list` takes four values at a time; longer lists nest. */
export function listExpression(columns: readonly string[]): string {
  const [own, rest] = columns.length <= 4 ? [columns, []] : [columns.slice(0, 3), columns.slice(3)];
  return `list(${[...own.map(columnExpression), ...(rest.length === 0 ? [] : [listExpression(rest)])].join(", ")})`;
}

/** A text of the language, with the characters that mean something in it made harmless. */
export const textExpression = (text: string): string =>
  `"${text.replace(/[\\"]/g, "\\$&").replaceAll("{", "{{").replaceAll("}", "}}").replaceAll("\n", "\\n")}"`;
