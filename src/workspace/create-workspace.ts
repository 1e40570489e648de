import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { stringify } from "yaml";
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import type { ChannelDefinition } from "../core/channel/definition.js";
import { csvLine } from "../formats/csv-writer.js";
import { writeFault } from "../formats/file-fault.js";
import { lexiconColumns } from "./lexicon-file.js";
import { placementColumns } from "./placements-file.js";
import { writeFileWhole } from "./write-file.js";
import { MANIFEST } from "./workspace.js";

export interface NewWorkspace {
  readonly shop: string;
  readonly language: string;
  readonly currency: string;
  readonly channels: readonly ChannelDefinition[];
}

/** Makes a workspace's folders and files. The manifest comes last: without it the folder is no workspace yet. */
export const createWorkspace = async (
  root: string,
  { shop, language, currency, channels }: NewWorkspace,
): Promise<void> => {
  try {
    for (const folder of ["sources", "channels", "tables", "data"])
      await mkdir(join(root, folder), { recursive: true });
  } catch (error) {
    throw writeFault(root, error);
  }
  for (const definition of channels) await createChannel(root, definition);
  await writeFileWhole(join(root, ".gitignore"), ".lexicant/\nout/\n");
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
  await writeFileWhole(join(root, MANIFEST), manifest);
};

/** Starting decision files of one channel: the definition's own suggestions as fills, empty tables for the rest. */
export const createChannel = async (
  root: string,
  definition: ChannelDefinition,
  attributes?: AttributeIndex,
): Promise<void> => {
  const { channel, version, fields } = definition;
  const file = (name: string): string => join(root, "channels", channel, name);
  await writeFileWhole(
    file("channel.yaml"),
    [
      `definition: ${channel}`,
      `version: "${version}"`,
      "# Only products for which this holds go to the channel.",
      "# select: quantity > 0",
      "account:",
      "  shop_url: https://shop.example/",
      "",
    ].join("\n"),
  );
  const fills = fields
    .filter(({ suggestedFill }) => suggestedFill !== "")
    .flatMap(({ code, label, suggestedFill }) => [
      `  # ${label}`,
      `  ${isKnown(suggestedFill, attributes) ? "" : "# "}${code}: ${yamlFill(suggestedFill)}`,
    ]);
  await writeFileWhole(
    file("fills.yaml"),
    [
      "# What fills each field of the channel. A nearer block wins: our_categories over all, channel_categories over both.",
      "all:",
      ...fills,
      "",
    ].join("\n"),
  );
  await writeFileWhole(file("placements.csv"), csvLine(placementColumns));
  await writeFileWhole(file("lexicon.csv"), csvLine(lexiconColumns));
};

/** A name in a language or a price in a currency is known only once the catalogue has it: until then its fill waits. */
const isKnown = (fill: string, attributes: AttributeIndex | undefined): boolean =>
  [...fill.matchAll(/\b[a-z][a-z0-9_]*@[A-Za-z-]+/g)].every(([name]) => attributes?.slot(name) !== undefined);

/** An expression as a YAML value that reads back as written: a text keeps its double quotes, others go plain where YAML lets them. */
const yamlFill = (expression: string): string => {
  const oneText = /^"(?:[^"\\]|\\.)*"$/.test(expression);
  const plain = /^[\p{L}\p{N}][^:#"'`{}[\]&*!|>%@]*$/u.test(expression);
  return oneText || plain ? expression : `'${expression.replaceAll("'", "''")}'`;
};
