/** What was learned of a channel, before it is written. */
import type { ListedCategory } from "./category-list.js";
import type { Fact, PaperPlace } from "./claim.js";
import type { Corrections } from "./corrections.js";
import type { FieldColumn } from "./join-columns.js";
import type { FieldMeaning } from "./meaning.js";
import type { SchemaReading } from "./schemas/schema-reading.js";
import type { SettledFacts, Settled } from "./settle.js";
import type { SortedPapers, Template } from "./sort-papers.js";

/** A field of a channel as its papers show it. */
export interface LearnedField {
  /** Ours, by which expressions name it. */
  readonly code: string;
  /** The channel's own: its code, else its heading. */
  readonly name: string;
  readonly label: string;
  readonly facts: Map<Fact, Settled>;
  /** Facts that differ between templates, by their branch. */
  readonly byBranch: ReadonlyMap<string, SettledFacts>;
  /** The branches whose templates have it; undefined: all. */
  readonly branches: readonly string[] | undefined;
  readonly columns: readonly (FieldColumn & { readonly template: Template })[];
  /** Where it stands in a tree, `parcel/weight`; "" in tables. */
  readonly path: string;
  readonly isMembers: boolean;
  readonly meaning: FieldMeaning | undefined;
}

/** A part of the tree that has a template of its own. */
export interface Branch {
  readonly code: string;
  readonly name: string;
  readonly template: Template;
}

/** Something of the channel as a whole, with what speaks for it. */
export interface ChannelGuess {
  readonly value: string;
  readonly confidence: number;
  readonly because: string;
  readonly from: PaperPlace;
}

/** What is guessed of a channel as a whole. */
export const channelFacts = [
  "identified_by",
  "category_field",
  "group_field",
  "group_model",
  "decimal_mark",
] as const;

export type ChannelFact = (typeof channelFacts)[number];

/** A channel as its papers show it. */
export interface LearnedChannel {
  readonly papers: SortedPapers;
  readonly fields: readonly LearnedField[];
  readonly schema: SchemaReading | undefined;
  readonly branches: readonly Branch[];
  readonly categories: readonly ListedCategory[];
  /** Whether the tree's codes are the channel's own. */
  readonly categoriesBy: "code" | "path";
  readonly guesses: ReadonlyMap<ChannelFact, ChannelGuess>;
  readonly told: readonly string[];
  readonly faults: readonly string[];
}

/** What a person says beforehand. */
export interface LearningWishes {
  /** The sheet to fill, where a person named it. */
  readonly sheet?: string | undefined;
  readonly corrections: Corrections;
  /** Attributes of the shop's catalogue. */
  readonly attributes: readonly string[];
  /** The shop's words, folded, by attribute. */
  readonly terms?: ReadonlyMap<string, ReadonlySet<string>>;
}
