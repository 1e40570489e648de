/** Memories of what texts came to, bounded together: when the room is full, all begin anew. */
import { apart } from "./apart.js";

/** The room that several memories share, in characters: when it is full, all of them begin anew. */
export class MemoRoom {
  private readonly memos: { clear(): void }[] = [];
  private taken = 0;

  constructor(private readonly characters: number) {}

  add(memo: { clear(): void }): void {
    this.memos.push(memo);
  }

  take(characters: number): void {
    this.taken += characters;
    if (this.taken <= this.characters) return;
    for (const memo of this.memos) memo.clear();
    this.taken = 0;
  }
}

// What one entry takes beside its text.
const ENTRY = 200;
/** So often is a memory asked before it is judged. */
const TRIAL = 1000;

/**
 * Remembers what a text came to. Brands, colours and prices repeat; where texts hardly do, as SKUs and web addresses, the
 * memory gives up, so that it costs them nothing.
 */
export class TextMemo<T> {
  private readonly known = new Map<string, T>();
  private asked = 0;
  private found = 0;
  private isOff = false;

  constructor(private readonly room: MemoRoom) {
    room.add(this.known);
  }

  get(text: string): T | undefined {
    if (this.isOff) return undefined;
    const known = this.known.get(text);
    if (known !== undefined) this.found++;
    if (++this.asked === TRIAL) this.judge();
    return known;
  }

  set(text: string, value: T): void {
    if (this.isOff) return;
    this.room.take(text.length + ENTRY);
    const own = apart(text);
    // What came to itself is kept once.
    this.known.set(own, (value as unknown) === text ? (own as T) : value);
  }

  private judge(): void {
    if (this.found * 3 < this.asked) {
      this.isOff = true;
      this.known.clear();
    }
    this.asked = this.found = 0;
  }
}
