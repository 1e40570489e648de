/** A number of 53 bits for a text: of a million texts, two fall together once in ten thousand catalogues. */
export function hashOf(text: string): number {
  let [a, b] = [0xdeadbeef, 0x41c6ce57];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  // 0 marks a free slot.
  return 4294967296 * (2097151 & b) + (a >>> 0) + 1;
}

/** What is known of a text that was seen before. */
export interface Seen {
  /** Who had it first. */
  readonly first: number;
  /** How many had it, this one included. */
  readonly count: number;
}

/** Remembers texts by their hashes in flat memory: a million cost 32 MB at most, whatever their lengths. */
export interface TextRegister {
  /** Notes that `owner` (a number from 0 up) has the text; an owner that has it already does not count twice in a row. */
  add(text: string, owner: number): Seen;
  /** The same, of a text's hash. */
  addHash(hash: number, owner: number): Seen;
  has(text: string): boolean;
  /** Who had a text first; undefined where nobody has it. */
  firstOf(text: string): number | undefined;
}

/** An empty register. */
export function textRegister(): TextRegister {
  let size = 1 << 10;
  let used = 0;
  let hashes = new Float64Array(size);
  let firsts = new Uint32Array(size);
  let lasts = new Uint32Array(size);
  let counts = new Uint32Array(size);
  const slotOf = (hash: number): number => {
    let at = hash % size;
    while (hashes[at] !== 0 && hashes[at] !== hash) at = at + 1 === size ? 0 : at + 1;
    return at;
  };
  const grow = (): void => {
    const before = { hashes, firsts, lasts, counts };
    size *= 2;
    hashes = new Float64Array(size);
    [firsts, lasts, counts] = [new Uint32Array(size), new Uint32Array(size), new Uint32Array(size)];
    before.hashes.forEach((hash, from) => {
      if (hash === 0) return;
      const to = slotOf(hash);
      hashes[to] = hash;
      firsts[to] = before.firsts[from] ?? 0;
      lasts[to] = before.lasts[from] ?? 0;
      counts[to] = before.counts[from] ?? 0;
    });
  };
  const addHash = (hash: number, owner: number): Seen => {
    if (used * 2 >= size) grow();
    const at = slotOf(hash);
    if (hashes[at] === 0) {
      hashes[at] = hash;
      firsts[at] = owner;
      used++;
    } else if (lasts[at] === owner) return { first: firsts[at] ?? 0, count: counts[at] ?? 0 };
    lasts[at] = owner;
    counts[at] = (counts[at] ?? 0) + 1;
    return { first: firsts[at] ?? 0, count: counts[at] ?? 0 };
  };
  return {
    addHash,
    add: (text, owner) => addHash(hashOf(text), owner),
    firstOf(text) {
      const at = slotOf(hashOf(text));
      return hashes[at] === 0 ? undefined : firsts[at];
    },
    has: (text) => hashes[slotOf(hashOf(text))] !== 0,
  };
}
