/**
 * Columns for single channels in a file of the whole range: their names name a channel beside what they hold
 * (`Market price`, `on Market`). What they hold is proposed as for a file of its own.
 */
import { fold } from "../../values/text.js";
import { ownAttribute } from "../own-attribute.js";
import { isOurs, tiesProducts } from "../vocabulary.js";
import { columnExpression } from "./expressions.js";
import type { FileSample, ProposedAttribute, SourceProposal } from "./source-proposal.js";

/** A column that names a channel, and what its name says besides. */
interface NamingColumn {
  readonly index: number;
  readonly channel: string;
  readonly rest: string;
}

/** The words of a name without those of a channel; undefined where they are not in it. */
function withoutChannel(words: readonly string[], channel: readonly string[]): string | undefined {
  const at = words.findIndex((_, from) => channel.every((word, index) => words[from + index] === word));
  if (at < 0) return undefined;
  return [...words.slice(0, at), ...words.slice(at + channel.length)].join(" ");
}

const wordsOf = (name: string): readonly string[] => fold(name).split(" ").filter(Boolean);

function namingColumns({ header, labels }: FileSample, channels: readonly string[]): readonly NamingColumn[] {
  // The longest name first: "market-north" is not the north of "market".
  const longest = [...channels].sort((a, b) => b.length - a.length);
  return header.flatMap((column, index) => {
    const words = wordsOf(labels?.[index] ?? column);
    for (const channel of longest) {
      const rest = withoutChannel(words, wordsOf(channel));
      if (rest !== undefined && rest !== "") return [{ index, channel, rest }];
    }
    return [];
  });
}

/** The sample with some of its columns alone. */
function only(sample: FileSample, indexes: readonly number[], names?: readonly string[]): FileSample {
  const { header, rows, labels, known, told } = sample;
  const pick = <T>(list: readonly T[]): T[] => indexes.flatMap((index) => list.slice(index, index + 1));
  return {
    ...sample,
    header: names ?? pick(header),
    rows: rows.map(pick),
    ...(labels === undefined ? {} : { labels: names ?? pick(labels) }),
    ...(known === undefined ? {} : { known: pick(known) }),
    ...(told === undefined ? {} : { told: pick(told) }),
  };
}

/**
 * Proposes how to read a file by what is proposed for its columns for all channels and, channel by channel, for those that
 * name one.
 */
export function withChannelColumns(
  sample: FileSample,
  channels: readonly string[],
  propose: (sample: FileSample) => SourceProposal,
): SourceProposal {
  const naming = namingColumns(sample, channels);
  if (naming.length === 0) return propose(sample);
  const own = new Set(naming.map(({ index }) => index));
  const shared = propose(
    only(
      sample,
      [...sample.header.keys()].filter((index) => !own.has(index)),
    ),
  );
  // Without a key for all it is a channel's own file, whose key names the channel as the rest does.
  if (shared.keys.length === 0) return propose(sample);
  const named = [...new Set(naming.map(({ channel }) => channel))];
  return {
    ...shared,
    channels: named.map((channel) => {
      const columns = naming.filter((one) => one.channel === channel);
      return { channel, attributes: ofChannel(columns, sample, shared.keys, propose) };
    }),
  };
}

function ofChannel(
  columns: readonly NamingColumn[],
  sample: FileSample,
  keys: readonly string[],
  propose: (sample: FileSample) => SourceProposal,
): readonly ProposedAttribute[] {
  // Two columns may say the same beside the channel's name; a number keeps them apart.
  const names = columns.map(({ rest }, at) => {
    const number = columns.slice(0, at).filter((other) => other.rest === rest).length + 1;
    return number === 1 ? rest : `${rest} ${number}`;
  });
  const indexes = columns.map(({ index }) => index);
  // Nothing of it is a key, so that the catalogue's values prove nothing.
  const proposed = propose({ ...only(sample, indexes, names), known: names.map(() => ({})), pairs: [] });
  const columnOf = (name: string): string => sample.header[indexes[names.indexOf(name)] ?? -1] ?? "";
  const taken = new Set<string>();
  const found = names.flatMap((name): readonly ProposedAttribute[] => {
    const column = columnOf(name);
    const said = proposed.attributes.find((one) => one.columns.length === 1 && one.columns[0] === name);
    const samples = said?.samples ?? [];
    const isPlain = said !== undefined && said.expression === columnExpression(name);
    const isMeant =
      isPlain && said.known && !keys.includes(said.attribute) && !tiesProducts.includes(said.attribute);
    const attribute = isMeant && !taken.has(said.attribute) ? said.attribute : ownName(name, taken);
    taken.add(attribute);
    const known = isOurs(attribute);
    return [
      {
        attribute,
        expression: columnExpression(column),
        columns: [column],
        confidence: known ? (said?.confidence ?? 0) : 0,
        samples,
        known,
        ...(known || said?.ownKind === undefined ? {} : { ownKind: said.ownKind }),
      },
    ];
  });
  return withListed(found);
}

/** A name that is none of ours and not taken. */
function ownName(rest: string, taken: ReadonlySet<string>): string {
  const own = ownAttribute(rest);
  const free = isOurs(own) ? `listing_${own}` : own;
  for (let number = 1; ; number++) {
    const name = number === 1 ? free : `${free}_${number}`;
    if (!taken.has(name)) return name;
  }
}

/** The one column of a channel that says yes or no says whether a product is listed there. */
function withListed(attributes: readonly ProposedAttribute[]): readonly ProposedAttribute[] {
  const yesNo = attributes.filter(({ ownKind }) => ownKind === "yes-no");
  if (yesNo.length !== 1 || attributes.some(({ attribute }) => attribute === "listed")) return attributes;
  return attributes.map((one) => {
    if (one !== yesNo[0]) return one;
    const { ownKind, ...rest } = one;
    return ownKind === undefined ? one : { ...rest, attribute: "listed", confidence: 0.7, known: true };
  });
}
