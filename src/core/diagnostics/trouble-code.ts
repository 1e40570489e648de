import type { TroubleFacts } from "./trouble-facts.js";

/** Troubles of expressions that are findings of their own. */
export type TroubleCode = "no-rate" | "no-table-row" | "fill-circle" | "members-differ" | "not-calculated";

/** Troubles that have a code of their own. */
const told: ReadonlySet<string> = new Set<TroubleCode>([
  "no-rate",
  "no-table-row",
  "fill-circle",
  "members-differ",
]);

const isTold = (trouble: string): trouble is Exclude<TroubleCode, "not-calculated"> => told.has(trouble);

/** The code under which a trouble is told: those that a row of the user's own tables settles have one of their own. */
export const troubleCode = ({ trouble }: TroubleFacts): TroubleCode =>
  isTold(trouble) ? trouble : "not-calculated";
