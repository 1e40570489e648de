/**
 * Facts as plain columns of texts and numbers: what goes from thread to thread, and into files, at the cost of copying
 * arrays. Whoever reads asks in the order in which was written.
 */
import type { Origin } from "./record.js";

/** Texts and numbers, one behind the other, in plain columns: they go from thread to thread, and into files, at little cost. */
export interface PlainFacts {
  /** All texts as one, and where each of them ends: none is made before it is asked for. */
  readonly text: string;
  readonly ends: Uint32Array<ArrayBuffer>;
  readonly numbers: Float64Array<ArrayBuffer>;
  /** Texts that come often, each once, and where each of them comes. */
  readonly words: readonly string[];
  readonly wordsAt: Uint32Array<ArrayBuffer>;
}

/** Facts of families, one family after the other. */
export interface FamilyFacts extends PlainFacts {
  /** Of each family its number, and how many texts, numbers and words there are of it. */
  readonly families: Float64Array<ArrayBuffer>;
}

const PER_FAMILY = 4;

/** Writes facts down; they are read in the same order. */
export class FactsWriter {
  private texts: string[] = [];
  private numbers: number[] = [];
  private wordsAt: number[] = [];
  private families: number[] = [];
  private words = new Map<string, number>();
  private keys = new Map<string, number>();
  private begun = { texts: 0, numbers: 0, words: 0 };

  text(text: string): void {
    this.texts.push(text);
  }

  number(number: number): void {
    this.numbers.push(number);
  }

  /** A text that is likely to come again. */
  word(text: string): void {
    const { size } = this.words;
    const at = this.words.get(text) ?? size;
    if (at === size) this.words.set(text, at);
    this.wordsAt.push(at);
  }

  /** The same where it costs something to make it, and a key tells which one it is. */
  wordOf(key: string, make: () => string): void {
    const known = this.keys.get(key);
    if (known !== undefined) {
      this.wordsAt.push(known);
      return;
    }
    this.word(make());
    this.keys.set(key, this.wordsAt.at(-1) ?? 0);
  }

  origin(origin: Origin | undefined): void {
    this.numbers.push(origin?.revision ?? NO_REVISION, origin?.row ?? 0);
  }

  /** Ends what was written of a family. */
  endFamily(number: number): void {
    const ends = { texts: this.texts.length, numbers: this.numbers.length, words: this.wordsAt.length };
    const { texts, numbers, words } = this.begun;
    this.families.push(number, ends.texts - texts, ends.numbers - numbers, ends.words - words);
    this.begun = ends;
  }

  /** Writes down once more what was written of a family elsewhere. */
  family(place: FamilyPlace): void {
    const { facts } = place;
    for (let at = place.texts; at < place.textsEnd; at++) this.texts.push(textIn(facts, at));
    for (let at = place.numbers; at < place.numbersEnd; at++) this.numbers.push(facts.numbers[at] ?? 0);
    for (let at = place.words; at < place.wordsEnd; at++)
      this.word(facts.words[facts.wordsAt[at] ?? 0] ?? "");
    this.endFamily(place.number);
  }

  take(): FamilyFacts {
    const { texts, words } = this;
    const ends = new Uint32Array(texts.length);
    let end = 0;
    for (const [at, text] of texts.entries()) ends[at] = end += text.length;
    const facts = {
      text: texts.join(""),
      ends,
      words: [...words.keys()],
      numbers: Float64Array.from(this.numbers),
      wordsAt: Uint32Array.from(this.wordsAt),
      families: Float64Array.from(this.families),
    };
    [this.texts, this.numbers, this.wordsAt, this.families] = [[], [], [], []];
    this.words = new Map();
    this.keys = new Map();
    this.begun = { texts: 0, numbers: 0, words: 0 };
    return facts;
  }
}

const NO_REVISION = -1;

const textIn = ({ text, ends }: PlainFacts, at: number): string =>
  text.slice(at === 0 ? 0 : ends[at - 1], ends[at]);

