/** New workspaces, and the starting decisions of a channel. */
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { stringify } from "yaml";
import { attributeIndex, withAttributes, type AttributeIndex } from "../core/catalogue/attribute-index.js";
import { vocabulary } from "../core/catalogue/vocabulary.js";
import type { Field } from "../core/channel/field.js";
import type { ChannelDefinition } from "../core/channel/definition.js";
import { showsShop } from "../core/channel/layout-formats/layout-formats.js";
import { program } from "../core/language/program.js";
import { fillNames, unusedLanguages } from "../core/listing/fill/fill-names.js";
import { csvLine } from "../formats/csv-writer.js";
import { writeFault } from "../formats/file-fault.js";
import { lexiconColumns } from "./lexicon-file.js";
import { placementColumns } from "./placements-file.js";
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

/** What a shop's suggested fills depend on: its language and currency, and the attributes of its catalogue. */
export interface ShopFacts {
  readonly language: string;
  readonly currency: string;
  readonly attributes?: AttributeIndex;
  /** The shop's own web address, where it is known. */
  readonly address?: string;
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

/** A fill that a definition suggests. */
export interface SuggestedFill {
  readonly code: string;
  readonly label: string;
  readonly fill: string;
  /** Whether the catalogue has all that it names, and it says nothing of the shop that only the shop can say. */
  readonly isReady: boolean;
  /** What a person is to know of it. */
  readonly note?: string | undefined;
}

/** The fills that a definition suggests, in the shop's own language and currency. */
export function startingFills(definition: ChannelDefinition, shop: ShopFacts): readonly SuggestedFill[] {
  const isReady = readiness(definition, shop);
  return definition.fields
    .filter(({ suggestedFill }) => suggestedFill !== "")
    .map(({ code, label, suggestedFill, defaultValue }) => {
      const own = inShopsOwn(suggestedFill, shop);
      const { fill, note } = inChannelsLanguage(own, definition, shop);
      const fact = factIn(fill, { defaultValue });
      // What nothing in the catalogue says is asked.
      if (fact === undefined) return { code, label, fill, isReady: isReady(fill), note };
      if (fact === "whole")
        return {
          code,
          label,
          fill,
          isReady: false,
          note: "take the # away where this is true of all your goods",
        };
      const asked = `where this is true of all your goods, write ${fill}`;
      return { code, label, fill: fact.without, isReady: isReady(fact.without), note: note ?? asked };
    });
}

const literal = String.raw`(?:"[^"{}]*"|-?\d+(?:\.\d+)?|yes)`;
const onlyLiteral = new RegExp(`^${literal}$`);
const orLiteral = new RegExp(` or ${literal}(?![\\w"])`, "g");

/**
 * What of a fill states a fact of the shop or its goods that no value of the catalogue says, such as days, carriage, or that
 * all is new; undefined where nothing does. What the channel takes a blank for is no such fact.
 */
function factIn(
  fill: string,
  { defaultValue }: Pick<Field, "defaultValue">,
): "whole" | { readonly without: string } | undefined {
  const isDefault = defaultValue !== "" && fill.replaceAll('"', "") === defaultValue;
  if (isDefault) return undefined;
  if (onlyLiteral.test(fill) || /money\(\s*\d|\) [+*] \d/.test(fill)) return "whole";
  const without = fill.replace(orLiteral, "");
  return without === fill || /^if /.test(fill) ? undefined : { without };
}

// What is said in words of a language.
const spoken = /(?<![\p{L}\p{N}_@])(name|description|features|keywords)(?![\p{L}\p{N}_@(])/gu;

/** A fill for a channel in another language than the shop's: its texts in that language, where the catalogue has them. */
function inChannelsLanguage(
  fill: string,
  { languages: [language = ""] }: ChannelDefinition,
  shop: ShopFacts,
): { readonly fill: string; readonly note: string | undefined } {
  const isOther = language !== "" && language !== shop.language;
  if (!isOther || fill.search(spoken) < 0) return { fill, note: undefined };
  const hasWords = (word: string): boolean => shop.attributes?.slot(`${word}@${language}`) !== undefined;
  return {
    fill: fill.replace(spoken, (word) => (hasWords(word) ? `${word}@${language}` : word)),
    note: [...fill.matchAll(spoken)].every(([word]) => hasWords(word))
      ? `the channel's language is ${language}, the shop's ${shop.language}`
      : `the channel's language is ${language}, and the catalogue has no words in it: these are ${shop.language}`,
  };
}

const withMark =
  /(?<![\p{L}\p{N}_])([\p{Ll}\p{Lo}][\p{Ll}\p{Lo}\p{N}_]*)@([A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)/gu;

/** `price@EUR` is the price of a shop that sells in euro, `name@de` the name in a shop that speaks German. */
const inShopsOwn = (fill: string, { language, currency, attributes }: ShopFacts): string =>
  fill.replace(withMark, (written, base: string, mark: string) => {
    if (attributes?.slot(written) !== undefined) return written;
    if (mark === currency) return `(${base} in ${currency})`;
    return mark === language ? base : written;
  });

/** A fill that names what the catalogue does not have waits as a comment, until it does. */
function readiness(
  definition: ChannelDefinition,
  { attributes = attributeIndex(vocabulary) }: ShopFacts,
): (fill: string) => boolean {
  const known = withAttributes(attributes, vocabulary);
  const names = fillNames(known, definition);
  return (fill) =>
    unusedLanguages(fill, names).length === 0 &&
    program({ text: fill, place: { file: "fields.csv" } }, names, { today: ANY_DAY }).kind === "program";
}

// Fills are checked as any day would do: none is run.
const ANY_DAY = { kind: "date", iso: "2000-01-01" } as const;

/** An expression as a YAML value that reads back as written: a text keeps its double quotes, others go plain where YAML lets them. */
function yamlFill(expression: string): string {
  const oneText = /^"(?:[^"\\]|\\.)*"$/.test(expression);
  const plain = /^[\p{L}\p{N}][^:#"'`{}[\]&*!|>%@]*$/u.test(expression);
  return oneText || plain ? expression : `'${expression.replaceAll("'", "''")}'`;
}
