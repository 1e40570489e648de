import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";

/** An option that was given and would do nothing here, and with what it goes. */
export type IdleOption = readonly [isIdle: boolean, option: string, goesWith: string];

/** Refuses options that would do nothing in this mode, all at once: nobody is to believe that they did. */
export function refuseIdle(options: readonly IdleOption[]): void {
  const idle = options.filter(([isIdle]) => isIdle);
  if (idle.length > 0)
    throw new Refusal(
      idle.map(([, option, goesWith]) =>
        diagnostic("unknown-option", { reason: `${option} does nothing here: it goes with ${goesWith}` }),
      ),
    );
}

/** Refuses options that ask for different things, where more than one is given. */
export function refuseTogether(options: readonly (readonly [isGiven: boolean, option: string])[]): void {
  const given = options.flatMap(([isGiven, option]) => (isGiven ? [option] : []));
  if (given.length > 1)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `${given.join(" and ")} do not go together; give one of them`,
      }),
    ]);
}
