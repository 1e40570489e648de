import type { WorkspaceChannel } from "../../workspace/channel-files.js";

/** Products whose prices may change by more than the channel's file allows, this once. */
export type ConfirmedPrices = "all" | ReadonlySet<string>;

/** A person has looked at these prices and means them. */
export function confirmedOn(
  channel: WorkspaceChannel,
  confirmed: ConfirmedPrices | undefined,
): WorkspaceChannel {
  if (confirmed === undefined) return channel;
  const { lastPrices } = channel.setup;
  const isMeant = (sku: string): boolean => confirmed === "all" || confirmed.has(sku);
  return {
    ...channel,
    setup: { ...channel.setup, lastPrices: (sku) => (isMeant(sku) ? undefined : lastPrices?.(sku)) },
  };
}
