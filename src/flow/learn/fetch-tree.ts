/** A channel's tree of categories, fetched by its version. */
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { extname, join } from "node:path";
import { statSync } from "node:fs";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Io } from "../../io/io.js";
import type { Store } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";
import { exchangeOf, withCarrier } from "../exchange/account.js";
import { loadChannel } from "../run-channels.js";
import { surroundingsIn } from "../workspace-store.js";
import { surroundingsOf } from "../open-catalogue.js";

/** A tree that was fetched, until it is removed. */
export interface FetchedTree {
  readonly path: string;
  remove(): Promise<void>;
}

const TELL_MILLISECONDS = 500;

/** Fetches a channel's tree of categories by its version, as its definition says where; tells how much has come. */
export async function fetchedTree(
  workspace: Workspace,
  store: Store,
  channel: string,
  version: string,
  io: Io,
  isQuiet: boolean,
): Promise<FetchedTree> {
  const own = await loadChannel(
    workspace,
    store,
    channel,
    await surroundingsIn(workspace, surroundingsOf(io, workspace)),
  );
  const exchange = exchangeOf(own, "its tree is fetched");
  if (exchange.categories === undefined)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `${own.setup.definition.label}'s definition does not say where its tree is fetched (exchange.categories): name a file`,
      }),
    ]);
  const folder = await mkdtemp(join(tmpdir(), "lexicant-tree-"));
  const remove = (): Promise<void> => rm(folder, { recursive: true, force: true });
  const path = join(folder, `categories${extname(exchange.categories) || ".csv"}`);
  const tell = (): void => {
    const bytes = statSync(path, { throwIfNoEntry: false })?.size ?? 0;
    io.err(`\rCategories of ${version}: ${(bytes / 1_000_000).toFixed(1)} MB`);
  };
  const timer = io.isTerminal && !isQuiet ? setInterval(tell, TELL_MILLISECONDS) : undefined;
  try {
    await withCarrier(own, workspace, io, (carrier) => carrier.categories(version, path));
    if (timer !== undefined) io.err("\n");
    return { path, remove };
  } catch (error) {
    await remove();
    throw error;
  } finally {
    clearInterval(timer);
  }
}
