import { plainFinding } from "../finding.js";
import { quote } from "../phrases.js";

/** Definitions of channels. */
export const definitions = {
  "missing-column": plainFinding<{ readonly column: string }>(
    ({ column }) => `the table has no column ${quote(column)}`,
  ),
  "blank-cell": plainFinding<{ readonly column: string }>(
    ({ column }) => `the cell in ${quote(column)} is blank`,
  ),
  "wrong-cell": plainFinding<{ readonly column: string; readonly value: string; readonly expected: string }>(
    ({ column, value, expected }) => `${column} is ${quote(value)}; expected is ${expected}`,
  ),
  "repeated-category": plainFinding<{ readonly category: string }>(
    ({ category }) => `two categories have the code ${quote(category)}`,
  ),
  "orphan-category": plainFinding<{ readonly category: string; readonly parent: string }>(
    ({ category, parent }) => `the parent ${quote(parent)} of ${quote(category)} does not exist`,
  ),
  "category-cycle": plainFinding<{ readonly categories: readonly string[] }>(
    ({ categories }) => `categories stand in a circle: ${categories.join(" > ")}`,
  ),
  "category-too-deep": plainFinding<{ readonly category: string; readonly limit: number }>(
    ({ category, limit }) => `the category ${quote(category)} stands more than ${limit} levels deep`,
  ),
  "field-without-kind": plainFinding<{ readonly field: string }>(
    ({ field }) => `the field ${quote(field)} has no kind in its first row`,
  ),
  "empty-value-list": plainFinding<{ readonly list: string }>(
    ({ list }) => `the value list ${quote(list)} has no values`,
  ),
  "choice-without-list": plainFinding<{ readonly field: string; readonly scope: string }>(
    ({ field, scope }) =>
      `${quote(field)} is a choice and has no list of values in ${quote(scope)}: name one in the column values, or make it a text`,
  ),
  "wrong-pattern-source": plainFinding<{ readonly pattern: string; readonly reason: string }>(
    ({ pattern, reason }) => `the pattern ${quote(pattern)} cannot be used: ${reason}`,
  ),
} as const;
