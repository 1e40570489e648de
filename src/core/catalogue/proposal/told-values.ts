import type { Glossary } from "../../goods/glossary.js";
import { qualityNamed } from "../../goods/qualities-in.js";
import { columnName } from "./column-name.js";
import { valuesToAsk } from "./known-values.js";
import type { FileSample, ToldShares } from "./source-proposal.js";

/** Whether any column has a name that says nothing: only then it helps to ask what its words tell. */
export const hasUnknownColumn = ({ header, labels }: FileSample): boolean =>
  header.some((column, at) => column !== "" && columnName(labels?.[at] ?? column).attribute === undefined);

/** What the words of each column tell: how many of its values are colours, how many materials, in any language. */
export function toldBy(sample: FileSample, glossary: Glossary): readonly ToldShares[] {
  return valuesToAsk(sample).map((values): ToldShares => {
    let [color, material] = [0, 0];
    for (const value of values) {
      const isA = qualityNamed(value, glossary)?.isA;
      if (isA === "colour") color++;
      else if (isA === "material") material++;
    }
    const all = Math.max(1, values.size);
    return { color: color / all, material: material / all };
  });
}
