/** Paths into trees: `lot/number`, `price/@currency`, elements chosen by a part. Read once, run on every record. */
import type { RecordNode } from "./node.js";

/*
 * Paths from a record to its values, one notation for XML and JSON:
 *
 *   name            an element, or the value under a key
 *   price/amount    a step down for each name
 *   @currency       an attribute; in JSON a key
 *   name@de         the one whose language (xml:lang, lang) is German
 *   price[kind=retail]   those whose attribute or inner value says so
 *   image[1]        the first
 *   specs/*         whatever its name; name() is the name itself
 *   .               the record's own text (or text())
 *   ../@brand       a step up; /feed/@currency from the file's own element
 *   "a/b"           a name that has signs of the notation in it
 */

type Filter =
  | { readonly kind: "is"; readonly key: string; readonly value: string }
  | { readonly kind: "at"; readonly number: number };

type PathStep =
  | { readonly step: "root" | "up" | "self" | "name" }
  | { readonly step: "attribute"; readonly name: string }
  | { readonly step: "child"; readonly name: string; readonly filters: readonly Filter[] };

/** A path, ready to be run. */
export interface RecordPath {
  readonly text: string;
  /** Whether it leads out of the record. */
  readonly leadsOut: boolean;
  /**
   * What it finds, in the file's order. Within what repeats, one that lacks the rest of the path gives undefined: values
   * of neighbouring paths keep their places beside each other.
   */
  valuesIn(record: RecordNode): readonly (string | undefined)[];
  /** Whether nothing that is still to come in the file can change what it finds. */
  isSettled(record: RecordNode): boolean;
}

const named = String.raw`(?:"[^"]*"|[^/\[\]"]+)`;
const filtered = String.raw`(?:\[[^\[\]]*\])*`;
const stepPattern = new RegExp(`^(${named})(${filtered})$`);

/** A path's steps between its slashes, those in quotes and brackets apart. */
function pieces(text: string): readonly string[] {
  const found: string[] = [];
  let piece = "";
  let closing = "";
  for (const sign of text) {
    if (sign === closing) closing = "";
    else if (closing === "" && sign === '"') closing = '"';
    else if (closing === "" && sign === "[") closing = "]";
    if (sign === "/" && closing === "") {
      found.push(piece);
      piece = "";
    } else piece += sign;
  }
  return [...found, piece];
}

const unquoted = (name: string): string => name.trim().replace(/^"([^"]*)"$/, "$1");

