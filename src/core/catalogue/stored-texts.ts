/** A record's texts without cutting them apart: one text with separators, divided only where somebody asks. */
import { TEXT_SEPARATOR } from "./record.js";

/** A record's texts, and where they are known as one, stored text, that as well. */
export interface RecordTexts {
  readonly texts: readonly string[];
  readonly stored?: string | undefined;
}

/** Texts that are divided only when somebody asks for all of them. */
export class DividedLater implements RecordTexts {
  private divided: readonly string[] | undefined;

  constructor(readonly stored: string) {}

  get texts(): readonly string[] {
    return (this.divided ??= this.stored.split(TEXT_SEPARATOR));
  }
}

/** Reads single texts of records, one record after the other, without making the others. */
export class TextPicker {
  private stored = "";
  private readonly ends: number[] = [-1, 0];

  at({ texts, stored }: RecordTexts, position: number): string | undefined {
    if (stored === undefined) return texts[position];
    if (stored !== this.stored) this.divide(stored);
    const [begin, end] = [this.ends[position], this.ends[position + 1]];
    return begin === undefined || end === undefined ? undefined : stored.slice(begin + 1, end);
  }

  private divide(stored: string): void {
    const { ends } = this;
    let count = 1;
    for (let at = stored.indexOf(TEXT_SEPARATOR); at >= 0; at = stored.indexOf(TEXT_SEPARATOR, at + 1))
      ends[count++] = at;
    ends[count++] = stored.length;
    ends.length = count;
    this.stored = stored;
  }
}
