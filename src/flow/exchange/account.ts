/** The account of a channel: where it is reached, and the way opened for as long as the work takes. */
import type { ExchangeDefinition } from "../../core/channel/exchange-definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Carrier } from "../../exchange/carrier.js";
import { openCarrier, shownAddress } from "../../exchange/open-carrier.js";
import type { Io } from "../../io/io.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Workspace } from "../../workspace/workspace.js";

/** How a channel of the workspace takes files; refuses one whose definition does not say it. */
export function exchangeOf({ setup }: WorkspaceChannel, what: string): ExchangeDefinition {
  const { exchange, label } = setup.definition;
  if (exchange === undefined)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `${label}'s definition does not say how ${what}: do it by hand, then "lexicant sent ${setup.channel}"`,
      }),
    ]);
  return exchange;
}

/** The account's address, as it is shown. */
export const addressOf = ({ exchangeAccount }: WorkspaceChannel): string =>
  shownAddress(exchangeAccount.address ?? "");

/** Opens the way to a channel, for as long as the work takes. */
export async function withCarrier<T>(
  channel: WorkspaceChannel,
  workspace: Workspace,
  io: Io,
  work: (carrier: Carrier) => Promise<T>,
): Promise<T> {
  const carrier = await openCarrier(
    {
      exchange: exchangeOf(channel, "files are sent"),
      account: channel.exchangeAccount,
      root: workspace.root,
      file: channel.setup.files.policy,
    },
    io,
  );
  try {
    return await work(carrier);
  } finally {
    await carrier.close();
  }
}
