import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import { sentence } from "../workspace/wording.js";

/** One finding as a line of JSON Lines: the documented shape of `docs/json.md`. */
export function findingJson(finding: Diagnostic): string {
  const { severity, code, facts, product, channel, category, field, place, notes } = finding;
  return `${JSON.stringify({ type: "finding", severity, code, message: sentence(finding), product, channel, category, field, place, notes, facts })}\n`;
}

/** A line of JSON. */
export const jsonLine = (value: Readonly<Record<string, unknown>>): string => `${JSON.stringify(value)}\n`;
