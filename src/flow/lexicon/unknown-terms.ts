/** Terms of ours that a channel has no value for, by what they hold up. */
import { categoryRules } from "../../core/channel/category-rules.js";
import { fieldNamed } from "../../core/channel/definition.js";
import type { Field } from "../../core/channel/field.js";
import type { ValueList } from "../../core/channel/value-list.js";
import type { Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { Glossary } from "../../core/goods/glossary.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import {
  meaningsOf,
  proposeValues,
  type ListMeanings,
  type ValueProposal,
} from "../../core/listing/fill/lexicon-proposals.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { runChannels } from "../run-channels.js";

/** A term of ours that a field has no value for, with the products that it holds up. */
export interface UnknownTerm {
  readonly field: Field;
  readonly term: string;
  readonly list: ValueList;
  readonly products: number;
  /** The first product with it. */
  readonly sku: string;
  readonly proposals: readonly ValueProposal[];
}

interface FoundTerm {
  readonly field: Field;
  readonly term: string;
  readonly list: ValueList;
  readonly sku: string;
  products: number;
}

/** The list that each field has in a category; a category is resolved once. */
function listsIn({ definition }: ChannelSetup) {
  const known = new Map<string, ReadonlyMap<Field, ValueList | undefined>>();
  return (code: string | undefined, field: Field): ValueList | undefined => {
    const category = code === undefined ? undefined : definition.tree.find(code);
    if (category === undefined) return undefined;
    const lists =
      known.get(category.code) ??
      new Map(categoryRules(definition, category).fields.map((rule) => [rule.field, rule.limits.values]));
    known.set(category.code, lists);
    return lists.get(field);
  };
}

/** Goes through the catalogue for the terms that no value stands for; those that hold up most come first. */
export async function unknownTerms(
  store: Store,
  channel: WorkspaceChannel,
  known: () => Promise<Glossary>,
): Promise<readonly UnknownTerm[]> {
  const { setup } = channel;
  const found = new Map<string, FoundTerm>();
  const listIn = listsIn(setup);
  const note = (finding: Diagnostic, seen: Set<string>): void => {
    if (finding.code !== "unknown-value" || finding.field === undefined) return;
    const field = fieldNamed(setup.definition, finding.field);
    const list = field === undefined ? undefined : listIn(finding.category, field);
    if (field === undefined || list === undefined) return;
    const term = finding.facts.value;
    const key = `${field.code}\u0000${list.name}\u0000${term}`;
    const known = found.get(key);
    if (known === undefined) found.set(key, { field, term, list, sku: finding.product ?? "", products: 1 });
    else if (!seen.has(key)) known.products++;
    seen.add(key);
  };
  await runChannels(store, [
    {
      channel,
      take(outcome) {
        if (outcome.kind !== "held") return;
        const seen = new Set<string>();
        for (const finding of outcome.findings) note(finding, seen);
      },
    },
  ]);
  // What is known of goods is read where a term is open.
  const meanings = new Map<ValueList, ListMeanings>();
  if (found.size > 0) {
    const glossary = await known();
    for (const { list } of found.values())
      if (!meanings.has(list)) meanings.set(list, meaningsOf(list, glossary));
  }
  return [...found.values()]
    .map((one) => ({ ...one, proposals: proposeValues(one.term, one.list, meanings.get(one.list)) }))
    .sort((a, b) => b.products - a.products || (a.term < b.term ? -1 : 1));
}
