import type { ReadyProgram } from "../../language/program.js";
import type { Money } from "../../values/value.js";

/** Which products go to a channel: what `channel.yaml` decides beside the marks that products carry themselves. */
export interface Selection {
  /** Products for which this does not hold are left out; undefined: all are taken. */
  readonly condition: ReadyProgram | undefined;
  readonly takesDigital: boolean;
  /** Whether goods with a hazard go there: all, none, or those with these hazards. */
  readonly hazards: "all" | readonly string[];
  /** Where the channel sells (ISO 3166); a product that may be sold in none of them stays out. */
  readonly countries: readonly string[];
  readonly leastPrice: Money | undefined;
  /** Percent of the required and recommended fields. */
  readonly leastReadiness: number | undefined;
}

/** Where `channel.yaml` says nothing. */
export const everything: Selection = {
  condition: undefined,
  takesDigital: true,
  hazards: "all",
  countries: [],
  leastPrice: undefined,
  leastReadiness: undefined,
};
