/**
 * Understands what is to be placed: reads its path, its products' names and what others call it, and says by each of these
 * voices which goods it is, with the words and qualities that speak. Nothing is weighed against a tree yet.
 */
import type { Category } from "../channel/category-tree.js";
import type { Quality } from "../goods/good.js";
import type { Mention, NameReading } from "../goods/read-name.js";
import { pathParts } from "../values/category-path.js";
import type { CategoryIndex } from "./category-index.js";
import { addAll, greatest } from "../many.js";
import {
  addMasses,
  companyOf,
  fieldsOf,
  headsOf,
  massesOf,
  wholeOf,
  type Company,
  type Head,
  type Masses,
} from "./company.js";
import { withCompounds, wordsOf } from "./words.js";

/** What is to be placed: one of our categories, or a product that stands apart from its own. */
export interface Subject {
  /** Our path, outer first. */
  readonly path: string;
  /** Names of products in it. */
  readonly names: readonly string[];
  /** Beginnings of their descriptions: read where neither names nor path say anything. */
  readonly descriptions?: readonly string[];
  /** Channel categories that neighbours were placed in: siblings and what stands above. */
  readonly neighbours: readonly Category[];
  /** What others call its category: paths on other channels, a maker's category. */
  readonly elsewhere: readonly string[];
}

/** A subject read: what it is by each of its voices, with the words and qualities that speak. */
export interface Understood {
  /** By its products' names: the whole is the share of products that name anything known. */
  readonly products: Masses;
  /** By its leaf. */
  readonly leaf: Masses;
  /** By what stands above. */
  readonly branch: Masses;
  /** By all else that its products' names mention. */
  readonly aside: Masses;
  /** Words with how far they speak for what it is: products' heads and the leaf 1, others less. */
  readonly words: ReadonlyMap<string, number>;
  readonly leafWords: readonly string[];
  readonly branchWords: readonly string[];
  /** Qualities by name, with the share of its voices that tell them. */
  readonly qualities: ReadonlyMap<string, { readonly quality: Quality; readonly share: number }>;
  readonly fields: Float64Array;
  /** Different words of its names, leaf and branch that speak of each field: one alone may be another trade's. */
  readonly witnesses: Float64Array;
  /** What others call it, as far as that is known. */
  readonly elsewhere: Masses;
  /** How far its products' names, and its leaf, name one thing each, rather than any of dozens: else its trade is not known. */
  readonly named: { readonly products: number; readonly leaf: number };
  /** What its products are called: the words of each name's first part, where there are any. */
  readonly calledBy: readonly (readonly string[])[];
  /** Products whose names were read. */
  readonly count: number;
}

/** A name's first part says most; what stands in a list or bracket less, what it is for or has hardly anything. */
const BY_JOINT = { begin: 1, and: 0.45, list: 0.45, of: 0.3, apart: 0.25, use: 0, trait: 0 } as const;

const LEAF = 1.2;
const BRANCH = 0.8;
/** How far a word speaks for what a product is. */
const HEAD_WORD = 1;
const OTHER_WORD = 0.5;
const BRANCH_WORD = 0.35;
const TRANSLATED = 0.7;
const NEAR = 0.65;

/** What one name says the thing is; all its heads share one whole. */
function massesOfHeads(heads: readonly Head[], weightOf: (head: Head) => number): Map<number, number> {
  const found = new Map<number, number>();
  const whole = heads.reduce((sum, head) => sum + weightOf(head), 0);
  for (const head of heads) addMasses(found, head.goods, weightOf(head) / Math.max(1, whole));
  return found;
}

/** What is left of a leaf that its products contradict: it is a nickname. */
const NICKNAME = 0.4;

/** How far a leaf is to be taken at its word: wholly, unless its products are known and none is of its kind. */
function agreementOf(products: Masses, leaf: Masses, index: CategoryIndex): number {
  let [known, agreed] = [0, 0];
  for (const [good, mass] of products) {
    known += mass;
    const reach = index.kinship.of(good);
    if ([...leaf.keys()].some((other) => reach.has(other) || index.kinship.of(other).has(good)))
      agreed += mass;
  }
  return 1 - (1 - NICKNAME) * Math.min(1, Math.max(0, known - 2 * agreed));
}

