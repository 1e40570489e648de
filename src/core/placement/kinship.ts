/** How two goods stand to each other: the same, a kind of it, a part of it, of one kind. */
import type { Glossary } from "../goods/glossary.js";

/** How another good stands to one: the same, what it is one of, one of it, one of the same kind, or what goes with it. */
export type Kin = "same" | "wider" | "narrower" | "beside" | "with";

/** Another good, by the nearest way. */
export interface Reached {
  readonly kin: Kin;
  /** 0 to 1: how near. */
  readonly near: number;
}

const UP = 0.82;
const DOWN = 0.8;
const FARTHEST = 5;
const BESIDE = 0.4;
/** What is said to go with a thing is no longer beside it. */
const WITH = 0.45;
/** Kinds with more than this have too little in common. */
const MANY_KINDS = 60;
/** What everything of a trade is one of says little. */
const ROOT = 0.75;

/** Goods near to one, each by its nearest way; remembered for each. */
export interface Kinship {
  of(good: number): ReadonlyMap<number, Reached>;
}

/** Begins to tell the kin of a glossary's goods. */
export function kinshipOf(glossary: Glossary): Kinship {
  const known = new Map<number, ReadonlyMap<number, Reached>>();
  const reach = (start: number): ReadonlyMap<number, Reached> => {
    const found = new Map<number, Reached>();
    const put = (good: number, kin: Kin, near: number): boolean => {
      const before = found.get(good);
      if (before !== undefined && before.near >= near) return false;
      found.set(good, { kin, near });
      return true;
    };
    put(start, "same", 1);
    const up = (good: number, near: number, steps: number): void => {
      for (const parent of glossary.goods[good]?.kindOf ?? []) {
        const isRoot = glossary.goods[parent]?.kindOf.length === 0;
        if (put(parent, "wider", near * UP * (isRoot ? ROOT : 1)) && steps > 1)
          up(parent, near * UP, steps - 1);
      }
    };
    const down = (good: number, near: number, steps: number): void => {
      const kinds = glossary.goods[good]?.kinds ?? [];
      if (kinds.length > MANY_KINDS) return;
      for (const kind of kinds)
        if (put(kind, "narrower", near * DOWN) && steps > 1) down(kind, near * DOWN, steps - 1);
    };
    up(start, 1, FARTHEST);
    down(start, 1, 3);
    for (const parent of glossary.goods[start]?.kindOf ?? []) {
      const beside = glossary.goods[parent];
      if (beside === undefined || beside.kindOf.length === 0 || beside.kinds.length > MANY_KINDS) continue;
      for (const kind of beside.kinds) put(kind, "beside", BESIDE);
    }
    for (const other of glossary.goods[start]?.withIt ?? []) put(other, "with", WITH);
    return found;
  };
  return {
    of(good) {
      const before = known.get(good);
      if (before !== undefined) return before;
      const found = reach(good);
      known.set(good, found);
      return found;
    },
  };
}
