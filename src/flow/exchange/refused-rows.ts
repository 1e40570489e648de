/** Refused rows beside what we know of them: value sent, source cell, what to do. */
import { isError, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { Place } from "../../core/diagnostics/place.js";
import { ownOf } from "../../core/own.js";
import { hasGroupsOwn } from "../../core/channel/group-model.js";
import { fieldNamed } from "../../core/channel/definition.js";
import { refusalOf, type KnownRefusal } from "../../core/listing/known-refusals.js";
import type { Surroundings } from "../../core/language/function.js";
import type { ChannelJobs, RowOutcome } from "../../store/jobs.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { explainField, explainListing } from "../explain/explain-listing.js";
import { whatToDo } from "../explain/what-to-do.js";

/** A row that a channel refused, beside what we know of it. */
export interface RefusedRow extends RowOutcome {
  /** What was sent in the field that the channel speaks of; "". */
  readonly value: string;
  /** Our own findings on that field, or all errors of the product where it names none. */
  readonly ours: readonly Diagnostic[];
  /** Where the value came from. */
  readonly from: readonly Place[];
  readonly known: KnownRefusal | undefined;
  /** Whether the field stands in the row of the group, and not in this one. */
  readonly isOfGroup: boolean;
  readonly next: string;
}

/** So many causes are shown each with one example, since thousands of rows are refused for a handful of reasons. */
export async function refusedRows(
  rows: readonly RowOutcome[],
  channel: WorkspaceChannel,
  {
    store,
    jobs,
    surroundings,
  }: { readonly store: Store; readonly jobs: ChannelJobs; readonly surroundings: Surroundings },
): Promise<readonly RefusedRow[]> {
  const standings = await jobs.standings(rows.map(({ sku }) => sku));
  const shown: RefusedRow[] = [];
  for (const row of rows) {
    const value = ownOf(standings.get(row.sku)?.refused?.values ?? {}, row.field) ?? "";
    const known = refusalOf(channel.setup.refusals, row);
    const explained = await explainListing(row.sku, channel, store);
    const findings = explained?.outcome.findings ?? [];
    const ours = findings.filter(
      (finding) =>
        finding.code !== "refused-before" &&
        finding.code !== "known-refusal" &&
        (row.field === "" ? isError(finding) : finding.field === row.field),
    );
    const planned = explained?.listing?.plan.fields.find(({ rule }) => rule.field.code === row.field);
    const field =
      explained?.listing === undefined || planned === undefined
        ? undefined
        : explainField(explained, explained.listing, planned, surroundings, store);
    const [attribute] = (field?.attributes ?? []).filter((one) => one.from !== undefined);
    const from = (field?.attributes ?? []).flatMap((one) => one.from ?? []);
    const [first] = ours;
    const fill = field?.giver.by === "fill" ? field.giver.fill.program.source.place : undefined;
    const name = channel.setup.channel;
    const byHand =
      attribute === undefined
        ? `lexicant explain ${row.sku} ${name} ${row.field}`.trim()
        : `lexicant set ${row.sku} ${attribute.name}=… --channel ${name}`;
    const next = (known?.act ?? "") || (first === undefined ? byHand : whatToDo(first, row.sku));
    const { definition } = channel.setup;
    shown.push({
      ...row,
      isOfGroup: hasGroupsOwn(definition.groups) && fieldNamed(definition, row.field)?.level === "group",
      value,
      known,
      ours,
      from: from.length > 0 || fill === undefined ? from : [fill],
      next,
    });
  }
  return shown;
}
