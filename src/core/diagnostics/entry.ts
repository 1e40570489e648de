import type { Act } from "./act.js";
import type { Diagnostic } from "./diagnostic.js";
import type { Asked, Finding } from "./finding.js";
import { findings, type Code } from "./findings/findings.js";

/** Every code there is. */
export const codes = Object.keys(findings) as readonly Code[];

/** What is to be said of a finding. Its facts are those of its code: `diagnostic()` has seen to that. */
export const entryOf = ({ code }: Pick<Diagnostic, "code">): Finding<unknown> =>
  findings[code] as Finding<unknown>;

/** The act that settles a finding, and all like it. */
export function actFor(finding: Diagnostic): Act {
  const { code, channel = "", field = "" } = finding;
  return entryOf(finding).act(finding.facts, { code, channel, field });
}

/** What a gap sheet asks for a finding. */
export const askedFor = (finding: Diagnostic): Asked => entryOf(finding).asks(finding.facts);
