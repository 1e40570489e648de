/** New workspaces, and the starting decisions of a channel. */
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { stringify } from "yaml";
import type { ChannelDefinition } from "../core/channel/definition.js";
import { showsShop } from "../core/channel/layout-formats/layout-formats.js";
import { csvLine } from "../formats/csv-writer.js";
import { writeFault } from "../formats/file-fault.js";
import { lexiconColumns } from "./lexicon-file.js";
import { placementColumns } from "./placements-file.js";
import { startingFills, type ShopFacts } from "./starting-fills.js";
import type { Landing } from "./landing/landing.js";
import { MANIFEST } from "./workspace.js";

/** What a new workspace is told. */
export interface NewWorkspace {
  readonly shop: string;
  readonly language: string;
  readonly currency: string;
  readonly channels: readonly ChannelDefinition[];
}

/** Makes a workspace's folders and files. The manifest comes last: without it the folder is no workspace yet. */
export async function createWorkspace(
  root: string,
  landing: Landing,
  { shop, language, currency, channels }: NewWorkspace,
): Promise<void> {
  try {
    for (const folder of ["sources", "channels", "tables", "data"])
      await mkdir(join(root, folder), { recursive: true });
  } catch (error) {
    throw writeFault(root, error);
  }
  for (const definition of channels) await createChannel(root, landing, definition, { language, currency });
  await landing.edit(join(root, ".gitignore"), (before) => before ?? ".lexicant/\nout/\n");
  const manifest = [
    `shop: ${stringify(shop).trimEnd()}`,
    `language: ${language}`,
    "# Prices that name no currency are in this one.",
    `currency: ${currency}`,
    "# From lowest to highest: where two layers speak of one value, the later in this list wins.",
    "layers: []",
    `channels: [${channels.map(({ channel }) => channel).join(", ")}]`,
    "",
  ].join("\n");
  await landing.edit(join(root, MANIFEST), () => manifest);
}

/** What of the account the channel's files show: the shop's address, or a place for it. */
const accountLines = ({ layouts }: ChannelDefinition, { address }: ShopFacts): readonly string[] =>
  !layouts.some(showsShop)
    ? []
    : address === undefined
      ? [
          "# The channel's files show your shop's web address; write it here.",
          "# account:",
          "#   shop_url: https://",
        ]
      : ["account:", `  shop_url: ${address}`];

/** Starting decision files of one channel: the definition's own suggestions as fills, empty tables for the rest. */
export async function createChannel(
  root: string,
  landing: Landing,
  definition: ChannelDefinition,
  shop: ShopFacts,
): Promise<void> {
  const { channel, version } = definition;
  // What is there already was decided by somebody.
  const write = (name: string, text: string): Promise<void> =>
    landing.edit(join(root, "channels", channel, name), (before) => before ?? text);
  await write(
    "channel.yaml",
    [
      `definition: ${channel}`,
      `version: "${version}"`,
      "# Only products for which this holds go to the channel.",
      "# select: quantity > 0",
      ...accountLines(definition, shop),
      "",
    ].join("\n"),
  );
  const fills = startingFills(definition, shop).flatMap(({ code, label, fill, isReady, note }) => [
    `  # ${label}${note === undefined ? "" : `: ${note}`}`,
    `  ${isReady ? "" : "# "}${code}: ${yamlFill(fill)}`,
  ]);
  await write(
    "fills.yaml",
    [
      "# What fills each field of the channel. A nearer block wins: our_categories over all, channel_categories over both.",
      "all:",
      ...fills,
      "",
    ].join("\n"),
  );
  await write("placements.csv", csvLine(placementColumns));
  await write("lexicon.csv", csvLine(lexiconColumns));
}

/** An expression as a YAML value that reads back as written: a text keeps its double quotes, others go plain where YAML lets them. */
function yamlFill(expression: string): string {
  const oneText = /^"(?:[^"\\]|\\.)*"$/.test(expression);
  const plain = /^[\p{L}\p{N}][^:#"'`{}[\]&*!|>%@]*$/u.test(expression);
  return oneText || plain ? expression : `'${expression.replaceAll("'", "''")}'`;
}
