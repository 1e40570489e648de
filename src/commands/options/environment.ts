/** The variables of the environment that the program reads, checked before any command runs. */
import { ownOf } from "../../core/own.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { nearest } from "../../core/values/nearest.js";

/** Every variable of the environment that is read, with what it says: the manual's list. */
export const environmentVariables: Readonly<Record<string, string>> = {
  LEXICANT_WORKSPACE: "the workspace's folder, where -C names none",
  LEXICANT_TODAY: "the day of the run as 2026-03-01, so that a build's bytes can be made again",
  LEXICANT_PAGER: "shows long answers on a terminal (else PAGER, else less); empty: none",
  LEXICANT_WAIT: "seconds to wait for another command that writes to the workspace (600)",
  LEXICANT_FIRST_WAIT_MS:
    "milliseconds before a sending is tried a second time (800); each further wait is twice as long",
  LEXICANT_SANDBOX_TOKEN: "the token that the sandbox's channels ask for (sandbox)",
  LEXICANT_MAY_RUN: "yes: the program that lexicant.yaml names under tell may be run",
  LEXICANT_TRACE: "with any value: where in the program a fault of ours happened",
  NO_COLOR: "with any value: no colours",
  COLUMNS: "how wide sentences are where no terminal is written to",
};

const isDay = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) &&
  !Number.isNaN(Date.parse(text)) &&
  new Date(text).toISOString().startsWith(text);

type Environment = Readonly<Record<string, string | undefined>>;

/** @throws Refusal where a variable of ours holds what it cannot be */
export function refuseEnvironment({ LEXICANT_TODAY: today, LEXICANT_WAIT: wait }: Environment): void {
  if (wait !== undefined && !/^\d{1,6}$/.test(wait))
    throw new Refusal([
      diagnostic("unknown-option", { reason: `LEXICANT_WAIT is a number of seconds, not "${wait}"` }),
    ]);
  if (today !== undefined && !isDay(today))
    throw new Refusal([
      diagnostic("unknown-option", { reason: `LEXICANT_TODAY is a day such as 2026-03-01, not "${today}"` }),
    ]);
}

/** Variables that look like ours and that nobody reads. */
export function environmentAdvice(environment: Environment): readonly Diagnostic[] {
  return Object.keys(environment)
    .filter((name) => name.startsWith("LEXICANT_") && ownOf(environmentVariables, name) === undefined)
    .map((name) => {
      const near = nearest(name, Object.keys(environmentVariables));
      const found = near.length === 0 ? "" : `; nearest: ${near.join(", ")}`;
      return diagnostic(
        "unknown-option",
        { reason: `the environment variable ${name} is read by nothing${found}` },
        {},
        "warning",
      );
    });
}
