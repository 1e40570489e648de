/** `lexicon.csv`, held against the definition. */
import { isThere } from "../formats/is-there.js";
import { fieldNamed, listsOf, type ChannelDefinition } from "../core/channel/definition.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import type { LexiconRow } from "../core/listing/fill/lexicon.js";
import { readTable } from "./table-file.js";

/** Columns of `lexicon.csv`. */
export const lexiconColumns = ["field", "our_category", "our_term", "channel_value"] as const;

interface LoadedLexicon {
  readonly rows: readonly LexiconRow[];
  readonly findings: readonly Diagnostic[];
}

/** Reads `lexicon.csv`; every row is held against the definition's fields and permitted values. */
export async function loadLexicon(
  path: string,
  file: string,
  definition: ChannelDefinition,
): Promise<LoadedLexicon> {
  if (!isThere(path, file)) return { rows: [], findings: [] };
  const findings: Diagnostic[] = [];
  const rows: LexiconRow[] = [];
  for (const row of await readTable(path, file, ["field", "our_term", "channel_value"])) {
    const code = row.cell("field");
    const field = fieldNamed(definition, code);
    if (field === undefined) {
      const facts = { field: code, nearest: nearest(code, definition.fieldNames.all) };
      findings.push(diagnostic("unknown-field", facts, { place: row.place("field") }));
      continue;
    }
    const [ourTerm, channelValue] = [row.cell("our_term"), row.cell("channel_value")];
    if (channelValue === "") continue;
    const lists = listsOf(definition, field);
    if (lists.length > 0 && !lists.some((list) => list.match(channelValue) !== undefined)) {
      const values = lists.flatMap((list) => list.values.map(({ value }) => value));
      const facts = {
        label: field.label,
        value: channelValue,
        nearest: nearest(channelValue, values),
        lexicon: file,
      };
      findings.push(
        diagnostic("unknown-value", facts, { place: row.place("channel_value"), field: field.code }),
      );
      continue;
    }
    rows.push({ field: field.code, ourCategory: row.cell("our_category"), ourTerm, channelValue });
  }
  return { rows, findings };
}
