/** Fills that wait for each other, told before any product is filled. */
import { ownNames } from "./fill-names.js";
import type { Fill, FillBlock } from "./fill-set.js";

/** Fills that wait for each other: the fields in the order in which one asks the next, the first again at the end. */
export interface FillCircle {
  readonly fields: readonly string[];
  readonly fill: Fill;
}

/** The fields that a fill asks for, with those that the fill below it asks for where it uses that. */
const asks = (fill: Fill): readonly string[] => [
  ...fill.program.readsFields,
  ...(fill.usual !== undefined && fill.program.readsOwn.includes(ownNames.usual.slot)
    ? asks(fill.usual)
    : []),
];

function circlesOf(fills: ReadonlyMap<string, Fill>): readonly FillCircle[] {
  const found: FillCircle[] = [];
  const settled = new Set<string>();
  const visit = (code: string, path: readonly string[]): void => {
    const at = path.indexOf(code);
    if (at >= 0) {
      const fill = fills.get(code);
      if (fill !== undefined) found.push({ fields: [...path.slice(at), code], fill });
      return;
    }
    const fill = fills.get(code);
    if (settled.has(code) || fill === undefined) return;
    for (const asked of asks(fill)) visit(asked, [...path, code]);
    settled.add(code);
  };
  for (const code of fills.keys()) visit(code, []);
  return found;
}

/** The circles in the fills for all, and in each nearer block laid over them. */
export function fillCircles(blocks: readonly FillBlock[]): readonly FillCircle[] {
  const general = new Map<string, Fill>();
  for (const block of blocks)
    if (block.scope === "all") for (const fill of block.fills) general.set(fill.field.code, fill);
  const sets = [
    general,
    ...blocks
      .filter(({ scope }) => scope !== "all")
      .map(({ fills }) => {
        const laid = new Map(general);
        for (const fill of fills) {
          const usual = general.get(fill.field.code);
          laid.set(fill.field.code, usual === undefined ? fill : { ...fill, usual });
        }
        return laid;
      }),
  ];
  const found = new Map<string, FillCircle>();
  for (const circle of sets.flatMap(circlesOf)) {
    const key = [...new Set(circle.fields)].sort().join(" ");
    if (!found.has(key)) found.set(key, circle);
  }
  return [...found.values()];
}
