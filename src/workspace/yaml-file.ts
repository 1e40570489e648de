import { assertNever } from "../core/assert-never.js";
import { readFile } from "node:fs/promises";
import { isMap, isPair, isScalar, LineCounter, parseDocument, type Document, type Node } from "yaml";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Place } from "../core/diagnostics/place.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Source } from "../core/language/program.js";
import { readFault } from "../formats/file-fault.js";

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
export const readYaml = async (path: string, file: string): Promise<YamlFile> => {
  let text: string;
  try {
    text = await readFile(path, "utf8");
  } catch (error) {
    throw readFault(file, error);
  }
  if (text.length > SIZE_LIMIT)
    throw new Refusal([
      diagnostic("yaml-syntax", { reason: "it is larger than 16 MB" }, { place: { file } }),
    ]);
  return parseYaml(text, file);
};

export const parseYaml = (text: string, file: string): YamlFile => {
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines, prettyErrors: false, strict: true });
  const at = (offset: number): Place => {
    const { line, col } = lines.linePos(offset);
    return { file, line, position: col };
  };
  const faults = document.errors.map((error) =>
    diagnostic("yaml-syntax", { reason: error.message }, { place: at(error.pos[0]) }),
  );
  if (faults.length > 0) throw new Refusal(faults);
  const placeOf = (node: Node | null | undefined): Place =>
    node?.range == null ? { file } : at(node.range[0]);
  return {
    file,
    text,
    document,
    value: value(document, file),
    placeOf,
    place(path) {
      const node = keyNode(document, path) ?? (document.getIn(path, true) as Node | undefined);
      return placeOf(node);
    },
  };
};

/** Resolving aliases is where an alias bomb would burst: the parser refuses it, and so do we, in words. */
const value = (document: Document.Parsed, file: string): unknown => {
  try {
    return document.toJS({ maxAliasCount: 50 });
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    throw new Refusal([diagnostic("yaml-syntax", { reason }, { place: { file } })]);
  }
};

/** A finding about a setting points at its key where there is one. */
const keyNode = (document: Document.Parsed, path: KeyPath): Node | undefined => {
  const parent = document.getIn(path.slice(0, -1), true);
  if (!isMap(parent)) return undefined;
  const key = path.at(-1);
  const pair = parent.items.find((item) => isPair(item) && isScalar(item.key) && item.key.value === key);
  return pair?.key as Node | undefined;
};

/**
 * The expression that a YAML value holds, taken from the source as written: a double-quoted value is one of our texts,
 * quotes included, so `title: "{brand} {name}"` means what it looks like, and positions point into the person's file.
 */
export const expressionOf = (yaml: YamlFile, node: Node | null | undefined): Source | undefined => {
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
};

/** The place where a YAML value stands in a map, and its expression. */
export const expressionAt = (yaml: YamlFile, path: KeyPath): Source | undefined =>
  expressionOf(yaml, yaml.document.getIn(path, true) as Node | undefined);