function raise(words: Map<string, number>, word: string, to: number): void {
  words.set(word, Math.max(to, words.get(word) ?? 0));
}

/** What is left of what products say where their shelf and the one above it name one thing together. */
const BESIDE_SHELF = 0.6;

/** What a shelf and the one above it name together: "Books > Beekeeping" are beekeeping books, "Hives > Roofs" hive roofs. */
function wholeShelf(parts: readonly string[], { reader }: CategoryIndex): readonly Mention[] {
  const [above, leaf] = [parts.at(-2), parts.at(-1)];
  if (above === undefined || leaf === undefined) return [];
  // "Seeds > Bulbs" is no other thing than seeds.
  const alone = new Set(
    [leaf, above].flatMap((text) =>
      reader
        .read(text)
        .mentions.flatMap(({ meanings }) =>
          meanings.flatMap(({ good, by }) => (by === "part" ? [] : [good])),
        ),
    ),
  );
  for (const text of [`${leaf} ${above}`, `${above} ${leaf}`]) {
    const { tokens, mentions } = reader.read(text);
    const found = mentions.filter(
      ({ words, how }) => how === "term" && words.length > 1 && words.length === tokens.length,
    );
    if (found.some(({ meanings }) => meanings.every(({ good }) => !alone.has(good)))) return found;
  }
  return [];
}

const firstSentence = (text: string): string => text.split(/[.!?](?:\s|$)/)[0] ?? "";

/** Below this nobody said what the things are, and their descriptions are read. */
const HARDLY = 0.25;
const DESCRIBED = 0.4;

/** A subject's texts read, with the company that its words keep. */
interface ReadSubject {
  readonly index: CategoryIndex;
  readonly parts: readonly string[];
  readonly leaf: NameReading;
  readonly branch: readonly NameReading[];
  readonly names: readonly NameReading[];
  /** The share of one name. */
  readonly each: number;
  readonly company: Company;
}

function readSubject(subject: Subject, index: CategoryIndex): ReadSubject {
  const { glossary, reader } = index;
  const parts = pathParts(subject.path);
  const leaf = reader.read(parts.at(-1) ?? "");
  const branch = parts.slice(0, -1).map((part) => reader.read(part));
  const names = subject.names.map((name) => reader.read(name));
  const each = 1 / Math.max(1, names.length);
  const company = companyOf(
    [
      ...names.map((reading) => ({ reading, weight: 2 * each })),
      { reading: leaf, weight: LEAF },
      ...branch.map((reading, at) => ({ reading, weight: BRANCH * 0.8 ** (branch.length - 1 - at) })),
    ],
    glossary,
  );
  return { index, parts, leaf, branch, names, each, company };
}

/** How many different words speak of each field of trade. */
function witnessesIn({ names, leaf, branch, index }: ReadSubject): Float64Array {
  const speaking = Array.from({ length: index.glossary.fields }, () => new Set<string>());
  for (const { mentions } of [...names, leaf, ...branch])
    for (const mention of mentions)
      for (const field of fieldsOf(mention, index.glossary))
        for (const word of mention.words) for (const own of wordsOf(word)) speaking[field]?.add(own);
  return Float64Array.from(speaking, ({ size }) => size);
}

const headsIn = (reading: NameReading, { company, index }: ReadSubject): readonly Head[] =>
  headsOf(reading, company, index.glossary);

/** What its products' names say: what they are, what else they mention, and the words they are called by. */
interface NamesSay {
  readonly products: Map<number, number>;
  readonly aside: Map<number, number>;
  /** Words by the share of names that say them, heads first. */
  readonly shares: ReadonlyMap<string, number>;
  /** The same as they are written. */
  readonly plain: readonly string[];
  /** How far a name names one thing, on the average. */
  readonly named: number;
}

/** How far words name one thing: a word that may be any of dozens names none. */
const namesOne = (heads: readonly Head[]): number =>
  greatest(
    heads.flatMap(({ goods }) => [...goods.values()]),
    0,
  );

