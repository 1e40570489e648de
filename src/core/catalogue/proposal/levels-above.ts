/** What stands above the records of a tree and holds for them: names of ranges, makers, the currency. */
import type { RecordNode } from "../../records/node.js";
import { stepText } from "../../records/path.js";
import { isCurrency } from "../../values/currencies.js";
import { fold } from "../../values/text.js";
import { columnName } from "./column-name.js";
import { type FoundPath, currencyWord, textsOf } from "./tree-paths.js";
import { Walk } from "./tree-walk.js";

/** The levels above records, nearest first, each with what leads to it and the child by which it was left. */
function levelsAbove(records: readonly RecordNode[]) {
  const found: { nodes: RecordNode[]; prefix: string; passed: string; isRoot: boolean }[] = [];
  let below = records;
  for (let up = 1; ; up++) {
    const above = [...new Set(below.flatMap(({ parent }) => parent ?? []))];
    const [first] = above;
    if (first === undefined) return found;
    const isRoot = first.parent === undefined;
    const prefix = isRoot ? (first.name === "" ? "/" : `/${stepText(first.name)}/`) : "../".repeat(up);
    found.push({ nodes: above, prefix, passed: below[0]?.name ?? "", isRoot });
    below = above;
  }
}

/** Names by which records are known. */
export const idName = /^@?(?:id|code|no|nr|number|num|ref|sku|key|handle|article|model|style)$/;

const titleName =
  /^@?(?:name|title|label|headline|heading|bezeichnung|titel|nom|nombre|naam|nazwa)(?:@[\w-]+)?$/;

/** What a level above says of its records: a product's own values for its variants, or a range's name for its goods. */
function levelColumns(
  level: ReturnType<typeof levelsAbove>[number],
  records: readonly RecordNode[],
  /** Whether a level below is the product already. */
  isAboveProduct: boolean,
): readonly FoundPath[] {
  const walk = new Walk(level.prefix, level.passed);
  walk.down(level.nodes, "", "");
  const inside = walk.found.filter(
    ({ path }) => !path.slice(level.prefix.length).startsWith(`${level.passed}/`),
  );
  if (level.isRoot)
    return inside.filter(({ label }) => {
      const { attribute, certainty } = columnName(label);
      return certainty >= 0.9 && ["brand", "manufacturer"].includes(attribute ?? "");
    });
  const meant = new Set(inside.map(({ label }) => columnName(label).attribute));
  const isProduct = !isAboveProduct && isProductLevel(level, inside, meant);
  const isRange =
    !isProduct ||
    /range|section|categor|department|group|family|rubri|gruppe/.test(fold(level.nodes[0]?.name ?? ""));
  const hasSeveral = level.nodes.length < records.length;
  // A currency for all below is the file's own, told once.
  const said = inside.filter(({ label }) => !currencyWord.test(fold(label.split(" / ").at(-1) ?? "")));
  return said.map((one) => {
    const name = own(one.path, level.prefix);
    if (isRange && titleName.test(name) && !isProduct)
      return { ...one, label: houseLike(level.nodes) ? "brand" : "category" };
    if (isProduct && hasSeveral && idName.test(name)) return { ...one, label: "group" };
    return one;
  });
}

/** Whether a level says what a product says: texts, pictures, a number beside a name. */
const isProductLevel = (
  { prefix }: ReturnType<typeof levelsAbove>[number],
  inside: readonly FoundPath[],
  meant: ReadonlySet<string | undefined>,
): boolean =>
  meant.has("description") ||
  meant.has("images") ||
  (inside.some(({ path }) => idName.test(own(path, prefix))) && meant.has("name"));

/** What all levels above say: above a product there are ranges of products. */
export function aboveColumns(records: readonly RecordNode[]): readonly FoundPath[] {
  let isAboveProduct = false;
  return levelsAbove(records).flatMap((level) => {
    const found = levelColumns(level, records, isAboveProduct);
    const meant = new Set(found.map(({ label }) => columnName(label).attribute));
    isAboveProduct ||= !level.isRoot && meant.has("name") && isProductLevel(level, found, meant);
    return found;
  });
}

const houseLike = ([first]: readonly RecordNode[]): boolean =>
  /house|brand|maker|supplier|manufacturer|marke|hersteller|vendor/.test(fold(first?.name ?? ""));

const own = (path: string, prefix: string): string => path.slice(prefix.length);

/** The one currency that a level above, or the file, states. */
export function currencyAbove(records: readonly RecordNode[]): string | undefined {
  for (const { nodes } of levelsAbove(records)) {
    const codes = new Set<string>();
    const look = (node: RecordNode, depth: number): void => {
      for (const [key, text] of textsOf(node))
        if (currencyWord.test(fold(key)) && isCurrency(text)) codes.add(text);
      if (depth > 0) for (const child of node.children) if (child.text === undefined) look(child, depth - 1);
    };
    for (const node of nodes) look(node, 1);
    const [code] = codes;
    if (codes.size === 1) return code;
  }
  return undefined;
}
