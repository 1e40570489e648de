/**
 * Which element of a tree is a product, by the beginning of the file alone: what looks like goods by its parts' names,
 * innermost first.
 */
import { greatest } from "../../many.js";
import { ownOf } from "../../own.js";
import type { RecordNode } from "../../records/node.js";
import { fold } from "../../values/text.js";
import { columnName } from "./column-name.js";
import { idName } from "./levels-above.js";
import { sampleOfTrees } from "./structure.js";
import { LOOKED_AT } from "./tree-paths.js";

/** A list that has so many times as many records is another one. */
const MANY = 6;

/** How much nodes of one path look like the records of a catalogue. */
function scoreOf(nodes: readonly RecordNode[]): { readonly score: number; readonly hasKey: boolean } {
  const { labels, rows } = sampleOfTrees(nodes, true);
  let [score, hasKey] = [0, false];
  const weights: Readonly<Record<string, number>> = {
    price: 1,
    quantity: 1,
    name: 1,
    gtin: 1,
    cost: 0.5,
    category: 0.5,
    images: 0.5,
  };
  const counted = new Set<string>();
  labels.forEach((label, at) => {
    const { attribute, certainty } = columnName(label);
    const last = label.split(" / ").at(-1) ?? label;
    const values = rows.map((cells) => cells[at] ?? "");
    const filled = values.filter(Boolean);
    // A number that stands twice, or nowhere, is a fault of its record; most have one of their own.
    const areKeys =
      filled.length >= values.length * 0.9 &&
      new Set(filled).size >= filled.length * 0.95 &&
      filled.length > 0;
    const isCode =
      attribute === "sku" ||
      attribute === "gtin" ||
      attribute === "mpn" ||
      attribute === "isbn" ||
      idName.test(fold(last).replaceAll(" ", "")) ||
      /(?:^|[ _])(?:id|no|nr|code|ref|sku|article)$/.test(fold(last));
    if (isCode && areKeys && label === last && values.length > 0) hasKey = true;
    if (attribute === undefined || certainty < 0.6 || counted.has(attribute)) return;
    counted.add(attribute);
    score += ownOf(weights, attribute) ?? 0.1;
  });
  return { score: score + (hasKey ? 2 : 0), hasKey };
}

const keysOf = ({ children }: RecordNode): string =>
  children
    .map(({ name }) => name)
    .sort()
    .join(" ");

/** Nodes by the path that they share, and by that of their container where each has a name of its own. */
function candidatesIn(root: RecordNode): ReadonlyMap<string, readonly RecordNode[]> {
  const found = new Map<string, RecordNode[]>();
  const repeated = new Set<string>();
  const add = (path: string, node: RecordNode): void => {
    const known = found.get(path);
    if (known === undefined) found.set(path, [node]);
    else if (known.length < LOOKED_AT) known.push(node);
  };
  const visit = (node: RecordNode, above: string): void => {
    const objects = node.children.filter(
      ({ children, attributes }) => children.length > 0 || attributes.size > 0,
    );
    const counts = new Map<string, number>();
    for (const { name } of objects) counts.set(name, (counts.get(name) ?? 0) + 1);
    const areKeyed =
      counts.size > 1 &&
      counts.size === node.children.length &&
      new Set(objects.map(keysOf)).size <= Math.ceil(objects.length / 2);
    for (const child of objects) {
      const name = areKeyed ? "*" : child.name;
      const path = above === "" ? name : `${above}/${name}`;
      add(path, child);
      if (areKeyed || (counts.get(child.name) ?? 0) > 1) repeated.add(path);
      visit(child, path);
    }
  };
  visit(root, root.name);
  // What stands once in each of what holds it is a part of that, and no record.
  const isOnce = [...found.keys()].filter((path) => !repeated.has(path));
  if (repeated.size > 0) for (const path of isOnce) found.delete(path);
  return found;
}

/**
 * What a record is, by the beginning of a file: the innermost of the elements that look like goods with a number of their
 * own, such as a variant in a product in a range. Undefined where nothing looks so.
 */
export function chooseRecords(root: RecordNode | undefined): string | undefined {
  if (root === undefined) return undefined;
  const candidates = candidatesIn(root);
  const scored = [...candidates]
    .map(([path, nodes]) => {
      // The last one may have come half.
      const whole = nodes.length > 1 ? nodes.filter(({ isClosed }) => isClosed) : nodes;
      return { path, depth: path.split("/").length, ...scoreOf(whole), count: whole.length };
    })
    .filter(({ score }) => score >= 2);
  const keyed = scored.filter(({ hasKey, score }) => hasKey && score >= 3);
  // A list beside a few things that it is about, such as places, is the one that is meant.
  const most = greatest(keyed.map(({ count }) => count));
  const [best] = keyed
    .filter(({ count }) => count * MANY >= most)
    .sort((a, b) => b.depth - a.depth || b.score - a.score);
  const [other] = scored.sort((a, b) => b.score - a.score || b.count - a.count);
  const path = (best ?? other)?.path;
  return path === undefined ? undefined : shortest(path, [...candidates.keys()]);
}

/** The end of a path that is enough to tell it from the others; a star stands behind what holds it. */
function shortest(path: string, all: readonly string[]): string {
  const names = path.split("/");
  const ends = names.map((_, from) => names.slice(from).join("/")).reverse();
  const isEnough = (end: string): boolean =>
    !end.startsWith("*") && all.filter((one) => one === end || one.endsWith(`/${end}`)).length === 1;
  return ends.find(isEnough) ?? path;
}
