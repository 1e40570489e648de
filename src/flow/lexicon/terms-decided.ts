import { fieldNamed, listsOf } from "../../core/channel/definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { editTable } from "../../workspace/edit-table.js";
import { lexiconColumns } from "../../workspace/lexicon-file.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { UnknownTerm } from "./unknown-terms.js";

/** What is decided, to become a row of the lexicon. */
export interface TermDecision {
  readonly field: string;
  readonly term: string;
  readonly value: string;
  /** One of our categories, where it counts there and below only; "": everywhere. */
  readonly category: string;
}

const usage = 'write --set "field: our term = the channel\'s value"';

/** `--set "shade_family: moss = green"`, held against the field's permitted values. */
export const termSet = (
  text: string,
  { definition, files }: ChannelSetup,
  category: string,
): TermDecision => {
  const parsed = /^\s*([^:\s]+)\s*:\s*(.*?)\s*=\s*([^=]*?)\s*$/.exec(text);
  if (parsed === null)
    throw new Refusal([
      diagnostic("unknown-option", { reason: `--set "${text}" is no row of a lexicon; ${usage}` }),
    ]);
  const [, code = "", term = "", wanted = ""] = parsed;
  const field = fieldNamed(definition, code);
  if (field === undefined)
    throw new Refusal([
      diagnostic("unknown-field", { field: code, nearest: nearest(code, definition.fieldNames.all) }),
    ]);
  const lists = listsOf(definition, field);
  const value = lists.map((list) => list.match(wanted)).find((found) => found !== undefined);
  if (lists.length > 0 && value === undefined) {
    const values = lists.flatMap((list) => list.values.map((one) => one.value));
    throw new Refusal([
      diagnostic("unknown-value", {
        label: field.label,
        value: wanted,
        nearest: nearest(wanted, values),
        lexicon: files.lexicon,
      }),
    ]);
  }
  return { field: field.code, term, value: value ?? wanted, category };
};

/** The best proposals that are at least so sure. */
export const termsAccepted = (
  terms: readonly UnknownTerm[],
  least: number,
  category: string,
): readonly TermDecision[] =>
  terms.flatMap(({ field, term, proposals: [best] }) =>
    best !== undefined && best.confidence >= least
      ? [{ field: field.code, term, value: best.value, category }]
      : [],
  );

export const writeTerms = (
  workspace: Workspace,
  channel: string,
  decided: readonly TermDecision[],
  gone: readonly TermDecision[] = [],
): Promise<void> =>
  editTable(
    workspace.path("channels", channel, "lexicon.csv"),
    lexiconColumns,
    ["field", "our_category", "our_term"],
    decided.map(rowOf),
    gone.map(rowOf),
  );

const rowOf = ({ field, term, value, category }: TermDecision) => ({
  field,
  our_category: category,
  our_term: term,
  channel_value: value,
});
