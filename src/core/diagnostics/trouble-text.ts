/** What could not be worked out, as a sentence. */
import { assertNever } from "../assert-never.js";
import type { FileNames } from "./file-names.js";
import type { TroubleFacts } from "./trouble-facts.js";

const orNearest = (names: readonly string[]): string =>
  names.length === 0 ? "" : `; nearest: ${names.map((name) => `"${name}"`).join(", ")}`;

/** What could not be worked out, and what to do, in one sentence. */
export function troubleText(facts: TroubleFacts, files: FileNames): string {
  switch (facts.trouble) {
    case "divided-by-zero":
      return "it is divided by 0";
    case "number-too-large":
      return "the number has more than 30 digits before the point";
    case "kinds-apart":
      return `${facts.left} and ${facts.right} cannot be calculated together`;
    case "no-rate":
      return `there is no rate from ${facts.from} to ${facts.to} on ${facts.day}; add a row to ${files.rates}`;
    case "no-table":
      return `there is no table ${files.table(facts.table)}${orNearest(facts.nearest)}`;
    case "no-table-column":
      return `the table "${facts.table}" has no column "${facts.column}"${orNearest(facts.nearest)}`;
    case "no-table-row":
      return `the table "${facts.table}" has no row for ${facts.key}; add one to ${files.table(facts.table)}`;
    case "not-readable":
      return `"${facts.value}" cannot be read as ${facts.wanted}`;
    case "wrong-argument":
      return `${facts.name}: ${facts.reason}`;
    case "members-differ":
      return `the members of the group differ in ${facts.attribute} (${facts.values.slice(0, 3).join(", ")}${facts.values.length > 3 ? ", …" : ""}), and the field is the group's; say in its fill which counts (group_greatest, group_least, group_values), or give them one value`;
    case "fill-circle":
      return `fills wait for each other: ${facts.fields.join(" → ")}`;
    default:
      return assertNever(facts);
  }
}

/** The same of many products, whose own values are not told. */
export const troubleOfMany = (facts: TroubleFacts, files: FileNames): string =>
  facts.trouble === "not-readable"
    ? `what stands there cannot be read as ${facts.wanted}`
    : troubleText(facts, files);

/** Two troubles with the same key are one thing to settle. */
export const troubleKey = (facts: TroubleFacts): string =>
  facts.trouble === "not-readable" ? `not readable as ${facts.wanted}` : JSON.stringify(facts);
