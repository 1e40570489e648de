/** Learning on one screen: sort papers, read columns, gather claims, settle each field, then see the whole. */
import { valuesOf } from "./claim.js";
import { meaningByValues } from "./meaning.js";
import { guessesOf } from "./channel-guesses.js";
import { schemaFields } from "./learned-schema.js";
import { treeOf } from "./learned-tree.js";
import type { LearnedChannel, LearnedField, LearningWishes } from "./learned.js";
import type { Paper } from "./paper.js";
import { settleConditions, settleCategory, fillFields } from "./settle-together.js";
import { sortPapers, type SortedPapers } from "./sort-papers.js";
import { branchesOf } from "./template-branches.js";
import { draftsOf, withExplanations, fieldsOfDrafts, fieldsOfGuides } from "./template-fields.js";

/** Makes a channel of its papers: sort, read columns, gather evidence, settle, then see the whole. */
export function learnChannel(papers: readonly Paper[], wishes: LearningWishes): LearnedChannel {
  const sorted = sortPapers(papers, wishes.sheet);
  const branches = branchesOf(sorted.templates, sorted.categories);
  const drafts = sorted.templates.flatMap((template) => draftsOf(template, sorted, branches));
  const told: string[] = [...sorted.told];
  const explained = withExplanations(drafts, sorted, told);
  const [schema] = sorted.schemas;
  const fromTables = fieldsOfDrafts(explained, branches, wishes, told);
  const named =
    fromTables.length > 0
      ? fromTables
      : schema === undefined
        ? fieldsOfGuides(sorted, wishes)
        : schemaFields(schema, sorted, wishes);
  const fields = named.map((field) => withMeaning(field, wishes));
  const faults = faultsOf(sorted, fields);
  const guesses = guessesOf(fields, schema, sorted, wishes);
  const tree = treeOf(fields, guesses, sorted.categories, branches, told);
  settleCategory(fields, guesses, tree);
  settleConditions(fields);
  fillFields(fields, guesses, wishes);
  return {
    papers: sorted,
    fields,
    schema: fromTables.length > 0 ? undefined : schema,
    branches,
    ...tree,
    guesses,
    told,
    faults,
  };
}

/** A field whose name says nothing may be known by its list: the shop has those words under an attribute. */
function withMeaning(field: LearnedField, { terms }: LearningWishes): LearnedField {
  if (field.meaning !== undefined || terms === undefined) return field;
  const lists = [field.facts, ...field.byBranch.values()].flatMap((facts) =>
    valuesOf(facts.get("values")?.value ?? ""),
  );
  return { ...field, meaning: meaningByValues(lists, terms) };
}

function faultsOf(sorted: SortedPapers, fields: readonly LearnedField[]): readonly string[] {
  if (sorted.faults.length > 0) return sorted.faults;
  if (fields.length > 0 || sorted.categories.length > 0) return [];
  return [
    "no sheet, table or schema among the files names the columns of a listing: at least three headings side by side are wanted",
  ];
}
