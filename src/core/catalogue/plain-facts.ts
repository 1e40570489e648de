import type { Origin } from "./record.js";

/** Texts and numbers, one behind the other, in plain columns: they go from thread to thread, and into files, at little cost. */
export interface Facts {
  readonly texts: readonly string[];
  readonly numbers: Float64Array<ArrayBuffer>;
  /** Texts that come often, each once, and where each of them comes. */
  readonly words: readonly string[];
  readonly wordsAt: Float64Array<ArrayBuffer>;
}

/** Facts of families, one family after the other. */
export interface FamilyFacts extends Facts {
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
    for (let at = place.texts; at < place.textsEnd; at++) this.texts.push(facts.texts[at] ?? "");
    for (let at = place.numbers; at < place.numbersEnd; at++) this.numbers.push(facts.numbers[at] ?? 0);
    for (let at = place.words; at < place.wordsEnd; at++)
      this.word(facts.words[facts.wordsAt[at] ?? 0] ?? "");
    this.endFamily(place.number);
  }

  take(): FamilyFacts {
    const { texts, words } = this;
    const [numbers, wordsAt, families] = [this.numbers, this.wordsAt, this.families].map((list) =>
      Float64Array.from(list),
    ) as [Column, Column, Column];
    [this.texts, this.numbers, this.wordsAt, this.families] = [[], [], [], []];
    this.words = new Map();
    this.begun = { texts: 0, numbers: 0, words: 0 };
    return { texts, numbers, words: [...words.keys()], wordsAt, families };
  }
}

type Column = Float64Array<ArrayBuffer>;

const NO_REVISION = -1;

/** Where the facts of one family stand: from here on, and until there. */
export interface FamilyPlace {
  readonly number: number;
  readonly facts: Facts;
  readonly texts: number;
  readonly textsEnd: number;
  readonly numbers: number;
  readonly numbersEnd: number;
  readonly words: number;
  readonly wordsEnd: number;
}

/** How many families facts were written of. */
export const familyCount = ({ families }: FamilyFacts): number => families.length / PER_FAMILY;

/** The families of which facts were written, in their order. */
export const familyPlaces = (facts: FamilyFacts): readonly FamilyPlace[] => {
  const { families } = facts;
  const places: FamilyPlace[] = [];
  let [texts, numbers, words] = [0, 0, 0];
  for (let at = 0; at < families.length; at += PER_FAMILY) {
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
  }
  return places;
};

/** Reads facts in the order in which they were written. */
export class FactsReader {
  constructor(
    private readonly facts: Facts,
    /** Where the next text and the next number stand. */
    public nextText = 0,
    public nextNumber = 0,
    private nextWord = 0,
  ) {}

  /** A reader of what was written of one family. */
  static of({ facts, texts, numbers, words }: FamilyPlace): FactsReader {
    return new FactsReader(facts, texts, numbers, words);
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
    return this.facts.texts[this.nextText++] ?? "";
  }

  number(): number {
    return this.facts.numbers[this.nextNumber++] ?? 0;
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
