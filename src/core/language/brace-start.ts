/**
 * Where within a template's brace its expression begins: signs before it are words that go with it or stay away with
 * it.
 */
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

function written(token: Token | undefined): string | undefined {
  if (token?.token === "sign") return token.sign;
  return token?.token === "keyword" ? token.word : undefined;
}

/** Whether a token can begin what stands behind an operator. */
const beginsOperand = (token: Token | undefined): boolean =>
  token !== undefined && token.token !== "end" && (token.token !== "sign" || /^[(-]$/.test(token.sign));

/** The place behind each operand: a bracket with what it holds, a function with its bracket, or a single token. */
function operandEnds(tokens: readonly Token[]): readonly number[] {
  const ends = tokens.map((_, index) => index + 1);
  const open: number[] = [];
  for (const [index, token] of tokens.entries()) {
    const sign = written(token);
    if (sign === "(") {
      ends[index] = tokens.length;
      open.push(index);
    }
    const from = sign === ")" ? open.pop() : undefined;
    if (from !== undefined) ends[from] = index + 1;
  }
  // The name of a function, and the bracket behind it.
  tokens.forEach((token, index) => {
    if (token.token === "name" && written(tokens[index + 1]) === "(")
      ends[index] = ends[index + 1] ?? tokens.length;
  });
  return ends;
}

/**
 * Where the expression of a template's brace begins. Signs before it are words (`{, color}`, `{ (size)}`, `{-size}`),
 * unless they are part of a calculation: a bracket with an operator behind it, a minus before a sum.
 */
export function expressionStart(source: string, start: number, end: number): number {
  const signs = /^[^\p{L}\p{N}_"`]*/u.exec(source.slice(start, end))?.[0] ?? "";
  const first = start + signs.length;
  if (!/[(-]/.test(signs)) return first;
  // Read once: thousands of brackets in a row are no reason to read what follows thousands of times.
  const { tokens } = lex(source, start, end);
  const ends = operandEnds(tokens);
  /** Whether the operand from a token on is followed by one of these operators and another operand. */
  const goesOnWith = (from: number, wanted: ReadonlySet<string>): boolean => {
    const next = ends[from] ?? tokens.length;
    return wanted.has(written(tokens[next]) ?? "") && beginsOperand(tokens[next + 1]);
  };
  for (const [index, token] of tokens.entries()) {
    const { start: at } = token.span;
    if (at >= first) break;
    const sign = written(token);
    if (sign === "(" && goesOnWith(index, operators)) return at;
    // A dash with a blank behind it parts words.
    if (sign === "-" && !/\s/.test(source[at + 1] ?? "") && goesOnWith(index + 1, arithmetic)) return at;
  }
  return first;
}
