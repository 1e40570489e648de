/** What people bring along from spreadsheets and other languages, with what they mean here. */
import { ownOf } from "../own.js";
/** What people bring along from spreadsheets and programming languages, and how it is said here. */

/** Signs that mean something elsewhere, with the one that is meant. */
export const signHabits: ReadonlyMap<string, { readonly meant: string; readonly reason: string }> = new Map([
  ["==", { meant: "=", reason: "equality is written with one =" }],
  ["<>", { meant: "!=", reason: "unequal is written !=" }],
  ["=>", { meant: ">=", reason: '"at least" is written >=' }],
  ["=<", { meant: "<=", reason: '"at most" is written <=' }],
  ["&&", { meant: "and", reason: 'two conditions are joined with the word "and"' }],
  ["||", { meant: "or", reason: 'two conditions are joined with the word "or"' }],
  // Read as a word that joins anything, so that what stands around it is checked.
  ["&", { meant: "or", reason: 'texts are joined in a template, such as "{brand} {name}", not with &' }],
  [";", { meant: ",", reason: "arguments are parted with commas" }],
]);

/** Signs that nothing stands for, with what to write. */
const strays: Readonly<Record<string, string>> = {
  "%": "a percentage is written as a factor, such as price * 0.9, or with marked_up(price, 10)",
  "?": "a choice is written if … then … else …",
  "[": "a list has no square brackets: first(images) and nth(images, 2) take one of its values",
  "]": "a list has no square brackets: first(images) and nth(images, 2) take one of its values",
  ":": "a choice is written if … then … else …",
  "{": 'a brace stands inside a text: "{brand}"',
  "}": 'a brace stands inside a text: "{brand}"',
  $: 'an amount is written money(12.50, "GBP")',
  "£": 'an amount is written money(12.50, "GBP")',
  "€": 'an amount is written money(12.50, "EUR")',
  "!": 'write the word "not", or != for unequal',
  "^": "there are no powers; multiply",
  ".": "a point stands between the digits of a number alone; a function is written upper(name)",
  "`": "this backquote is never closed",
};

/** Why a sign means nothing here, and what does. */
export function strayReason(character: string): string {
  if (character === "“" || character === "”" || character === "'" || character === "„")
    return `texts stand in straight double quotes ("), not in ${character}`;
  return ownOf(strays, character) ?? `"${character}" has no meaning here`;
}

// Functions of spreadsheets: name | what to write here
const functions = `
concat | texts are joined in a template, such as "{brand} {name}"
concatenate | texts are joined in a template, such as "{brand} {name}"
textjoin | a list is joined with join(list, ", "), texts in a template
if | a choice is written if … then … else …
ifs | a choice is written if … then … else if … then … else …
switch | a choice is written if … then … else …
iferror | "or" takes the next value: price / quantity or price
ifna | "or" takes the next value: from_table(…) or "none"
and | conditions are joined with the word "and"
not | write the word "not" before the condition
isblank | write: color is blank
len | write characters(text)
left | write fit(text, 40) or first_words(text, 3)
right | write last_words(text, 3)
mid | write after(text, piece) or before(text, piece)
find | write contains(text, piece)
search | write contains(text, piece)
substitute | write replace(text, piece, by)
regexreplace | write replace(text, piece, by)
proper | write capitalized_words(text)
vlookup | write from_table("table", "column", key)
xlookup | write from_table("table", "column", key)
hlookup | write from_table("table", "column", key)
lookup | write from_table("table", "column", key), or from_band for limits
index | write nth(list, 2), or from_table("table", "column", key)
match | write from_table("table", "column", key)
roundup | write round_up(value, decimals)
rounddown | write round_down(value, decimals)
ceiling | write round_up(value), price_ending(price, 0.99) or cash_step(price, 0.05)
floor | write round_down(value)
int | write whole(value)
min | write at_most(value, bound)
max | write at_least(value, bound)
sum | write a + b
convert | write: weight in kg
value | write number(text)
text | write date_text(date, "DD.MM.YYYY"), or put the value in a template: "{price}"
hyperlink | write the address alone
clean | write trim(text)
`;

const byName = new Map(
  functions
    .trim()
    .split("\n")
    .map((line) => line.split(" | ") as [string, string]),
);

/** How a function of spreadsheets is said here; undefined where none of that name is usual. */
export const functionHabit = (name: string): string | undefined => byName.get(name.toLowerCase());
