/** Source files as text, from a proposal. */
import { editsFor } from "../core/catalogue/edits-layer.js";
import { columnExpression } from "../core/catalogue/proposal/expressions.js";
import type { ProposedPair, SourceProposal } from "../core/catalogue/proposal/source-proposal.js";
import { CLEAR_WORD } from "../core/catalogue/record.js";
import type { FoundMarks } from "./source-reading.js";

const plainWord = /^[\p{L}_][\p{L}\p{N}_]*$/u;

/** An expression as a YAML value: single-quoted where it is more than a word, so that it reads back as written. */
const yamlExpression = (expression: string): string =>
  plainWord.test(expression) ? expression : `'${expression.replaceAll("'", "''")}'`;

/** Any text as a YAML value. */
const yamlText = (text: string): string =>
  `"${text.replace(/[\\"]/g, "\\$&").replaceAll("\n", "\\n").replaceAll("\t", "\\t")}"`;

const yamlWords = (words: readonly string[]): string =>
  words.length === 1 ? (words[0] ?? "") : `[${words.join(", ")}]`;

const pairLines = (key: string, pairs: readonly ProposedPair[]): readonly string[] =>
  pairs.length === 0
    ? []
    : [
        `${key}:`,
        ...pairs.map(({ name, value }) => `  - { name: ${yamlText(name)}, value: ${yamlText(value)} }`),
      ];

function groupLines({ groups }: SourceProposal): readonly string[] {
  switch (groups.layout) {
    case "rows":
      return [];
    case "first-row":
      return [
        "# A group's first row also carries what its members share.",
        "groups:",
        "  layout: first-row",
        `  shared: [${groups.shared.join(", ")}]`,
      ];
    case "own-row":
      return [
        "# A group has a row of its own, told by:",
        "groups:",
        "  layout: own-row",
        `  when: ${yamlExpression(groups.when)}`,
      ];
  }
}

/** How rows of one product that stand anywhere belong together. */
function rowLines({ rows }: SourceProposal): readonly string[] {
  const { languageFrom, currencyFrom, gathered, orderBy } = rows;
  return [
    ...(languageFrom === undefined
      ? []
      : ["# The language of a row's texts.", `language_from: ${yamlText(languageFrom)}`]),
    ...(currencyFrom === undefined
      ? []
      : ["# The currency of a row's amounts.", `currency_from: ${yamlText(currencyFrom)}`]),
    ...(gathered.length === 0
      ? []
      : [
          "# Rows of one product stand anywhere, and add to these.",
          "further_rows:",
          `  add: [${gathered.join(", ")}]`,
          ...(orderBy === undefined ? [] : [`  order_by: ${yamlExpression(columnExpression(orderBy))}`]),
        ]),
  ];
}

/** What single channels alone are told. */
const channelLines = ({ channels = [] }: SourceProposal): readonly string[] =>
  channels.length === 0
    ? []
    : [
        "# What one channel alone is to see.",
        "channels:",
        ...channels.flatMap(({ channel, attributes }) => [
          `  ${channel}:`,
          ...attributes.map(({ attribute, expression }) => `    ${attribute}: ${yamlExpression(expression)}`),
        ]),
      ];

/** A source file's text from a proposal, with words for the person who is to check it. */
export function proposedSourceText(
  name: string,
  layer: string,
  currency: string,
  proposal: SourceProposal,
  { decimalMark, dateOrder }: Partial<FoundMarks> = {},
): string {
  const units = Object.entries(proposal.units);
  return [
    `# How files like ${name} are read. Each line under columns gives one of our attributes the column it comes from,`,
    "# or an expression over columns. Delete what is not wanted, and correct what was guessed.",
    `layer: ${layer}`,
    ...(proposal.records === undefined
      ? []
      : ["# What is one record.", `records: ${yamlExpression(proposal.records)}`]),
    ...(proposal.sheet === undefined ? [] : [`sheet: ${yamlText(proposal.sheet)}`]),
    ...(proposal.leftOut.length === 0
      ? []
      : [
          `# Not read, since the catalogue's own names stand: ${proposal.leftOut.join(", ").replace(/\s+/g, " ")}`,
        ]),
    ...(proposal.keys.length === 0
      ? ["# No column could be the key; name the attribute that finds products.", "key: sku"]
      : [`key: ${yamlWords(proposal.keys)}`]),
    ...(proposal.mode === "both" ? [] : [`mode: ${proposal.mode}`]),
    ...(proposal.keys.length < 2
      ? []
      : ["# A product that has no such number yet gets it.", "write_keys: where-blank"]),
    proposal.currencies.length === 0
      ? `currency: ${proposal.currency ?? currency}`
      : `currency: [${[proposal.currency ?? currency, ...proposal.currencies].join(", ")}]`,
    // What this file showed holds for the next one of its kind, which may show nothing.
    ...(decimalMark === undefined ? [] : [`decimal_mark: "${decimalMark}"`]),
    ...(dateOrder === undefined ? [] : [`date_order: ${dateOrder}`]),
    ...(units.length === 0
      ? []
      : [
          "# The unit of numbers that stand without one.",
          "units:",
          ...units.map(([attribute, unit]) => `  ${attribute}: ${unit}`),
        ]),
    ...(proposal.listSeparator === undefined ? [] : [`list_separator: ${yamlText(proposal.listSeparator)}`]),
    ...groupLines(proposal),
    ...(proposal.furtherRows.length === 0
      ? []
      : [
          "# Further rows of the same product only add to these.",
          `further_rows: [${proposal.furtherRows.join(", ")}]`,
        ]),
    ...rowLines(proposal),
    ...pairLines("options", proposal.options),
    ...pairLines("pairs", proposal.pairs),
    proposal.attributes.length === 0 ? "columns: {}" : "columns:",
    ...proposal.attributes.map(
      ({ attribute, expression }) => `  ${attribute}: ${yamlExpression(expression)}`,
    ),
    ...channelLines(proposal),
    "",
  ].join("\n");
}

/** The column of a sheet whose values are for one channel alone; each row names it. */
export const FOR_CHANNEL = "for_channel";

/** A source for a sheet whose columns are the catalogue's own attributes: what the export command wrote. */
export function sheetSourceText(header: readonly string[], channel: string | undefined): string {
  return [
    `layer: ${editsFor(channel)}`,
    ...(channel === undefined ? [] : ["mode: update", `take: '${FOR_CHANNEL} = "${channel}"'`]),
    `clear_word: "${CLEAR_WORD}"`,
    'list_separator: "|"',
    "columns:",
    ...header
      .filter((column) => column !== "" && column !== FOR_CHANNEL)
      .map((column) => `  ${column}: ${yamlExpression(columnExpression(column))}`),
    "",
  ].join("\n");
}
