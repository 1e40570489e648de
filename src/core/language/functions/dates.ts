import type { ExpressionFunction } from "../function.js";

export const dates: readonly ExpressionFunction[] = [
  {
    name: "today",
    family: "dates",
    summary: "The day of the run.",
    parameters: [],
    result: "date",
    examples: [{ expression: "today()", gives: "2026-03-01" }],
    apply: (_, { today }) => today,
  },
];
