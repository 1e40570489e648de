/** Several decisions of one command line: all are good, or each that is not is told by what was written of it. */
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import { addAll } from "../core/many.js";

/**
 * Decides what was written, one text after the other.
 * @param option as it stands on the command line, such as `--set`
 * @throws Refusal with the faults of all texts, where any has one
 */
export async function decideAll<T>(
  option: string,
  written: readonly string[],
  decide: (text: string) => T | Promise<T>,
): Promise<T[]> {
  const decided: T[] = [];
  const findings: Diagnostic[] = [];
  for (const text of written)
    try {
      decided.push(await decide(text));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      // Of one alone it is plain which is meant.
      const named = written.length === 1 ? {} : { place: { file: `${option} "${text}"` } };
      addAll(
        findings,
        error.findings.map((finding) => ({ ...finding, ...named })),
      );
    }
  if (findings.length > 0) throw new Refusal(findings);
  return decided;
}
