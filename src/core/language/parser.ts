/**
 * Tokens into a tree, by precedence climbing. Goes on behind a fault, and reads usual slips as what they mean, told as
 * such.
 */
import { addAll } from "../many.js";
import { decimal } from "../values/decimal.js";
import type { Fault } from "./fault.js";
import { expressionStart } from "./brace-start.js";
import { lex } from "./lexer.js";
import { leftOver } from "./left-over.js";
import type { BinaryOperator, Expression, TemplatePart } from "./syntax.js";
import type { Span } from "./span.js";
import type { TextPart, Token } from "./token.js";

/** Brackets, braces and operators may nest this deep; more is no formula that a person reads. */
export const DEPTH_LIMIT = 100;

/** More operators are no formula that a person reads, and each nests the tree one deeper. */
const OPERATOR_LIMIT = 1000;

/** Loosest first; operators of one row bind alike, from the left. */
const precedence: readonly (readonly BinaryOperator[])[] = [
  ["or"],
  ["and"],
  ["=", "!=", "<", "<=", ">", ">="],
  ["+", "-"],
  ["*", "/"],
];
const COMPARISON = 2;

/** `… = blank` asks what `… is blank` asks, of a list as of anything; undefined for another comparison. */
function blankAsked(operator: BinaryOperator, left: Expression, right: Expression): Expression | undefined {
  if (operator !== "=" && operator !== "!=") return undefined;
  if ((left.node === "blank") === (right.node === "blank")) return undefined;
  const operand = left.node === "blank" ? right : left;
  const span = { start: left.span.start, end: right.span.end };
  return { node: "given", operand, given: operator === "!=", span };
}

class Stop extends Error {}

/** The tree of a source, and what is wrong with it. */
export interface Parsed {
  /** Undefined when the source has faults. */
  readonly expression: Expression | undefined;
  /** What it is when each fault is read as what is meant, where that is known: its names can be looked at all the same. */
  readonly meant: Expression | undefined;
  readonly faults: readonly Fault[];
}

/** Parses a whole source text; every fault that can be told apart is reported. */
export function parse(source: string): Parsed {
  const lexed = lex(source);
  const own: Fault[] = [];
  const expression = new Parser(source, lexed.tokens, own, 0).whole();
  // Behind a sign that means nothing, what the parser misses follows from that.
  const [first] = lexed.faults;
  const faults = [
    ...lexed.faults,
    ...own.filter(({ span }) => first === undefined || span.start < first.span.start),
  ].sort((a, b) => a.span.start - b.span.start);
  const isWhole = own.length === 0;
  return {
    expression: faults.length === 0 && isWhole ? expression : undefined,
    meant: isWhole ? expression : undefined,
    faults,
  };
}

/** A recursive-descent parser over one run of tokens; braces in texts get a parser of their own. */
class Parser {
  private at = 0;
  private operators = 0;
  /** The bracket behind an "if": with a comma in it, the whole is a spreadsheet's function. */
  private choiceBracket = -1;

  constructor(
    private readonly source: string,
    private readonly tokens: readonly Token[],
    private readonly faults: Fault[],
    private depth: number,
  ) {}

  whole(): Expression | undefined {
    return this.attempt(() => {
      const expression = this.expression();
      if (this.next.token !== "end")
        this.fail(leftOver(this.source, this.shown(expression.span), expression, this.next), this.next.span);
      return expression;
    });
  }

  /** A brace's inside: words, an expression, words. Quoted texts beside the expression count as words. */
  brace(before: string, end: number): TemplatePart | undefined {
    return this.attempt(() => {
      const lead = this.leadingWords();
      const expression = this.expression();
      let after = "";
      let from = expression.span.end;
      while (this.next.token === "text" && plainWords(this.next.parts) !== undefined) {
        after += plainWords(this.next.parts) ?? "";
        from = this.advance().span.end;
      }
      return {
        part: "brace",
        before: before + lead,
        expression,
        after: after + this.source.slice(from, end),
      };
    });
  }

  private leadingWords(): string {
    const following = this.tokens[this.at + 1];
    if (this.next.token !== "text" || following === undefined) return "";
    const startsOperand =
      following.token === "name" ||
      following.token === "number" ||
      following.token === "text" ||
      isSign(following, "(");
    const words = plainWords(this.next.parts);
    if (!startsOperand || words === undefined) return "";
    this.advance();
    return words;
  }

