/**
 * A finding: a code with the facts that its sentence is made of, how bad it is, and where. Its wording stands with its code in
 * `findings/`; what is told of many alike is `causes.ts`'s.
 */
import type { FieldCode, Sku } from "../ids.js";
import type { Code, FactsByCode } from "./findings/findings.js";
import type { Place } from "./place.js";

/** How bad: an error holds a listing, a warning travels with it, advice is only told on request. */
export type Severity = "error" | "warning" | "advice";

/** A second place that belongs to a finding: the rule that asks, where the value came from, what it collides with. */
export interface Note {
  readonly note: "rule" | "value" | "fill" | "other";
  readonly place: Place;
}

interface DiagnosticOf<C extends Code> {
  readonly code: C;
  readonly severity: Severity;
  readonly facts: FactsByCode[C];
  readonly product?: Sku;
  readonly channel?: string;
  readonly category?: string;
  readonly field?: FieldCode;
  readonly place?: Place;
  readonly notes?: readonly Note[];
}

/** A finding as data. Its wording is decided in `wording.ts`, where it shows in `report/`. */
export type Diagnostic = { readonly [C in Code]: DiagnosticOf<C> }[Code];

/** Whether a finding holds its listing. */
export const isError = ({ severity }: Diagnostic): boolean => severity === "error";

type Where = Omit<DiagnosticOf<Code>, "code" | "severity" | "facts">;

/** Builds a diagnostic with its facts checked against its code. */
export function diagnostic<C extends Code>(
  code: C,
  facts: FactsByCode[C],
  where: Where = {},
  severity: Severity = "error",
): Diagnostic {
  return { code, severity, facts, ...where } as unknown as Diagnostic;
}
