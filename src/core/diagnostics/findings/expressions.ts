import type { TroubleFacts } from "../trouble-facts.js";
import { troubleText } from "../trouble-text.js";
import { plainFinding } from "../finding.js";
import { orNearest, quote } from "../phrases.js";

/** Expressions, before any product. */
export const expressions = {
  "expression-syntax": plainFinding<{ readonly reason: string; readonly snippet: string }>(
    ({ reason, snippet }) => `${reason}\n${snippet}`,
  ),
  "unknown-name": plainFinding<{
    readonly name: string;
    readonly nearest: readonly string[];
    readonly advice: string;
    readonly snippet: string;
    readonly what: string;
  }>(
    ({ name, nearest, advice, snippet, what }) =>
      `there is no ${what} ${quote(name)}${advice === "" ? orNearest(nearest) : `; ${advice}`}\n${snippet}`,
  ),
  "unknown-function": plainFinding<{
    readonly name: string;
    readonly nearest: readonly string[];
    readonly advice: string;
    readonly snippet: string;
  }>(
    ({ name, nearest, advice, snippet }) =>
      `there is no function ${quote(name)}${advice === "" ? orNearest(nearest) : `; ${advice}`}\n${snippet}`,
  ),
  "wrong-arguments": plainFinding<{
    readonly name: string;
    readonly usage: string;
    readonly snippet: string;
  }>(({ name, usage, snippet }) => `${name} is used as ${usage}\n${snippet}`),
  "kind-mismatch": plainFinding<{ readonly reason: string | TroubleFacts; readonly snippet: string }>(
    ({ reason, snippet }, files) =>
      `${typeof reason === "string" ? reason : troubleText(reason, files)}\n${snippet}`,
  ),
  "expression-too-deep": plainFinding<{ readonly limit: number }>(
    ({ limit }) => `brackets and braces nest deeper than ${limit}; split the expression`,
  ),
} as const;
