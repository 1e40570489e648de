import { join } from "node:path";
import type { Glossary } from "../core/goods/glossary.js";
import { loadGlossary } from "../workspace/goods-files.js";
import { definitionsFor, type Workspace } from "../workspace/workspace.js";

/** What is known of goods: the shipped glossary with the words of the shop, and those of a channel's definition. */
export async function goodsKnownFor(workspace: Workspace | undefined, channel?: string): Promise<Glossary> {
  const definition =
    channel === undefined
      ? undefined
      : (await definitionsFor(workspace)).find((one) => one.channel === channel);
  return loadGlossary([
    ...(definition === undefined
      ? []
      : [{ path: join(definition.path, "goods.csv"), shown: `${definition.shown}/goods.csv` }]),
    ...(workspace === undefined
      ? []
      : [{ path: workspace.path("tables", "goods.csv"), shown: "tables/goods.csv" }]),
  ]);
}
