/** Which products have been named so far: a bit by product id, so that a million costs 128 kB. */
export interface SeenProducts {
  has(id: number): boolean;
  /** Notes a product; says whether it was noted before. */
  note(id: number): boolean;
  forget(id: number): void;
  /** The bits as they are kept; undefined where none is set. */
  bytes(): Buffer | undefined;
}

/** Begins with none, or with those that were kept. */
export function seenProducts(kept?: Uint8Array): SeenProducts {
  let bits = new Uint8Array(Math.max(1 << 10, kept?.length ?? 0));
  if (kept !== undefined) bits.set(kept);
  const isSet = (id: number): boolean => ((bits[id >> 3] ?? 0) & (1 << (id & 7))) !== 0;
  return {
    has: isSet,
    note(id) {
      const at = id >> 3;
      if (at >= bits.length) {
        const larger = new Uint8Array(Math.max(at + 1, bits.length * 2));
        larger.set(bits);
        bits = larger;
      }
      const was = isSet(id);
      bits[at] = (bits[at] ?? 0) | (1 << (id & 7));
      return was;
    },
    forget(id) {
      const at = id >> 3;
      if (at < bits.length) bits[at] = (bits[at] ?? 0) & ~(1 << (id & 7));
    },
    bytes() {
      const end = bits.findLastIndex((byte) => byte !== 0) + 1;
      return end === 0 ? undefined : Buffer.from(bits.slice(0, end));
    },
  };
}
