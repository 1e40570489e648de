import type { Diagnostic, Note } from "../core/diagnostics/diagnostic.js";
import { sentence } from "../workspace/wording.js";

/** The header of findings as a table for a spreadsheet. */
export const findingColumns: readonly string[] = [
  ...["severity", "code", "channel", "sku", "category", "field", "message"],
  ...["file", "row", "column", "fill_file", "fill_line", "rule_file", "rule_row"],
];

const text = (number: number | undefined): string => (number === undefined ? "" : String(number));

/** One finding as a row of cells. */
export function findingCells(finding: Diagnostic): readonly string[] {
  const { severity, code, channel = "", product = "", category = "", field = "", place, notes } = finding;
  const at = (wanted: Note["note"]) => notes?.find(({ note }) => note === wanted)?.place;
  const [fill, rule] = [at("fill"), at("rule")];
  return [
    ...[severity, code, channel, product, category, field, sentence(finding)],
    ...[place?.file ?? "", text(place?.row ?? place?.line), place?.column ?? ""],
    ...[fill?.file ?? "", text(fill?.line), rule?.file ?? "", text(rule?.row ?? rule?.line)],
  ];
}
