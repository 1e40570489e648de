/** What tells alike elements of a tree apart: a kind, a language, a place; and what each kind is called. */
import type { RecordNode } from "../../records/node.js";
import { isCurrency } from "../../values/currencies.js";
import { fold } from "../../values/text.js";
import { textsOf, nameKeys, singular } from "./tree-paths.js";

/** More kinds than this are no kinds, but values. */
export const KINDS_LIMIT = 8;

const kindKeys =
  /^(?:kind|type|typ|list|usage|role|use|for|qualifier|class|art|soort|clase|tier|level|group|customer|place|warehouse|store|depot|location|site|branch|lager|filiale|magasin|magazzino|almacen|magazijn)$/;

/** Whether no two nodes of one parent have the same value. */
function areApart(nodes: readonly RecordNode[], values: readonly (string | undefined)[]): boolean {
  const seen = new Map<RecordNode | undefined, Set<string | undefined>>();
  return nodes.every(({ parent }, at) => {
    const own = seen.get(parent) ?? new Set();
    seen.set(parent, own);
    return own.size < own.add(values[at]).size;
  });
}

const isLanguageKeyName = (key: string): boolean =>
  /^(?:lang|language|sprache|langue|taal|locale)$/.test(key);

/** Two keys that only together tell siblings apart: a kind of price in several currencies. */
export function twoDiscriminators(
  nodes: readonly RecordNode[],
): readonly [kind: string, currency: string] | undefined {
  const [first] = nodes;
  if (first === undefined) return undefined;
  const keys = [...textsOf(first).keys()];
  const valuesOf = (key: string): readonly (string | undefined)[] =>
    nodes.map((node) => textsOf(node).get(key));
  const currency = keys.find((key) => {
    const values = valuesOf(key).filter((value) => value !== undefined);
    return values.length > nodes.length / 2 && values.every((value) => isCurrency(value));
  });
  const kind = keys.find(
    (key) => kindKeys.test(fold(key)) && valuesOf(key).every((value) => value !== undefined),
  );
  if (currency === undefined || kind === undefined || kind === currency) return undefined;
  const [kinds, codes] = [valuesOf(kind), valuesOf(currency)];
  const pairs = kinds.map((value, at) => `${value ?? ""}\u0000${codes[at] ?? ""}`);
  const isFew = new Set(pairs).size <= KINDS_LIMIT * 2 && new Set(codes).size > 1;
  // One price that is there twice, or names no currency, is a fault of that record.
  return isFew && apartShare(nodes, pairs) > 0.9 ? [kind, currency] : undefined;
}

/** The share of nodes whose value no other of the same parent has. */
function apartShare(nodes: readonly RecordNode[], values: readonly string[]): number {
  const seen = new Map<RecordNode | undefined, Set<string>>();
  let apart = 0;
  nodes.forEach(({ parent }, at) => {
    const own = seen.get(parent) ?? new Set();
    seen.set(parent, own);
    if (own.size < own.add(values[at] ?? "").size) apart++;
  });
  return nodes.length === 0 ? 0 : apart / nodes.length;
}

/** The key whose values tell siblings of one name apart, such as the kind of a price. */
export function discriminator(
  nodes: readonly RecordNode[],
): { readonly key: string; readonly values: readonly string[] } | undefined {
  const [first] = nodes;
  if (first === undefined) return undefined;
  for (const [key] of textsOf(first)) {
    const values = nodes.map((node) => textsOf(node).get(key));
    if (values.some((value) => value === undefined)) continue;
    const isLanguageKey = isLanguageKeyName(key);
    const isKind = kindKeys.test(key);
    if (!isLanguageKey && !isKind && !nameKeys.test(key)) continue;
    // One that is there twice is a fault of its record, where there are few kinds.
    const areFew = isKind && new Set(values).size <= KINDS_LIMIT;
    const isTold = areFew
      ? apartShare(
          nodes,
          values.map((value) => value ?? ""),
        ) > 0.9
      : areApart(nodes, values);
    if (!isTold) continue;
    return { key, values: [...new Set(values.flatMap((value) => value ?? []))] };
  }
  return undefined;
}

const placeKeys =
  /^(?:place|warehouse|store|depot|location|site|branch|lager|filiale|magasin|magazzino|almacen|magazijn)$/;

/** What is said of one kind of several: "retail price", "pieces in warehouse A". */
export function kindLabel(key: string, value: string, own: string, nodes: readonly RecordNode[]): string {
  if (!placeKeys.test(fold(key))) return `${value} ${singular(own)}`;
  return `${namedElsewhere(value, nodes)} in ${key} ${value}`;
}

/** What a place is called that a list of places does not name though it names others. */
export const UNLISTED = "unlisted";

const LEGEND_DEPTH = 4;

const PLACE_CODE = 6;

/** A place by its name, which a list of places at the file's head may say beside its code; "pieces" where there is no list. */
function namedElsewhere(code: string, [first]: readonly RecordNode[]): string {
  let root = first;
  while (root?.parent !== undefined) root = root.parent;
  const names = new Map<string, string>();
  const look = (node: RecordNode, depth: number): void => {
    const texts = [...textsOf(node).values()];
    const [name, other] = texts.filter((text) => /\p{L}{3}/u.test(text));
    const short = texts.find((text) => text !== name && text.length <= PLACE_CODE);
    const isNamed = texts.length === 2 && name !== undefined && other === undefined && short !== undefined;
    if (isNamed && node.children.every(({ children }) => children.length === 0)) names.set(fold(short), name);
    if (depth > 0) for (const child of node.children.slice(0, KINDS_LIMIT * 4)) look(child, depth - 1);
  };
  if (root !== undefined) look(root, LEGEND_DEPTH);
  return names.get(fold(code)) ?? (names.size > 1 ? UNLISTED : "pieces");
}
