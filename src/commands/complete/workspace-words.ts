/** Words that only a workspace knows, for completion: quick, silent, and nothing where the workspace is faulty. */
import { textOf } from "../../core/catalogue/product.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import { namedDefinition, workspaceIfAny } from "../../flow/channel-definition.js";
import { withCatalogue, type OpenCatalogue } from "../../flow/open-catalogue.js";
import type { Io } from "../../io/io.js";
import { definitionsFor } from "../../workspace/workspace.js";
import { sourceNames } from "../../workspace/source-files.js";
import type { NamedFolder } from "../../workspace/named-folder.js";

/** Kinds of words that a shell asks for and only a workspace knows. */
export type WordKind =
  "channel" | "category" | "placed-category" | "group" | "sku" | "field" | "source" | "attribute";

async function inCatalogue(
  folder: NamedFolder,
  io: Io,
  find: (open: OpenCatalogue) => Promise<readonly string[]>,
): Promise<readonly string[]> {
  let found: readonly string[] = [];
  await withCatalogue(folder, io, async (open) => {
    found = await find(open);
    return 0;
  });
  return found;
}

/** Names that repeat over products, each once. */
async function repeated(
  { store }: OpenCatalogue,
  of: (product: Parameters<typeof textOf>[0]) => string | undefined,
): Promise<readonly string[]> {
  const names = new Set<string>();
  for await (const families of store.families())
    for (const { members } of families)
      for (const product of members) {
        const name = of(product);
        if (name !== undefined) names.add(name);
      }
  return [...names].sort();
}

const namesIn = (definition: ChannelDefinition, kind: "field" | "placed-category"): readonly string[] =>
  kind === "field" ? definition.fieldNames.all : definition.tree.all.map(({ code }) => code);

/** Words of a kind that a workspace knows; none where there is no workspace, or its settings are faulty: a cursor is no place for errors. */
export async function workspaceWords(
  kind: WordKind,
  word: string,
  args: readonly string[],
  folder: NamedFolder,
  io: Io,
): Promise<readonly string[]> {
  try {
    switch (kind) {
      case "channel": {
        const workspace = await workspaceIfAny(folder, io);
        const known = (await definitionsFor(workspace)).map(({ channel }) => channel);
        return [...(workspace?.channelsInUse ?? []), ...known];
      }
      case "field":
      case "placed-category": {
        const known = new Set(
          (await definitionsFor(await workspaceIfAny(folder, io))).map((one) => one.channel),
        );
        const channels = args.filter((one) => known.has(one));
        const definitions = await Promise.all(channels.map((one) => namedDefinition(folder, one, io)));
        return definitions.flatMap((one) => namesIn(one, kind));
      }
      case "source": {
        const workspace = await workspaceIfAny(folder, io);
        return workspace === undefined ? [] : await sourceNames(workspace);
      }
      case "sku":
        return await inCatalogue(folder, io, async ({ store }) => [...(await store.skusNear(word))].sort());
      case "category":
        return await inCatalogue(folder, io, (open) => repeated(open, (one) => textOf(one, "category")));
      case "group":
        return await inCatalogue(folder, io, (open) => repeated(open, ({ group }) => group));
      case "attribute":
        return await inCatalogue(folder, io, async ({ store }) =>
          (await store.attributes()).names.map((name) => `${name}=`),
        );
    }
  } catch (error) {
    if (error instanceof Refusal) return [];
    throw error;
  }
}