function filterOf(text: string): Filter | undefined {
  if (/^\d{1,6}$/.test(text)) return { kind: "at", number: Number(text) };
  const [, key, value] = /^@?([^=]+)=(.*)$/s.exec(text) ?? [];
  return key === undefined || value === undefined
    ? undefined
    : { kind: "is", key: key.trim(), value: unquoted(value.replace(/^\s*'([^']*)'\s*$/, "$1")) };
}

const language = /^(.+)@([A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)$/;

function stepOf(piece: string): PathStep | undefined {
  if (piece === "..") return { step: "up" };
  if (piece === "." || piece === "text()") return { step: "self" };
  if (piece === "name()") return { step: "name" };
  if (piece.startsWith("@"))
    return piece.length > 1 ? { step: "attribute", name: piece.slice(1) } : undefined;
  const match = stepPattern.exec(piece);
  if (match === null) return undefined;
  const [, written = "", brackets = ""] = match;
  const filters = [...brackets.matchAll(/\[([^[\]]*)\]/g)].map(([, inner = ""]) => filterOf(inner.trim()));
  if (filters.some((filter) => filter === undefined)) return undefined;
  const known = filters.flatMap((filter) => filter ?? []);
  const marked = written.startsWith('"') ? null : language.exec(written);
  const [, plain, code] = marked ?? [];
  if (plain === undefined || code === undefined)
    return { step: "child", name: unquoted(written), filters: known };
  return { step: "child", name: plain, filters: [{ kind: "is", key: "lang", value: code }, ...known] };
}

const cache = new WeakMap<RecordNode, ReadonlyMap<string, readonly RecordNode[]>>();

/** A node's children by name; worked out once for nodes that have many. */
function childrenOf(node: RecordNode, name: string): readonly RecordNode[] {
  if (name === "*") return node.children;
  if (node.children.length < 16 || !node.isClosed)
    return node.children.filter((child) => child.name === name);
  let known = cache.get(node);
  if (known === undefined) {
    const made = new Map<string, RecordNode[]>();
    for (const child of node.children) {
      const alike = made.get(child.name);
      if (alike === undefined) made.set(child.name, [child]);
      else alike.push(child);
    }
    cache.set(node, made);
    known = made;
  }
  return known.get(name) ?? [];
}

/** What a node says under a key: by an attribute, or by an inner value. */
const saidUnder = (node: RecordNode, key: string): string | undefined =>
  node.attributes.get(key) ?? node.children.find((child) => child.name === key)?.text;

const passes = (nodes: readonly RecordNode[], filters: readonly Filter[]): readonly RecordNode[] =>
  filters.reduce(
    (left, filter) =>
      filter.kind === "at"
        ? left.slice(filter.number - 1, filter.number)
        : left.filter((node) => saidUnder(node, filter.key) === filter.value),
    nodes,
  );

function rootOf(node: RecordNode): RecordNode {
  let at = node;
  while (at.parent !== undefined) at = at.parent;
  return at;
}

type FoundNode = RecordNode | string | undefined;

const nothing: readonly (string | undefined)[] = [undefined];

/** The names of a path that only goes down, as nearly all do; undefined for others. */
function namesOf(steps: readonly PathStep[]): readonly string[] | undefined {
  const names = steps.flatMap((one) =>
    one.step === "child" && one.filters.length === 0 && one.name !== "*" ? [one.name] : [],
  );
  return names.length === steps.length ? names : undefined;
}

/** What such a path finds; most elements stand once, and need no list on the way. */
function plainValues(record: RecordNode, names: readonly string[]): readonly (string | undefined)[] {
  let node: RecordNode = record;
  for (let at = 0; at < names.length; at++) {
    const name = names[at] ?? "";
    let found: RecordNode | undefined;
    for (const child of node.children) {
      if (child.name !== name) continue;
      if (found !== undefined) return severalValues(node, names, at);
      found = child;
    }
    if (found === undefined) return nothing;
    node = found;
  }
  return [node.text];
}

function severalValues(
  from: RecordNode,
  names: readonly string[],
  at: number,
): readonly (string | undefined)[] {
  const name = names[at];
  const found = from.children.filter((child) => child.name === name);
  if (at === names.length - 1) return found.map(({ text }) => text);
  return found.flatMap((node) => plainValues(node, names.slice(at + 1)));
}

/** A path read from its text; undefined where it is none. */
export function recordPath(text: string): RecordPath | undefined {
  const isAbsolute = text.startsWith("/");
  const read = pieces(isAbsolute ? text.slice(1) : text).map(stepOf);
  if (text === "" || read.some((step) => step === undefined)) return undefined;
  const steps: readonly PathStep[] = [
    ...(isAbsolute ? [{ step: "root" } as const] : []),
    ...read.flatMap((step) => step ?? []),
  ];
  const step = (nodes: readonly FoundNode[], one: PathStep): readonly FoundNode[] =>
    nodes.flatMap((node): readonly FoundNode[] => {
      if (node === undefined || typeof node === "string") return [undefined];
      switch (one.step) {
        case "root":
          return [rootOf(node)];
        case "up":
          return [node.parent];
        case "self":
          return [node];
        case "name":
          return [node.name];
        case "attribute":
          return [node.attributes.get(one.name) ?? saidUnder(node, one.name)];
        case "child": {
          const { name, filters } = one;
          // The file's own element is where a path from the root begins.
          if (node.parent === undefined && node.name !== "" && isAbsolute && node.name === name)
            return passes([node], filters);
          const found = passes(childrenOf(node, name), filters);
          return found.length === 0 ? [undefined] : found;
        }
      }
    });
  const textOf = (found: FoundNode): string | undefined => (typeof found === "object" ? found.text : found);
  const names = namesOf(steps);
  const ups = steps.filter((one) => one.step === "up").length;
  const leadsOut = isAbsolute || ups > 0;
  return {
    text,
    leadsOut,
    valuesIn(record) {
      if (names !== undefined) return plainValues(record, names);
      let nodes: readonly FoundNode[] = [record];
      for (const one of steps) nodes = step(nodes, one);
      return nodes.map(textOf);
    },
    isSettled(record) {
      if (!leadsOut || this.valuesIn(record).some((value) => value !== undefined)) return true;
      let above = isAbsolute ? rootOf(record) : record;
      for (let up = 0; up < ups && above.parent !== undefined; up++) above = above.parent;
      return above.isClosed || steps.every((one) => one.step !== "child");
    },
  };
}

/** The path of a step by its name alone, in quotes where its signs mean something. */
export const stepText = (name: string): string => (/[/[\]"@]|^\.\.?$|^\d+$/.test(name) ? `"${name}"` : name);