/** Words of one name with how far they say what the thing is: those of its head wholly, others half. */
function wordsOfName(
  reading: NameReading,
  heads: readonly Head[],
  plain: readonly string[],
): Map<string, number> {
  const headWords = new Set(heads.flatMap(({ mention }) => (mention.joint === "begin" ? mention.words : [])));
  const said = new Map<string, number>();
  for (const [at, { word, part }] of reading.tokens.entries()) {
    const isLast = part === 0 && reading.tokens[at + 1]?.part !== 0;
    for (const own of wordsOf(word)) raise(said, own, headWords.has(word) || isLast ? HEAD_WORD : OTHER_WORD);
  }
  for (const own of withCompounds(plain)) raise(said, own, OTHER_WORD);
  return said;
}

function namesSay(read: ReadSubject): NamesSay {
  const { names, each, company, index } = read;
  const [products, aside] = [new Map<number, number>(), new Map<number, number>()];
  const shares = new Map<string, number>();
  const plain: string[] = [];
  let named = 0;
  for (const reading of names) {
    const heads = headsIn(reading, read);
    named += each * namesOne(heads);
    addMasses(
      products,
      massesOfHeads(heads, ({ mention }) => BY_JOINT[mention.joint]),
      each,
    );
    for (const mention of reading.mentions)
      if (!heads.some((head) => head.mention === mention))
        addMasses(aside, massesOf(mention, company, index.glossary), each);
    const own = wordsOf(reading.tokens.map(({ word }) => word).join(" "));
    addAll(plain, own);
    for (const [word, weight] of wordsOfName(reading, heads, own))
      shares.set(word, (shares.get(word) ?? 0) + weight * each);
  }
  return { products, aside, shares, plain, named };
}

/** What the leaf says alone; things that it lists count as much as its first. */
const leafSays = (heads: readonly Head[]): Map<number, number> =>
  massesOfHeads(heads, ({ mention: { joint } }) =>
    joint === "begin" || joint === "list" || joint === "and" ? 1 : 0.3,
  );

/** What stands above says, the nearest most. */
function branchSays(read: ReadSubject): Map<number, number> {
  const found = new Map<number, number>();
  for (const [at, reading] of read.branch.entries())
    addMasses(
      found,
      massesOfHeads(headsIn(reading, read), () => 1),
      0.7 ** (read.branch.length - 1 - at),
    );
  return found;
}

/** What further texts say, all of them together as much as `weight`. */
function textsSay(
  texts: readonly string[],
  weight: number,
  into: Map<number, number>,
  read: ReadSubject,
): Map<number, number> {
  for (const text of texts)
    addMasses(
      into,
      massesOfHeads(headsIn(read.index.reader.read(text), read), () => 1),
      weight / texts.length,
    );
  return into;
}

/**
 * Settles leaf and products against each other, in place: what a shelf and the one above it name together stands for the
 * leaf; else a leaf that its products contradict is a nickname. Gives how far the leaf is taken at its word.
 */
function settleLeaf(
  leaf: Map<number, number>,
  products: Map<number, number>,
  { parts, company, index }: ReadSubject,
): number {
  const whole = wholeShelf(parts, index);
  if (whole.length > 0) {
    leaf.clear();
    for (const mention of whole)
      addMasses(leaf, massesOf(mention, company, index.glossary), 1 / whole.length);
    // Titles of books speak of bees and kitchens; the shelf says that they are books.
    for (const [good, mass] of products) products.set(good, mass * BESIDE_SHELF);
  }
  const agreed = whole.length > 0 ? 1 : agreementOf(products, leaf, index);
  for (const [good, mass] of leaf) leaf.set(good, mass * agreed);
  return agreed;
}

/** What a name calls the thing, before what it has or comes in. */
const calledBy = ({ tokens }: NameReading): readonly string[] =>
  wordsOf(
    tokens
      .filter(({ part }) => part === 0)
      .map(({ word }) => word)
      .join(" "),
  );

