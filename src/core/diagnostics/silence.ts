/** What a person decided not to be told of, held against a finding. */
import { isUnder } from "../values/category-path.js";
import { isError, type Diagnostic } from "./diagnostic.js";

/** A decision of `channel.yaml` not to see some findings; what it does not name may be anything. */
export interface Silence {
  readonly code: string | undefined;
  readonly field: string | undefined;
  readonly product: string | undefined;
  /** One of our categories, or codes of the channel's with all below. */
  readonly ourCategory: string | undefined;
  readonly channelCategories: ReadonlySet<string> | undefined;
}

/** Whether a finding is one that a person has decided not to see. Errors are always seen: the channel would refuse. */
export function isSilenced(
  finding: Diagnostic,
  silences: readonly Silence[],
  ourCategory: string | undefined,
): boolean {
  return (
    !isError(finding) &&
    silences.some(
      (silence) =>
        (silence.code === undefined || silence.code === finding.code) &&
        (silence.field === undefined || silence.field === finding.field) &&
        (silence.product === undefined || silence.product === finding.product) &&
        isWithin(finding, silence, ourCategory),
    )
  );
}

function isWithin(
  { category }: Diagnostic,
  { ourCategory, channelCategories }: Silence,
  own: string | undefined,
): boolean {
  if (ourCategory === undefined && channelCategories === undefined) return true;
  return (
    (ourCategory !== undefined && own !== undefined && isUnder(own, ourCategory)) ||
    (category !== undefined && channelCategories?.has(category) === true)
  );
}
