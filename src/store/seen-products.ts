/** Which products have been named so far: a bit by product id, so that a million costs 128 kB. */
export interface SeenProducts {
  has(id: number): boolean;
  /** Notes a product; says whether it was noted before. */
  note(id: number): boolean;
}

export const seenProducts = (): SeenProducts => {
  let bits = new Uint8Array(1 << 16);
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
  };
};