/** The words to look for in the tree: its own, those of the tree's language, and those that are nearly in the tree. */
function wordsToSeek(
  { shares, plain, products }: NamesSay,
  leaf: Masses,
  agreed: number,
  { parts, index }: ReadSubject,
): ReadonlyMap<string, number> {
  const words = new Map(shares);
  for (const word of withCompounds(wordsOf(parts.at(-1) ?? ""))) raise(words, word, agreed);
  for (const word of parts.slice(0, -1).flatMap((part) => wordsOf(part))) raise(words, word, BRANCH_WORD);
  // What things are called in the tree's language, where ours is another.
  for (const masses of [products, leaf])
    for (const [good, mass] of masses)
      for (const word of wordsOf(index.glossary.goods[good]?.name ?? ""))
        raise(words, word, TRANSLATED * Math.min(1, mass));
  // Words that the tree does not have, as it may have them: slips of the pen, ends of joined words, two words for one.
  const written = new Set([...plain, ...parts.flatMap((part) => wordsOf(part))]);
  for (const [word, weight] of [...words].filter(([one]) => written.has(one)))
    if (index.withWord(word).length === 0)
      for (const near of index.nearWords(word)) raise(words, near, weight * NEAR);
    else for (const own of index.partsOf(word)) raise(words, own, weight);
  return words;
}

/** Qualities that its voices tell, and for whom its goods are. */
function qualitiesTold(
  products: Masses,
  leafGoods: Masses,
  { names, each, leaf, branch, index }: ReadSubject,
): Understood["qualities"] {
  const qualities = new Map<string, { quality: Quality; share: number }>();
  const tell = (quality: Quality, share: number): void => {
    const before = qualities.get(quality.name);
    qualities.set(quality.name, { quality, share: Math.min(1, (before?.share ?? 0) + share) });
  };
  for (const reading of names)
    for (const quality of new Map(reading.qualities.map((one) => [one.name, one])).values())
      tell(quality, each);
  for (const quality of leaf.qualities) tell(quality, 1);
  for (const reading of branch) for (const quality of reading.qualities) tell(quality, ABOVE_TELLS);
  for (const masses of [products, leafGoods])
    for (const [good, mass] of masses) {
      const [forWhom] = index.reader.qualitiesOf(index.glossary.goods[good]?.forWhom ?? "");
      if (forWhom !== undefined) tell(forWhom, mass * ABOVE_TELLS);
    }
  return qualities;
}

/** Qualities that are not told of the things themselves. */
const ABOVE_TELLS = 0.8;

/**
 * Reads a subject: chooses the meanings of its words by the company that they keep in it. In turn: its texts are read → its
 * products' names, leaf and branch say what it is → descriptions where they say hardly anything → leaf and products are
 * settled against each other → words and qualities to look for.
 */
export function understand(subject: Subject, index: CategoryIndex): Understood {
  const read = readSubject(subject, index);
  const named = namesSay(read);
  const { products, aside } = named;
  const leafHeads = headsIn(read.leaf, read);
  const leaf = leafSays(leafHeads);
  if (wholeOf(products) < HARDLY && wholeOf(leaf) < HARDLY)
    textsSay((subject.descriptions ?? []).map(firstSentence), DESCRIBED, products, read);
  const leaves = subject.elsewhere.map((path) => pathParts(path).at(-1) ?? "");
  const elsewhere = textsSay(leaves, 1, new Map<number, number>(), read);
  const agreed = settleLeaf(leaf, products, read);
  const { parts, names, company } = read;
  return {
    products,
    leaf,
    branch: branchSays(read),
    aside,
    words: wordsToSeek(named, leaf, agreed, read),
    leafWords: wordsOf(parts.at(-1) ?? ""),
    branchWords: parts.slice(0, -1).flatMap((part) => wordsOf(part)),
    qualities: qualitiesTold(products, leaf, read),
    fields: company.fields,
    witnesses: witnessesIn(read),
    elsewhere,
    named: { products: named.named, leaf: namesOne(leafHeads) },
    calledBy: names.map(calledBy).filter((words) => words.length > 0),
    count: names.length,
  };
}
