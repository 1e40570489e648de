import { countText } from "../core/diagnostics/phrases.js";
import { Interrupted } from "../io/interrupted.js";

/** What a person decided, answer by answer. */
export interface Answered<Decision> {
  readonly decided: readonly Decision[];
  /** Whether they broke it off (Ctrl+C); what was decided before is kept. */
  readonly isBroken: boolean;
}

/** An answer, or undefined where the person broke it off. */
export async function unlessBroken<T>(ask: () => Promise<T>): Promise<T | undefined> {
  try {
    return await ask();
  } catch (error) {
    if (error instanceof Interrupted) return undefined;
    throw error;
  }
}

/** What a person is told who broke it off. */
export function brokenText(count: number, what: string, dryRun: boolean): string {
  return count === 0 || dryRun
    ? "Broken off; nothing was written."
    : `Broken off; ${countText(count, what)} answered before ${count === 1 ? "is" : "are"} kept.`;
}
