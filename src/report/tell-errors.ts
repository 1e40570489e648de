import type { Cause } from "../core/diagnostics/causes.js";
import type { Io } from "../io/io.js";
import { causeTable } from "./cause-table.js";

/** What went wrong, where a person wants no other message: it is told beside the result. */
export function tellErrors(causes: readonly Cause[], io: Io): void {
  const errors = causes.filter(({ first }) => first.severity === "error");
  if (errors.length > 0) io.err(`${causeTable(errors, io, Infinity).join("\n")}\n`);
}
