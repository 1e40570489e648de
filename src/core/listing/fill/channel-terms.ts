import { fieldNamed, listsOf, type ChannelDefinition } from "../../channel/definition.js";
import type { Lexicon } from "./lexicon.js";

/** The channel's word for our term in a field, whatever the category: the first of the field's lists that knows it. */
export const channelTerms =
  (definition: ChannelDefinition, lexicon: Lexicon) =>
  (code: string, term: string): string | undefined => {
    const field = fieldNamed(definition, code);
    if (field === undefined) return undefined;
    const ours = lexicon.find(field.code, undefined, term) ?? term;
    const lists = listsOf(definition, field);
    if (lists.length === 0) return ours === term ? undefined : ours;
    for (const list of lists) {
      const permitted = list.match(ours);
      if (permitted !== undefined) return permitted;
    }
    return undefined;
  };
