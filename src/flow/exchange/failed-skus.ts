import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelJobs } from "../../store/jobs.js";
import type { ChannelLedger } from "../../store/ledger.js";
import { reportRows } from "./read-report.js";

/** The SKUs that a channel refused and was sent nothing else for since. */
export async function refusedSkus(jobs: ChannelJobs): Promise<ReadonlySet<string>> {
  const skus = new Set<string>();
  for await (const batch of jobs.standing("refused")) for (const { sku } of batch) skus.add(sku);
  return skus;
}

/** The SKUs that a result report refused, by the references that the channel was sent. */
export async function failedSkus(
  path: string,
  { setup }: WorkspaceChannel,
  ledger: ChannelLedger,
): Promise<ReadonlySet<string>> {
  const { results, identifiedBy, label } = setup.definition;
  if (results === undefined)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `--failed: ${label}'s definition does not say how its reports are read`,
      }),
    ]);
  const refused = new Set<string>();
  for await (const batch of reportRows(path, results))
    for (const { reference, isAccepted } of batch)
      if (!isAccepted && reference !== "") refused.add(reference);
  const skus = new Set(refused);
  for (const state of ["built", "sent"] as const)
    for await (const batch of ledger.entries(state))
      for (const { sku, listing } of batch)
        if (refused.has(listing.values[identifiedBy] ?? "")) skus.add(sku);
  return skus;
}