/** Characters of words that are known again from one piece to the next. */
const ROOM = 32_000_000;

/** A piece whose words are those of the pieces before it, up to a number, and some more. */
export interface ChainedFacts extends FamilyFacts {
  readonly wordsBefore: number;
}

/** Pieces one behind the other say each word once. */
export function wordChain(): (facts: FamilyFacts) => ChainedFacts {
  const known = new Map<string, number>();
  let taken = 0;
  return (facts) => {
    if (taken > ROOM) {
      known.clear();
      taken = 0;
    }
    const wordsBefore = known.size;
    const fresh: string[] = [];
    const places = facts.words.map((word) => {
      const at = known.get(word) ?? known.size;
      if (at === known.size) {
        known.set(word, at);
        fresh.push(word);
        taken += word.length;
      }
      return at;
    });
    return { ...facts, wordsBefore, words: fresh, wordsAt: facts.wordsAt.map((at) => places[at] ?? 0) };
  };
}

/** Such pieces again with all of their words. */
export function unchained(): (facts: ChainedFacts) => FamilyFacts {
  const words: string[] = [];
  return (facts) => {
    words.length = facts.wordsBefore;
    for (const word of facts.words) words.push(word);
    return { ...facts, words };
  };
}

/** Where the facts of one family stand: from here on, and until there. */
export interface FamilyPlace {
  readonly number: number;
  readonly facts: PlainFacts;
  readonly texts: number;
  readonly textsEnd: number;
  readonly numbers: number;
  readonly numbersEnd: number;
  readonly words: number;
  readonly wordsEnd: number;
}

/** The numbers of the families of which facts were written, in their order. */
export const familyNumbers = ({ families }: FamilyFacts): Float64Array =>
  families.filter((_, at) => at % PER_FAMILY === 0);

/** The families of which facts were written, in their order. */
export function familyPlaces(facts: FamilyFacts): readonly FamilyPlace[] {
  const { families } = facts;
  const places: FamilyPlace[] = [];
  let [texts, numbers, words] = [0, 0, 0];
  for (let at = 0; at < families.length; at += PER_FAMILY)
    places.push({
      number: families[at] ?? 0,
      facts,
      texts,
      textsEnd: (texts += families[at + 1] ?? 0),
      numbers,
      numbersEnd: (numbers += families[at + 2] ?? 0),
      words,
      wordsEnd: (words += families[at + 3] ?? 0),
    });
  return places;
}

/** Reads facts in the order in which they were written. */
export class FactsReader {
  constructor(
    private readonly facts: PlainFacts,
    private nextText = 0,
    private nextNumber = 0,
    private nextWord = 0,
  ) {}

  /** A reader of what was written of one family. */
  static of({ facts, texts, numbers, words }: FamilyPlace): FactsReader {
    return new FactsReader(facts, texts, numbers, words);
  }

  /** Where the next text and the next number stand. */
  get textPlace(): number {
    return this.nextText;
  }

  get numberPlace(): number {
    return this.nextNumber;
  }

  /** Another reader, of texts and numbers that come earlier. */
  from(text: number, number: number): FactsReader {
    return new FactsReader(this.facts, text, number);
  }

  skip(texts: number, numbers: number): void {
    this.nextText += texts;
    this.nextNumber += numbers;
  }

  text(): string {
    return textIn(this.facts, this.nextText++);
  }

  number(): number {
    return this.facts.numbers[this.nextNumber++] ?? 0;
  }

  /** Which of the words the next one is. */
  get wordNumber(): number {
    return this.facts.wordsAt[this.nextWord] ?? 0;
  }

  word(): string {
    const { words, wordsAt } = this.facts;
    return words[wordsAt[this.nextWord++] ?? 0] ?? "";
  }

  origin(): Origin | undefined {
    const [revision, row] = [this.number(), this.number()];
    return revision === NO_REVISION ? undefined : { revision, row };
  }
}
