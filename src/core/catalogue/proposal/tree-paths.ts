/** What looking at trees for a proposal has in common: paths with what they are called, texts and names of nodes. */
import type { RecordNode } from "../../records/node.js";
import { fold } from "../../values/text.js";

/** A path with what its steps say of its meaning, as the name of a column would. */
export interface FoundPath {
  readonly path: string;
  readonly label: string;
}

/** So many records show what a file is. */
export const LOOKED_AT = 200;

/** Names under which a value stands whose meaning is its parent's. */
const generic =
  /^(?:value|values|amount|text|content|file|files|href|src|data|item|entry|wert|valeur|valor|waarde)$/;

/** Keys under which a name stands whose value stands beside it. */
export const nameKeys =
  /^(?:name|key|label|attribute|property|feature|title|merkmal|nom|nombre|naam|nazwa|n|k)$/;

/** Texts that a node has by name: its attributes, and children that hold nothing else. */
export function textsOf(node: RecordNode): ReadonlyMap<string, string> {
  const found = new Map<string, string>(node.attributes);
  for (const { name, text } of node.children) if (text !== undefined && text !== "") found.set(name, text);
  return found;
}

/** Children of all nodes by name, each with the parent it has. */
export function byName(nodes: readonly RecordNode[]): ReadonlyMap<string, readonly RecordNode[]> {
  const found = new Map<string, RecordNode[]>();
  for (const child of nodes.flatMap(({ children }) => children)) {
    const alike = found.get(child.name);
    if (alike === undefined) found.set(child.name, [child]);
    else alike.push(child);
  }
  return found;
}

/** Whether any node comes more than once under one parent. */
export function repeats(nodes: readonly RecordNode[]): boolean {
  const parents = new Set(nodes.map(({ parent }) => parent));
  return parents.size < nodes.length;
}

/** A label without the s of many. */
export const singular = (label: string): string => label.replace(/(\w{3,})s$/, "$1");

/** The last of the steps that a label has. */
export const lastStep = (label: string): string => label.split(" / ").at(-1) ?? label;

/** A label with one step more: a step that says little takes its parent's meaning. */
export function join(label: string, name: string): string {
  const step = name.replace(/([a-z])([A-Z])/g, "$1 $2");
  if (label === "") return step;
  if (generic.test(fold(step))) return label;
  return `${label} / ${step}`;
}

/** Names under which a bare amount stands. */
export const plainAmount = /^(?:amount|value|sum|betrag|montant|importe|bedrag|kwota)$/;

/** Names under which a currency stands. */
export const currencyWord =
  /^(?:currency|cur|curr|ccy|waehrung|währung|devise|moneda|valuta|waluta|price ?currency|currency ?code)$/;
