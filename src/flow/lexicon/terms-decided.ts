/** Decisions on terms, held against the field's permitted values. */
import { fieldNamed, listsOf } from "../../core/channel/definition.js";
import type { Field } from "../../core/channel/field.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { editTable } from "../../workspace/edit-table.js";
import { lexiconColumns } from "../../workspace/lexicon-file.js";
import type { WritableWorkspace } from "../open-catalogue.js";
import type { UnknownTerm } from "./unknown-terms.js";

/** What is decided, to become a row of the lexicon. */
export interface TermDecision {
  readonly field: string;
  readonly term: string;
  readonly value: string;
  /** One of our categories, where it counts there and below only; "": everywhere. */
  readonly category: string;
}

/** The field that terms are asked of. */
export function termField(code: string, { definition }: ChannelSetup): Field {
  const field = fieldNamed(definition, code);
  if (field !== undefined) return field;
  throw new Refusal([
    diagnostic("unknown-field", { field: code, nearest: nearest(code, definition.fieldNames.all) }),
  ]);
}

/** `--set "moss=green"`: ours = theirs, held against the field's permitted values. */
export function termSet(
  text: string,
  field: Field,
  { definition, channel }: ChannelSetup,
  category: string,
): TermDecision {
  const at = text.lastIndexOf("=");
  const [term, wanted] = [text.slice(0, Math.max(0, at)).trim(), text.slice(at + 1).trim()];
  if (term === "" || wanted === "")
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `--set "${text}" is no row of a lexicon; write --set "our term=the channel's value"`,
      }),
    ]);
  const lists = listsOf(definition, field);
  const value = lists.map((list) => list.match(wanted)).find((found) => found !== undefined);
  if (lists.length > 0 && value === undefined) {
    const values = lists.flatMap((list) => list.values.map((one) => one.value));
    throw new Refusal([
      diagnostic("unknown-channel-value", {
        label: field.label,
        value: wanted,
        nearest: nearest(wanted, values),
        channel,
        field: field.code,
      }),
    ]);
  }
  return { field: field.code, term, value: value ?? wanted, category };
}

/** The best proposals that are at least so sure. */
export function termsAccepted(
  terms: readonly UnknownTerm[],
  least: number,
  category: string,
): readonly TermDecision[] {
  return terms.flatMap(({ field, term, proposals: [best] }) =>
    best !== undefined && best.confidence >= least
      ? [{ field: field.code, term, value: best.value, category }]
      : [],
  );
}

/** Writes decisions as rows of the lexicon. */
export function writeTerms(
  { workspace, landing }: WritableWorkspace,
  channel: string,
  decided: readonly TermDecision[],
  gone: readonly TermDecision[] = [],
): Promise<void> {
  return editTable(landing, workspace.path("channels", channel, "lexicon.csv"), {
    columns: lexiconColumns,
    keys: ["field", "our_category", "our_term"],
    edits: decided.map(rowOf),
    gone: gone.map(rowOf),
  });
}

const rowOf = ({ field, term, value, category }: TermDecision) => ({
  field,
  our_category: category,
  our_term: term,
  channel_value: value,
});
