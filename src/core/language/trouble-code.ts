import type { TroubleFacts } from "./trouble.js";

export type TroubleCode = "no-rate" | "no-table-row" | "fill-circle" | "not-calculated";

/** The code under which a trouble is told: those that a row of the user's own tables settles have one of their own. */
export const troubleCode = ({ trouble }: TroubleFacts): TroubleCode =>
  trouble === "no-rate" || trouble === "no-table-row" || trouble === "fill-circle"
    ? trouble
    : "not-calculated";
