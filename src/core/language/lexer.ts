/** Source text into tokens. Goes on behind a fault, so that all of them show. */
import { ownOf } from "../own.js";
import type { Fault } from "./fault.js";
import { signHabits, strayReason } from "./habits.js";
import type { Span } from "./span.js";
import { keywords, type Keyword, type TextPart, type Token } from "./token.js";

const space = /\s+/y;
const number = /\d+(?:\.\d+)?/y;
// Letters of any language, so that a user's own attributes need no quoting; `@` carries a language or currency.
const name = /[\p{L}_][\p{L}\p{N}_]*(?:@[A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)?/uy;
const quotedName = /`([^`\n]+)`/y;
const sign = /<=|>=|!=|[-+*/=<>(),]/y;
const habit = /==|<>|=>|=<|&&|\|\||&|;/y;
const isKeyword = (word: string): word is Keyword => (keywords as readonly string[]).includes(word);

function match(pattern: RegExp, source: string, at: number): RegExpExecArray | null {
  pattern.lastIndex = at;
  return pattern.exec(source);
}

/** Behind the closing brace of a template's brace, minding texts and braces inside it. */
function braceEnd(source: string, start: number, limit: number): number {
  let inText = false;
  for (let i = start; i < limit; i++) {
    const character = source[i];
    if (character === "\\" && inText) i++;
    else if (character === '"') inText = !inText;
    else if (character === "`" && !inText) {
      const close = source.indexOf("`", i + 1);
      if (close < 0) return limit;
      i = close;
    } else if (character === "}" && !inText) return i + 1;
  }
  return limit;
}

const escapes: Readonly<Record<string, string>> = { n: "\n", t: "\t" };

interface TextScan {
  readonly parts: readonly TextPart[];
  readonly end: number;
  readonly fault?: Fault;
}

/** Reads a double-quoted text from behind its opening quote. `{{` and `}}` stand for the braces themselves. */
function scanText(source: string, open: number, limit: number): TextScan {
  const parts: TextPart[] = [];
  let words = "";
  let stray: Fault | undefined;
  const flush = (): void => {
    if (words !== "") parts.push({ part: "words", words });
    words = "";
  };
  let i = open + 1;
  while (i < limit && source[i] !== '"') {
    const character = source[i] ?? "";
    const next = source[i + 1] ?? "";
    if (character === "\\") {
      words += ownOf(escapes, next) ?? next;
      i += 2;
    } else if ((character === "{" || character === "}") && next === character) {
      words += character;
      i += 2;
    } else if (character === "{") {
      flush();
      const end = braceEnd(source, i + 1, limit);
      if (source[end - 1] !== "}")
        return {
          parts,
          end: limit,
          fault: { fault: "syntax", reason: "this brace is never closed", span: { start: i, end: i + 1 } },
        };
      parts.push({ part: "brace", start: i + 1, end: end - 1 });
      i = end;
    } else if (character === "}") {
      const reason = "this brace was never opened; a brace itself is written }}";
      stray ??= { fault: "syntax", reason, span: { start: i, end: i + 1 } };
      i++;
    } else if (character === "\n") {
      // A text that a file folds over lines reads as one line.
      words = `${words.trimEnd()} `;
      i += /\n\s*/y.exec(source.slice(i))?.[0].length ?? 1;
    } else {
      words += character;
      i++;
    }
  }
  flush();
  if (i >= limit)
    return {
      parts,
      end: limit,
      fault: { fault: "syntax", reason: "this text is never closed", span: { start: open, end: open + 1 } },
    };
  return { parts, end: i + 1, ...(stray === undefined ? {} : { fault: stray }) };
}

/** Tokens, and what could not be cut. */
export interface Lexed {
  readonly tokens: readonly Token[];
  readonly faults: readonly Fault[];
}

/** Cuts a stretch of source into tokens; goes on behind a fault, so that all faults of an expression show at once. */
export function lex(source: string, start = 0, limit = source.length): Lexed {
  const tokens: Token[] = [];
  const faults: Fault[] = [];
  let at = start;
  // One habit is told once, however often it is met.
  const tell = (reason: string, span: Span): void => {
    if (!faults.some((fault) => fault.fault === "syntax" && fault.reason === reason))
      faults.push({ fault: "syntax", reason, span });
  };
  const take = (found: RegExpExecArray | null): string | undefined =>
    found === null || at + found[0].length > limit ? undefined : found[0];
  while (at < limit) {
    const blank = take(match(space, source, at));
    if (blank !== undefined) {
      at += blank.length;
      continue;
    }
    if (source[at] === '"') {
      const text = scanText(source, at, limit);
      if (text.fault !== undefined) faults.push(text.fault);
      tokens.push({ token: "text", parts: text.parts, span: { start: at, end: text.end } });
      at = text.end;
      continue;
    }
    const written = take(match(habit, source, at));
    const known = written === undefined ? undefined : signHabits.get(written);
    if (written !== undefined && known !== undefined) {
      const span = { start: at, end: at + written.length };
      tell(known.reason, span);
      // Read as what is meant, so that the rest of the expression is looked at, too.
      tokens.push(
        isKeyword(known.meant)
          ? { token: "keyword", word: known.meant, span }
          : { token: "sign", sign: known.meant, span },
      );
      at = span.end;
      continue;
    }
    const lexeme = nextToken(source, at, take);
    if (lexeme === undefined) tell(strayReason(source[at] ?? ""), { start: at, end: at + 1 });
    else tokens.push(lexeme);
    at = lexeme?.span.end ?? at + 1;
  }
  tokens.push({ token: "end", span: { start: limit, end: limit } });
  return { tokens, faults };
}

function nextToken(
  source: string,
  at: number,
  take: (found: RegExpExecArray | null) => string | undefined,
): Token | undefined {
  const span = (length: number) => ({ start: at, end: at + length });
  const word = take(match(name, source, at));
  if (word !== undefined)
    return isKeyword(word)
      ? { token: "keyword", word, span: span(word.length) }
      : { token: "name", name: word, quoted: false, span: span(word.length) };
  const digits = take(match(number, source, at));
  if (digits !== undefined) return { token: "number", digits, span: span(digits.length) };
  const odd = take(match(quotedName, source, at));
  if (odd !== undefined)
    return { token: "name", name: odd.slice(1, -1), quoted: true, span: span(odd.length) };
  const mark = take(match(sign, source, at));
  return mark === undefined ? undefined : { token: "sign", sign: mark, span: span(mark.length) };
}
