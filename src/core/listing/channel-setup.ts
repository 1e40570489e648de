import type { ChannelDefinition } from "../channel/definition.js";
import type { ReadyProgram } from "../language/program.js";
import type { Placements } from "../placement/placements.js";
import type { FillBlock } from "./fill-set.js";
import type { Lexicon } from "./lexicon.js";

/** Our side of a channel: what the workspace decided, checked against the definition. */
export interface ChannelSetup {
  readonly channel: string;
  readonly definition: ChannelDefinition;
  /** Products for which this does not hold are left out; undefined: all are taken. */
  readonly select: ReadyProgram | undefined;
  readonly placements: Placements;
  readonly fills: readonly FillBlock[];
  readonly lexicon: Lexicon;
  /** Decision files by the names that findings give to a person. */
  readonly files: { readonly placements: string; readonly fills: string; readonly lexicon: string };
}
