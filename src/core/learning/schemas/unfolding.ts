/**
 * How far a schema is followed. Its parts name each other: one that stands within itself has no end, and thirty of which
 * each names the next one twice have a thousand million. So each part is unfolded once and known from then on, what stands
 * within itself is not followed again, and of what is gathered no more is taken than a listing can have. What was left out of
 * the listing that is chosen is told.
 */
import type { SchemaField } from "./schema-reading.js";

/** More are no fields of a listing. */
export const MOST_FIELDS = 2000;

/** So many places are looked at for where a listing is. */
const MOST_ROWS = 20_000;

/** How far parts are followed within each other: what is deeper no listing has, and no stack. */
const MOST_DEEP = 40;

/** What comes of a part; the same each time. */
export type Follow<T> = (part: object, work: () => T) => T;

/** What comes of a part where it stands under a name; the same each time. */
export type FollowRows<T> = (part: object, place: string, work: () => readonly T[]) => readonly T[];

/** A document that is being unfolded. */
export interface Unfolding {
  /** Begins to follow parts in one respect. `otherwise` stands for what is within itself, or too deep. */
  following<T>(otherwise: T): Follow<T>;
  /** Begins to follow parts in search of listings. */
  followingRows<T>(): FollowRows<T>;
  /** The fields, or what they are of, that parts come to, one behind the other. */
  gathered<P, T>(parts: Iterable<P>, each: (part: P) => readonly T[]): readonly T[];
  /** The same of what may be a listing. */
  gatheredRows<P, T>(parts: Iterable<P>, each: (part: P) => readonly T[]): readonly T[];
  /** What is to be told of what was left out, where these are the listing's fields. */
  told(fields: readonly SchemaField[]): readonly string[];
}

/** Fields of something as fields of what that stands in; `most` where it may stand several times. */
export function fieldsBelow(
  fields: readonly SchemaField[],
  name: string,
  isRequired: boolean,
  most: number | undefined,
): readonly SchemaField[] {
  return fields.map((field) => ({
    ...field,
    path: `${name}/${field.path}`,
    isRequired: isRequired && field.isRequired,
    many: field.many ?? most,
  }));
}

/** What parts come to, up to so many; `cut` is told where there are more. */
function upTo<P, T>(
  most: number,
  parts: Iterable<P>,
  each: (part: P) => readonly T[],
  cut: () => void,
): readonly T[] {
  const all: T[] = [];
  for (const part of parts)
    for (const one of each(part)) {
      if (all.length === most) {
        cut();
        return all;
      }
      all.push(one);
    }
  return all;
}

const counted = (count: number): string => count.toLocaleString("en");

/** Begins with a document. */
export function unfolding(file: string): Unfolding {
  let [areFieldsCut, areRowsCut, isTooDeep] = [false, false, false];
  return {
    following(otherwise) {
      const open = new Set<object>();
      const known = new Map<object, typeof otherwise>();
      return (part, work) => {
        const before = known.get(part);
        if (before !== undefined) return before;
        if (open.has(part)) return otherwise;
        if (open.size >= MOST_DEEP) {
          isTooDeep = true;
          return otherwise;
        }
        open.add(part);
        const made = work();
        open.delete(part);
        known.set(part, made);
        return made;
      };
    },
    followingRows<T>(): FollowRows<T> {
      const known = new Map<object, Map<string, readonly T[]>>();
      return (part, place, work) => {
        const places = known.get(part) ?? new Map<string, readonly T[]>();
        known.set(part, places);
        const rows = places.get(place) ?? work();
        places.set(place, rows);
        return rows;
      };
    },
    gathered: (parts, each) => upTo(MOST_FIELDS, parts, each, () => (areFieldsCut = true)),
    gatheredRows: (parts, each) => upTo(MOST_ROWS, parts, each, () => (areRowsCut = true)),
    told: (fields) => [
      // A part that was cut has as many as a listing can have, and so has whatever it stands in.
      ...(areFieldsCut && fields.length >= MOST_FIELDS
        ? [
            `${file}: its parts unfold to more than ${counted(MOST_FIELDS)} fields; the first ${counted(MOST_FIELDS)} are taken`,
          ]
        : []),
      ...(areRowsCut
        ? [
            `${file}: a listing could be in more than ${counted(MOST_ROWS)} places; the first ones were looked at`,
          ]
        : []),
      ...(isTooDeep
        ? [`${file}: parts stand more than ${MOST_DEEP} deep within each other; what is deeper is left out`]
        : []),
    ],
  };
}
