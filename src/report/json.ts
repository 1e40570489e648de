import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import { shownItems } from "../core/catalogue/list-text.js";
import { sentence } from "../workspace/wording.js";

/** One finding as a line of JSON Lines: the documented shape of `docs/json.md`. */
export function findingJson(finding: Diagnostic): string {
  const { severity, code, facts, product, channel, category, field, place, notes } = finding;
  return `${jsonText({ type: "finding", severity, code, message: sentence(finding), product, channel, category, field, place, notes, facts })}\n`;
}

/** A line of JSON. */
export const jsonLine = (value: Readonly<Record<string, unknown>>): string => `${jsonText(value)}\n`;

/** JSON in which the mark between several values of a text shows as people write one. */
function jsonText(value: object): string {
  const text = JSON.stringify(value);
  if (!text.includes(String.raw`\u001e`)) return text;
  return JSON.stringify(value, (_, inner: unknown) =>
    typeof inner === "string" ? shownItems(inner, " | ") : inner,
  );
}
