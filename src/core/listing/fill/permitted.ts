import type { CategoryField } from "../../channel/category-rules.js";
import type { ChannelSetup } from "../channel-setup.js";

/** Our term in the channel's words: the lexicon first, then the definition's own values, labels and synonyms. */
export function permittedFor(
  { lexicon }: Pick<ChannelSetup, "lexicon">,
  { field, limits }: CategoryField,
  ourCategory: string | undefined,
  term: string,
): string | undefined {
  const ours = lexicon.find(field.code, ourCategory, term);
  if (limits.values === undefined) return ours ?? term;
  return limits.values.match(ours ?? term);
}
