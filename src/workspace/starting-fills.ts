/**
 * The fills that a definition suggests, as a shop begins with them: in its language and currency, and without facts that
 * nothing in its catalogue says. Expressions are asked by their parts, never by their letters.
 */
import { attributeIndex, withAttributes, type AttributeIndex } from "../core/catalogue/attribute-index.js";
import { vocabulary } from "../core/catalogue/vocabulary.js";
import type { ChannelDefinition } from "../core/channel/definition.js";
import type { Field } from "../core/channel/field.js";
import { parse } from "../core/language/parser.js";
import { partsOf } from "../core/language/parts.js";
import { program } from "../core/language/program.js";
import type { Span } from "../core/language/span.js";
import type { Expression } from "../core/language/syntax.js";
import { fillNames, unusedLanguages } from "../core/listing/fill/fill-names.js";
import { isDecimal } from "../core/values/decimal.js";
import { shownText } from "../core/values/show.js";

/** What a shop's suggested fills depend on: its language and currency, and the attributes of its catalogue. */
export interface ShopFacts {
  readonly language: string;
  readonly currency: string;
  readonly attributes?: AttributeIndex;
  /** The shop's own web address, where it is known. */
  readonly address?: string;
}

/** A fill that a definition suggests. */
export interface SuggestedFill {
  readonly code: string;
  readonly label: string;
  readonly fill: string;
  /** Whether the catalogue has all that it names, and it says nothing of the shop that only the shop can say. */
  readonly isReady: boolean;
  /** What a person is to know of it. */
  readonly note?: string | undefined;
}

/** The fills that a definition suggests, in the shop's own language and currency. */
export function startingFills(definition: ChannelDefinition, shop: ShopFacts): readonly SuggestedFill[] {
  const isReady = readiness(definition, shop);
  return definition.fields
    .filter(({ suggestedFill }) => suggestedFill !== "")
    .map(({ code, label, suggestedFill, defaultValue }) => {
      const { fill, note } = inOwnWords(suggestedFill, definition, shop);
      const fact = factIn(fill, { defaultValue });
      // What nothing in the catalogue says is asked.
      if (fact === undefined) return { code, label, fill, isReady: isReady(fill), note };
      if (fact === "whole")
        return {
          code,
          label,
          fill,
          isReady: false,
          note: "take the # away where this is true of all your goods",
        };
      const asked = `where this is true of all your goods, write ${fill}`;
      return { code, label, fill: fact.without, isReady: isReady(fact.without), note: note ?? asked };
    });
}

/** An expression's nodes, each before its parts. */
function* nodesOf(expression: Expression): Generator<Expression> {
  yield expression;
  for (const part of partsOf(expression)) yield* nodesOf(part);
}

/** All nodes of a fill; none where it does not parse, which is told when it is read. */
function nodesIn(fill: string): readonly Expression[] {
  const { expression } = parse(fill);
  return expression === undefined ? [] : [...nodesOf(expression)];
}

/** A stretch of a fill, and what stands there instead. */
interface Change {
  readonly span: Span;
  readonly text: string;
}

/** A fill with stretches of it replaced; of two that overlap the later one counts. */
function withChanges(fill: string, changes: readonly Change[]): string {
  let changed = fill;
  let before = fill.length + 1;
  for (const { span, text } of [...changes].sort(
    (a, b) => b.span.end - a.span.end || a.span.start - b.span.start,
  )) {
    if (span.end > before) continue;
    changed = changed.slice(0, span.start) + text + changed.slice(span.end);
    before = span.start;
  }
  return changed;
}

/** A value that stands in the fill itself: words, a number, yes. */
const isWritten = (expression: Expression): boolean => expression.node === "literal";

const isNumber = (expression: Expression): boolean =>
  expression.node === "literal" && isDecimal(expression.value);

/** Whether an amount or a number of days is made from what stands in the fill: carriage of 5.20, two days more. */
const makesUp = (node: Expression): boolean =>
  (node.node === "call" && node.name === "money" && node.args.some(isNumber)) ||
  (node.node === "binary" && /^[-+*]$/.test(node.operator) && (isNumber(node.left) || isNumber(node.right)));

/**
 * What of a fill states a fact of the shop or its goods that no value of the catalogue says, such as days, carriage, or that
 * all is new; undefined where nothing does. What the channel takes a blank for is no such fact.
 */
function factIn(
  fill: string,
  { defaultValue }: Pick<Field, "defaultValue">,
): "whole" | { readonly without: string } | undefined {
  const nodes = nodesIn(fill);
  const [whole] = nodes;
  if (whole === undefined) return undefined;
  if (whole.node === "literal")
    return shownText(whole.value) === defaultValue && defaultValue !== "" ? undefined : "whole";
  if (nodes.some(makesUp)) return "whole";
  // A choice says by what it chooses; what stands behind an "or" is said where nothing is known.
  if (whole.node === "if") return undefined;
  const made = nodes.flatMap((node) =>
    node.node === "binary" && node.operator === "or" && isWritten(node.right)
      ? [{ span: { start: node.left.span.end, end: node.right.span.end }, text: "" }]
      : [],
  );
  return made.length === 0 ? undefined : { without: withChanges(fill, made) };
}

// What is said in words of a language.
const spoken: ReadonlySet<string> = new Set(["name", "description", "features", "keywords"]);

/**
 * A fill in a shop's own words: `price@EUR` is the price of a shop that sells in euro, `name@de` the name in a shop that
 * speaks German; and a bare name is the one in the channel's language, where the catalogue has that.
 */
function inOwnWords(
  fill: string,
  { languages: [language = ""] }: ChannelDefinition,
  shop: ShopFacts,
): { readonly fill: string; readonly note: string | undefined } {
  const has = (name: string): boolean => shop.attributes?.slot(name) !== undefined;
  const names = nodesIn(fill).flatMap((node) => (node.node === "name" ? [node] : []));
  const bare =
    language === "" || language === shop.language ? [] : names.filter(({ name }) => spoken.has(name));
  const changes = names.flatMap(({ name, span }): readonly Change[] => {
    const [base = "", mark] = name.split("@");
    const inChannels = `${name}@${language}`;
    if (mark === undefined)
      return bare.some((one) => one.span === span) && has(inChannels) ? [{ span, text: inChannels }] : [];
    if (has(name)) return [];
    if (mark === shop.currency) return [{ span, text: `(${base} in ${shop.currency})` }];
    return mark === shop.language ? [{ span, text: base }] : [];
  });
  const note = bare.every(({ name }) => has(`${name}@${language}`))
    ? `the channel's language is ${language}, the shop's ${shop.language}`
    : `the channel's language is ${language}, and the catalogue has no words in it: these are ${shop.language}`;
  return { fill: withChanges(fill, changes), note: bare.length === 0 ? undefined : note };
}

/** A fill that names what the catalogue does not have waits as a comment, until it does. */
function readiness(
  definition: ChannelDefinition,
  { attributes = attributeIndex(vocabulary) }: ShopFacts,
): (fill: string) => boolean {
  const known = withAttributes(attributes, vocabulary);
  const names = fillNames(known, definition);
  return (fill) =>
    unusedLanguages(fill, names).length === 0 &&
    program({ text: fill, place: { file: "fields.csv" } }, names, { today: ANY_DAY }).kind === "program";
}

// Fills are checked as any day would do: none is run.
const ANY_DAY = { kind: "date", iso: "2000-01-01" } as const;
