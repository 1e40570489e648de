import type { Origin } from "../record.js";

/** Texts and numbers of one family after the other, in plain columns: they go from thread to thread at little cost. */
export interface Facts {
  readonly texts: readonly string[];
  readonly numbers: Float64Array<ArrayBuffer>;
}

/** Writes facts down; they are read in the same order. */
export class FactsWriter {
  private texts: string[] = [];
  private numbers: number[] = [];

  text(text: string): void {
    this.texts.push(text);
  }

  number(number: number): void {
    this.numbers.push(number);
  }

  origin(origin: Origin | undefined): void {
    this.numbers.push(origin?.revision ?? NO_REVISION, origin?.row ?? 0);
  }

  take(): Facts {
    const facts = { texts: this.texts, numbers: Float64Array.from(this.numbers) };
    [this.texts, this.numbers] = [[], []];
    return facts;
  }
}

const NO_REVISION = -1;

/** Reads facts in the order in which they were written. */
export class FactsReader {
  private nextText = 0;
  private nextNumber = 0;

  constructor(private readonly facts: Facts) {}

  text(): string {
    return this.facts.texts[this.nextText++] ?? "";
  }

  number(): number {
    return this.facts.numbers[this.nextNumber++] ?? 0;
  }

  origin(): Origin | undefined {
    const [revision, row] = [this.number(), this.number()];
    return revision === NO_REVISION ? undefined : { revision, row };
  }
}
