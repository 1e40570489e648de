/** What of all findings is shown. */
import { withAncestors } from "../../core/channel/category-tree.js";
import { fieldNamed } from "../../core/channel/definition.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { codes } from "../../core/diagnostics/entry.js";
import type { Outcome } from "../../core/listing/listing.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";

/** What of all findings a person asked for. */
export interface Narrowing {
  /** A category of the channel, by its path or code. */
  readonly placedIn?: string | undefined;
  readonly field?: string | undefined;
  readonly code?: string | undefined;
}

/** Refuses a field or code that there is none of: nothing found would else look like nothing wrong. */
export function refuseUnknown(
  { field, code, placedIn }: Narrowing,
  channels: readonly WorkspaceChannel[],
): void {
  const fields = channels.flatMap(({ setup }) => setup.definition.fieldNames.all);
  if (field !== undefined && !channels.some(({ setup }) => fieldNamed(setup.definition, field)))
    throw new Refusal([diagnostic("unknown-field", { field, nearest: nearest(field, new Set(fields)) })]);
  if (placedIn !== undefined && !channels.some(({ setup }) => setup.definition.tree.named(placedIn)))
    throw new Refusal([
      diagnostic("unknown-category", {
        category: placedIn,
        nearest: nearest(
          placedIn,
          new Set(channels.flatMap(({ setup }) => setup.definition.tree.all.map(({ path }) => path))),
        ),
      }),
    ]);
  if (code !== undefined && !codes.some((known) => known === code)) {
    const near = nearest(code, codes).map((known) => `"${known}"`);
    const reason = `--code: "${code}" is no finding's code${near.length === 0 ? "" : `; nearest: ${near.join(", ")}`}; docs/diagnostics.md lists them`;
    throw new Refusal([diagnostic("unknown-option", { reason })]);
  }
}

/** Whether a finding was asked for. */
export const isFindingMeant =
  ({ field, code }: Narrowing) =>
  (finding: Diagnostic): boolean =>
    (field === undefined || finding.field === field) && (code === undefined || finding.code === code);

/** Whether an outcome's product stands in the channel's category that was asked for. */
export function isOutcomeMeant(
  { placedIn }: Narrowing,
  { setup }: WorkspaceChannel,
): (outcome: Outcome) => boolean {
  if (placedIn === undefined) return () => true;
  const wanted = setup.definition.tree.named(placedIn);
  return (outcome) => {
    const isFilled = outcome.kind === "ready" || outcome.kind === "held";
    return (
      wanted !== undefined && isFilled && withAncestors(outcome.listing.plan.rules.category).includes(wanted)
    );
  };
}
