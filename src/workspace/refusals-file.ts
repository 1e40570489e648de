/** `known-refusals.csv`. */
import { fieldNamed, type ChannelDefinition } from "../core/channel/definition.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import type { KnownRefusal } from "../core/listing/known-refusals.js";
import { isThere } from "../formats/is-there.js";
import { editTable } from "./edit-table.js";
import type { Landing } from "./landing/landing.js";
import { readTable } from "./table-file.js";

const columns = ["code", "message", "field", "contains", "means", "act"] as const;

/** Reads `known-refusals.csv`: what a channel refused before, with a person's own words. */
export async function loadRefusals(
  path: string,
  file: string,
  definition: ChannelDefinition,
): Promise<{ readonly rows: readonly KnownRefusal[]; readonly findings: readonly Diagnostic[] }> {
  if (!isThere(path, file)) return { rows: [], findings: [] };
  const findings: Diagnostic[] = [];
  const rows = (await readTable(path, file, ["message"])).map((row): KnownRefusal => {
    const field = row.cell("field");
    if (field !== "" && fieldNamed(definition, field) === undefined)
      findings.push(
        diagnostic(
          "unknown-field",
          { field, nearest: nearest(field, definition.fieldNames.all) },
          { place: row.place("field") },
        ),
      );
    const cell = (name: (typeof columns)[number]): string => row.cell(name);
    return {
      code: cell("code"),
      message: cell("message"),
      field,
      contains: cell("contains"),
      means: cell("means"),
      act: cell("act"),
    };
  });
  return { rows, findings };
}

/** Adds what a channel said for the first time; a person's rows stay as they are. */
export function addRefusals(landing: Landing, path: string, added: readonly KnownRefusal[]): Promise<void> {
  return editTable(landing, path, {
    columns,
    keys: ["code", "message", "field", "contains"],
    edits: added.map((one) => ({ ...one })),
  });
}