  private expression(): Expression {
    return this.nested(() => (this.isWord("if") ? this.choice() : this.binary(0)));
  }

  private choice(): Expression {
    const { start } = this.advance().span;
    if (isSign(this.next, "(")) this.choiceBracket = this.at;
    const condition = this.expression();
    this.expectWord("then");
    const then = this.expression();
    const otherwise = this.takeWord("else") ? this.expression() : undefined;
    return { node: "if", condition, then, otherwise, span: { start, end: (otherwise ?? then).span.end } };
  }

  private binary(level: number): Expression {
    const operators = precedence[level];
    if (operators === undefined) return this.unary();
    let left = this.operand(level);
    for (;;) {
      const operator = this.operatorOf(operators);
      if (operator === undefined) return left;
      if (
        level === COMPARISON &&
        left.node === "binary" &&
        precedence[COMPARISON]?.includes(left.operator) === true
      )
        this.fail('one comparison at a time: join two with "and"', this.next.span);
      if (++this.operators > OPERATOR_LIMIT)
        this.fail(`an expression has at most ${OPERATOR_LIMIT} operators; split it`, this.next.span);
      this.advance();
      const right = this.isWord("if") ? this.choice() : this.operand(level);
      const asked = blankAsked(operator, left, right);
      if (asked !== undefined) {
        left = asked;
        continue;
      }
      left = { node: "binary", operator, left, right, span: { start: left.span.start, end: right.span.end } };
    }
  }

  private operand(level: number): Expression {
    const inner = this.binary(level + 1);
    return level === COMPARISON ? this.relation(inner) : inner;
  }

  /** `… is given`, `… is blank`, `… under "Path"`: they bind like comparisons. */
  private relation(operand: Expression): Expression {
    if (this.takeWord("is")) {
      const negated = this.takeWord("not");
      const word = this.advance();
      if (word.token !== "keyword" || (word.word !== "given" && word.word !== "blank"))
        return this.fail('"is" is followed by "given" or "blank"; for equality write =', word.span);
      const given = (word.word === "given") !== negated;
      return { node: "given", operand, given, span: { start: operand.span.start, end: word.span.end } };
    }
    if (!this.takeWord("under")) return operand;
    const path = this.advance();
    const words = path.token === "text" ? plainWords(path.parts) : undefined;
    if (words === undefined)
      return this.fail('"under" is followed by a category path in double quotes', path.span);
    return { node: "under", operand, path: words, span: { start: operand.span.start, end: path.span.end } };
  }

  private unary(): Expression {
    const { span } = this.next;
    if (this.takeWord("not"))
      return this.prefixed(
        "not",
        span,
        this.nested(() => this.operand(COMPARISON)),
      );
    if (this.takeSign("-"))
      return this.prefixed(
        "negate",
        span,
        this.nested(() => this.unary()),
      );
    return this.conversion(this.primary());
  }

  private prefixed(node: "not" | "negate", span: Span, operand: Expression): Expression {
    return { node, operand, span: { start: span.start, end: operand.span.end } };
  }

  private conversion(operand: Expression): Expression {
    let result = operand;
    while (this.takeWord("in")) {
      const unit = this.advance();
      if (unit.token !== "name")
        return this.fail('"in" is followed by a unit or a currency, such as kg or EUR', unit.span);
      const span = { start: operand.span.start, end: unit.span.end };
      result = { node: "convert", operand: result, to: unit.name, toSpan: unit.span, span };
    }
    return result;
  }

  private primary(): Expression {
    const token = this.advance();
    const { span } = token;
    switch (token.token) {
      case "name":
        return !token.quoted && isSign(this.next, "(")
          ? this.call(token.name, span)
          : { node: "name", name: token.name, span };
      case "number": {
        const value = decimal(token.digits);
        return value === undefined
          ? this.fail("a number has at most 30 digits before the point and 20 behind it", span)
          : { node: "literal", value, span };
      }
      case "text":
        return this.text(token.parts, span);
      case "keyword":
        if (token.word === "yes" || token.word === "no")
          return { node: "literal", value: token.word === "yes", span };
        if (token.word === "blank") return { node: "blank", span };
        return this.fail(
          `"${token.word}" cannot stand here; as an attribute's name put it in backquotes`,
          span,
        );
      case "sign":
        if (token.sign === "(") {
          const open = this.at - 1;
          const inner = this.expression();
          if (open === this.choiceBracket && isSign(this.next, ","))
            this.fail("a choice is written if … then … else …, without brackets and commas", this.next.span);
          const close = this.expectSign(")");
          return { ...inner, span: { start: span.start, end: close.end } };
        }
        if (token.sign === "=" && this.at === 1)
          return this.fail("an expression stands without = before it", span);
        return this.fail(`a value is expected before "${token.sign}"`, span);
      case "end":
        return this.fail("a value is expected here", span);
    }
  }

