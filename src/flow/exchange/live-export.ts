/** A channel's export of live listings, fetched or brought. */
import { mkdir } from "node:fs/promises";
import { dirname } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { askPatiently, patienceOf } from "../../exchange/patience.js";
import type { Io } from "../../io/io.js";
import { withCatalogue } from "../open-catalogue.js";
import { loadChannel } from "../run-channels.js";
import { exchangeOf, withCarrier } from "./account.js";
import { told, type ExchangeCaller } from "./exchange-work.js";

/** Where a channel's export of live listings lies. */
export interface LiveExport {
  readonly path: string;
  /** Whether it was fetched, and goes when it was read. */
  readonly isFetched: boolean;
}

/** Fetches a channel's export of live listings, or takes the one that a person has. Nobody waits for the workspace meanwhile. */
export function liveExport(
  caller: ExchangeCaller,
  name: string,
  given: string | undefined,
  io: Io,
): Promise<LiveExport> {
  return withCatalogue(caller.workspace, io, async ({ workspace, store, surroundings }) => {
    const channel = await loadChannel(workspace, store, name, await surroundings());
    if (exchangeOf(channel, "its export of live listings is read").live === undefined)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: `${channel.setup.definition.label}'s definition does not say how its live listings are read`,
        }),
      ]);
    if (given !== undefined) return { path: given, isFetched: false };
    const path = workspace.path(".lexicant", "jobs", name, "live.export");
    await mkdir(dirname(path), { recursive: true });
    await told(name, "fetching its live listings", () =>
      withCarrier(channel, workspace, io, (carrier) =>
        askPatiently(() => carrier.live(path), patienceOf(io)),
      ),
    );
    return { path, isFetched: true };
  });
}
