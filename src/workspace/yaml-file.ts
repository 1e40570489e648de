/** YAML with the place of everything in it, and edits that keep the rest. */
import { assertNever } from "../core/assert-never.js";
import {
  isMap,
  isPair,
  isScalar,
  LineCounter,
  parseDocument,
  visit,
  type Document,
  type Node,
  type YAMLMap,
} from "yaml";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Place } from "../core/diagnostics/place.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ExpressionSource } from "../core/language/program.js";
import { smallFile } from "../formats/small-file.js";

/** Keys and positions from the top. */
export type KeyPath = readonly (string | number)[];

/** A decision file in YAML, with the place of everything in it. */
export interface YamlFile {
  /** As messages show it, from the workspace's folder. */
  readonly file: string;
  readonly text: string;
  readonly document: Document.Parsed;
  readonly value: unknown;
  place(path: KeyPath): Place;
  placeOf(node: Node | null | undefined): Place;
}

const SIZE_LIMIT = 16 << 20;

/** Reads a YAML file; all its syntax faults in one refusal. */
export async function readYaml(path: string, file: string): Promise<YamlFile> {
  return parseYaml((await smallFile(path, file, SIZE_LIMIT)).toString(), file);
}

/** Reads a text. @throws Refusal with all its faults */
export function parseYaml(text: string, file: string): YamlFile {
  const lines = new LineCounter();
  const document = parseDocument(text, {
    lineCounter: lines,
    prettyErrors: false,
    strict: true,
    // The parser's own look for keys that stand twice takes the square of their number.
    uniqueKeys: false,
  });
  const at = (offset: number): Place => {
    const { line, col } = lines.linePos(offset);
    return { file, line, position: col };
  };
  const faults = document.errors.map((error) =>
    diagnostic("yaml-syntax", { reason: error.message }, { place: at(error.pos[0]) }),
  );
  visit(document, {
    Map(_, map) {
      const keys = new Set<unknown>();
      for (const { key } of map.items) {
        if (!isScalar(key) || key.range == null) continue;
        if (keys.has(key.value))
          faults.push(
            diagnostic("yaml-syntax", { reason: "Map keys must be unique" }, { place: at(key.range[0]) }),
          );
        keys.add(key.value);
      }
    },
  });
  if (faults.length > 0) throw new Refusal(faults);
  const nodes = keyNodes();
  const placeOf = (node: Node | null | undefined): Place =>
    node?.range == null ? { file } : at(node.range[0]);
  return {
    file,
    text,
    document,
    value: value(document, file),
    placeOf,
    place(path) {
      return placeOf(nodes(document, path) ?? (document.getIn(path, true) as Node | undefined));
    },
  };
}

/** Resolving aliases is where an alias bomb would burst: the parser refuses it, and so do we, in words. */
function value(document: Document.Parsed, file: string): unknown {
  try {
    return document.toJS({ maxAliasCount: 50 });
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new Refusal([diagnostic("yaml-syntax", { reason }, { place: { file } })]);
  }
}

/** A finding about a setting points at its key where there is one. Each map's keys are gone through once. */
function keyNodes(): (document: Document.Parsed, path: KeyPath) => Node | undefined {
  const known = new Map<object, ReadonlyMap<unknown, Node>>();
  const keysOf = (map: YAMLMap): ReadonlyMap<unknown, Node> => {
    const found = new Map<unknown, Node>();
    for (const item of map.items)
      if (isPair(item) && isScalar(item.key) && !found.has(item.key.value))
        found.set(item.key.value, item.key);
    return found;
  };
  return (document, path) => {
    const parent = document.getIn(path.slice(0, -1), true);
    if (!isMap(parent)) return undefined;
    const keys = known.get(parent) ?? keysOf(parent);
    known.set(parent, keys);
    return keys.get(path.at(-1));
  };
}

/**
 * The expression that a YAML value holds, taken from the source as written: a double-quoted value is one of our texts,
 * quotes included, so `title: "{brand} {name}"` means what it looks like, and positions point into the person's file.
 */
export function expressionOf(yaml: YamlFile, node: Node | null | undefined): ExpressionSource | undefined {
  if (!isScalar(node) || node.range == null) return undefined;
  const [start, end] = node.range;
  const place = yaml.placeOf(node);
  const { line = 1, position = 1 } = place;
  switch (node.type) {
    case "QUOTE_SINGLE":
      return { text: String(node.value), place: { ...place, position: position + 1 } };
    case "BLOCK_FOLDED":
    case "BLOCK_LITERAL": {
      // Its lines as they stand: how they are folded makes no difference to an expression, and places stay true.
      const lines = yaml.text.slice(yaml.text.indexOf("\n", start) + 1, end).trimEnd();
      return { text: lines, place: { file: yaml.file, line: line + 1, position: 1 } };
    }
    case "PLAIN":
    case "QUOTE_DOUBLE":
    case undefined: {
      const text = yaml.text.slice(start, end).trim();
      return text === "" ? undefined : { text, place };
    }
    default:
      return assertNever(node.type);
  }
}

/** The place where a YAML value stands in a map, and its expression. */
export const expressionAt = (yaml: YamlFile, path: KeyPath): ExpressionSource | undefined =>
  expressionOf(yaml, yaml.document.getIn(path, true) as Node | undefined);