  private call(name: string, { start }: Span): Expression {
    this.advance();
    const args: Expression[] = [];
    if (!isSign(this.next, ")")) {
      do args.push(this.expression());
      while (this.takeSign(","));
    }
    const close = this.expectSign(")");
    return { node: "call", name, args, span: { start, end: close.end } };
  }

  private text(parts: readonly TextPart[], span: Span): Expression {
    const words = plainWords(parts);
    // A text with nothing in it is blank, written out as well as worked out.
    if (words === "") return { node: "blank", span };
    if (words !== undefined) return { node: "literal", value: words, span };
    const template: TemplatePart[] = [];
    for (const part of parts) {
      const read = part.part === "words" ? part : this.nested(() => this.braceAt(part.start, part.end));
      if (read !== undefined) template.push(read);
    }
    return { node: "template", parts: template, span };
  }

  private braceAt(start: number, end: number): TemplatePart | undefined {
    const from = expressionStart(this.source, start, end);
    const before = this.source.slice(start, from);
    if (from === end) {
      this.faults.push({
        fault: "syntax",
        reason: "this brace holds no attribute; a brace itself is written {{",
        span: { start, end },
      });
      return undefined;
    }
    const { tokens, faults } = lex(this.source, from, end);
    const own: Fault[] = [];
    const part = new Parser(this.source, tokens, own, this.depth).brace(before, end);
    // Signs behind the expression are words of the brace: only faults inside the expression count.
    const last = part?.part === "brace" ? part.expression.span.end : end;
    addAll(this.faults, own);
    addAll(
      this.faults,
      faults.filter(({ span }) => span.start < last),
    );
    return part;
  }

  private nested<T>(read: () => T): T {
    if (++this.depth > DEPTH_LIMIT) {
      this.faults.push({ fault: "too-deep", limit: DEPTH_LIMIT, span: this.next.span });
      throw new Stop();
    }
    const result = read();
    this.depth--;
    return result;
  }

  private attempt<T>(read: () => T): T | undefined {
    try {
      return read();
    } catch (stop) {
      if (stop instanceof Stop) return undefined;
      throw stop;
    }
  }

  private get next(): Token {
    return (
      this.tokens[this.at] ?? { token: "end", span: { start: this.source.length, end: this.source.length } }
    );
  }

  private advance(): Token {
    const token = this.next;
    if (token.token !== "end") this.at++;
    return token;
  }

  private operatorOf(operators: readonly BinaryOperator[]): BinaryOperator | undefined {
    const token = this.next;
    const written = token.token === "sign" ? token.sign : token.token === "keyword" ? token.word : undefined;
    return operators.find((operator) => operator === written);
  }

  private isWord(word: string): boolean {
    return this.next.token === "keyword" && this.next.word === word;
  }

  private takeWord(word: string): boolean {
    if (!this.isWord(word)) return false;
    this.at++;
    return true;
  }

  private takeSign(sign: string): boolean {
    if (!isSign(this.next, sign)) return false;
    this.at++;
    return true;
  }

  private expectWord(word: string): void {
    if (!this.takeWord(word)) this.fail(`"${word}" is expected here`, this.next.span);
  }

  private expectSign(sign: string): Span {
    const { span } = this.next;
    if (!this.takeSign(sign)) this.fail(`"${sign}" is expected here`, span);
    return span;
  }

  private shown({ start, end }: Span): string {
    const text = this.source.slice(start, end).replace(/\s+/g, " ");
    return text.length > 40 ? `${text.slice(0, 40)}…` : text;
  }

  private fail(reason: string, span: Span): never {
    this.faults.push({ fault: "syntax", reason, span });
    throw new Stop();
  }
}

const isSign = (token: Token, sign: string): boolean => token.token === "sign" && token.sign === sign;

function plainWords(parts: readonly TextPart[]): string | undefined {
  if (parts.length === 0) return "";
  const [only] = parts;
  return parts.length === 1 && only?.part === "words" ? only.words : undefined;
}
