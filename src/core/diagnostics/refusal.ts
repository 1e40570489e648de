import type { Diagnostic } from "./diagnostic.js";

/** Why a run ends without doing its work: wrong usage or configuration (2), or the world did not let it (3). */
export type RefusalExit = 1 | 2 | 3;

/** Thrown to end a command with findings that a person can act on; `main` prints them and sets the exit code. */
export class Refusal extends Error {
  constructor(
    readonly findings: readonly Diagnostic[],
    readonly exit: RefusalExit = 2,
  ) {
    super(findings.map(({ code }) => code).join(", "));
  }
}
