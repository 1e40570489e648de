import { lex } from "./lexer.js";
import type { Token } from "./token.js";

const operators = new Set([
  "+",
  "-",
  "*",
  "/",
  "=",
  "!=",
  "<",
  "<=",
  ">",
  ">=",
  "or",
  "and",
  "in",
  "is",
  "under",
]);
const arithmetic = new Set(["+", "-", "*", "/"]);

const written = (token: Token | undefined): string | undefined => {
  if (token?.token === "sign") return token.sign;
  return token?.token === "keyword" ? token.word : undefined;
};

/** Whether a token can begin what stands behind an operator. */
const beginsOperand = (token: Token | undefined): boolean =>
  token !== undefined && token.token !== "end" && (token.token !== "sign" || /^[(-]$/.test(token.sign));

/** The place behind a bracket and what it holds; 1 for any other single token. */
const operandLength = (tokens: readonly Token[]): number => {
  let depth = 0;
  for (const [index, token] of tokens.entries()) {
    if (written(token) === "(") depth++;
    if (written(token) === ")") depth--;
    // The name of a function, and the bracket behind it.
    if (depth === 0 && !(index === 0 && token.token === "name" && written(tokens[1]) === "("))
      return index + 1;
  }
  return tokens.length;
};

/** Whether an operand is followed by one of these operators and another operand. */
const goesOnWith = (tokens: readonly Token[], wanted: ReadonlySet<string>): boolean => {
  const length = operandLength(tokens);
  return wanted.has(written(tokens[length]) ?? "") && beginsOperand(tokens[length + 1]);
};

/**
 * Where the expression of a template's brace begins. Signs before it are words (`{, color}`, `{ (size)}`, `{-size}`),
 * unless they are part of a calculation: a bracket with an operator behind it, a minus before a sum.
 */
export const expressionStart = (source: string, start: number, end: number): number => {
  const signs = /^[^\p{L}\p{N}_"`]*/u.exec(source.slice(start, end))?.[0] ?? "";
  const first = start + signs.length;
  for (let at = start; at < first; at++) {
    const sign = source[at];
    if (sign !== "(" && sign !== "-") continue;
    const from = sign === "-" ? at + 1 : at;
    // A dash with a blank behind it parts words.
    if (sign === "-" && /\s/.test(source[from] ?? "")) continue;
    if (goesOnWith(lex(source, from, end).tokens, sign === "-" ? arithmetic : operators)) return at;
  }
  return first;
};
