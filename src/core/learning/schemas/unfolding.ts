/**
 * How far a schema is followed. Its parts name each other: one that stands within itself has no end, and thirty of which
 * each names the next one twice have a thousand million. So each part is unfolded once and known from then on, what stands
 * within itself is not followed again, and of what is gathered no more is taken than a listing can have, which is told.
 */

/** More are no fields of a listing. */
export const MOST_FIELDS = 2000;

/** How far parts are followed within each other: what is deeper no listing has, and no stack. */
const MOST_DEEP = 40;

/** What comes of a part; the same each time. */
export type Follow<T> = (part: object, work: () => T) => T;

/** A document that is being unfolded. */
export interface Unfolding {
  /** Begins to follow parts in one respect. `otherwise` stands for what is within itself, or too deep. */
  following<T>(otherwise: T): Follow<T>;
  /** What the parts of something come to, one behind the other. */
  gathered<P, T>(parts: Iterable<P>, each: (part: P) => readonly T[]): readonly T[];
  /** What is to be told of what was left out. */
  told(): readonly string[];
}

/** Begins with a document. */
export function unfolding(file: string): Unfolding {
  let isCut = false;
  return {
    following(otherwise) {
      const open = new Set<object>();
      const known = new Map<object, typeof otherwise>();
      return (part, work) => {
        const before = known.get(part);
        if (before !== undefined) return before;
        if (open.has(part) || open.size >= MOST_DEEP) return otherwise;
        open.add(part);
        const made = work();
        open.delete(part);
        known.set(part, made);
        return made;
      };
    },
    gathered(parts, each) {
      const all: ReturnType<typeof each>[number][] = [];
      for (const part of parts)
        for (const one of each(part)) {
          if (all.length === MOST_FIELDS) {
            isCut = true;
            return all;
          }
          all.push(one);
        }
      return all;
    },
    told: () => {
      const most = MOST_FIELDS.toLocaleString("en");
      return isCut
        ? [`${file}: its parts unfold to more than ${most} fields; the first ${most} are taken`]
        : [];
    },
  };
}
