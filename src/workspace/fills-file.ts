import { existsSync } from "node:fs";
import { isMap, isPair, isScalar, type Node, type Pair, type YAMLMap } from "yaml";
import { fieldNamed, type ChannelDefinition } from "../core/channel/definition.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/diagnostics/nearest.js";
import type { Surroundings } from "../core/language/function.js";
import { resultKind } from "../core/language/kind.js";
import type { Names } from "../core/language/names.js";
import { program } from "../core/language/program.js";
import type { Fill, FillBlock } from "../core/listing/fill-set.js";
import { expressionOf, readYaml, type YamlFile } from "./yaml-file.js";

export interface LoadedFills {
  readonly blocks: readonly FillBlock[];
  readonly findings: readonly Diagnostic[];
}

interface Loading {
  readonly yaml: YamlFile;
  readonly definition: ChannelDefinition;
  readonly attributes: Names;
  readonly surroundings: Surroundings;
  readonly findings: Diagnostic[];
}

const blockNames = ["all", "our_categories", "channel_categories"];

/** Reads `fills.yaml` and compiles each fill; every wrong one is found, each with line and position. */
export const loadFills = async (
  path: string,
  file: string,
  definition: ChannelDefinition,
  attributes: Names,
  surroundings: Surroundings,
): Promise<LoadedFills> => {
  if (!existsSync(path)) return { blocks: [], findings: [] };
  const yaml = await readYaml(path, file);
  const loading: Loading = { yaml, definition, attributes, surroundings, findings: [] };
  const blocks = entries(yaml.document.contents, loading).flatMap(
    ([name, node, key]): readonly FillBlock[] => {
      if (name === "all") return [{ scope: "all", fills: fillsOf(node, loading) }];
      if (name === "our_categories")
        return entries(node, loading).map(([path, fills]) => ({
          scope: "our-category",
          path,
          fills: fillsOf(fills, loading),
        }));
      if (name === "channel_categories")
        return entries(node, loading).flatMap(([wanted, fills, at]) =>
          channelBlock(wanted, fills, at, loading),
        );
      const place = yaml.placeOf(key);
      loading.findings.push(
        diagnostic("unknown-setting", { key: name, nearest: nearest(name, blockNames) }, { place }),
      );
      return [];
    },
  );
  return { blocks, findings: loading.findings };
};

const channelBlock = (
  wanted: string,
  fills: Node | null,
  key: Node,
  loading: Loading,
): readonly FillBlock[] => {
  const { tree } = loading.definition;
  const category = tree.named(wanted);
  if (category !== undefined)
    return [{ scope: "channel-category", code: category.code, fills: fillsOf(fills, loading) }];
  const close = nearest(
    wanted,
    tree.all.flatMap(({ code, path }) => [code, path]),
  );
  loading.findings.push(
    diagnostic(
      "unknown-category",
      { category: wanted, nearest: close },
      { place: loading.yaml.placeOf(key) },
    ),
  );
  return [];
};

/** The entries of a map, with their key nodes; anything else than a map is a finding, nothing at all is empty. */
const entries = (
  node: Node | null,
  { yaml, findings }: Loading,
): readonly (readonly [string, Node | null, Node])[] => {
  if (node === null || (isScalar(node) && node.value === null)) return [];
  if (!isMap(node)) {
    const facts = {
      key: "fills",
      reason: "fields with their fills are wanted here, such as field: expression",
    };
    findings.push(diagnostic("wrong-setting", facts, { place: yaml.placeOf(node) }));
    return [];
  }
  return (node as YAMLMap<Node, Node | null>).items
    .filter((item): item is Pair<Node, Node | null> => isPair(item) && isScalar(item.key))
    .map((item) => [String((item.key as { value?: unknown }).value), item.value, item.key] as const);
};

const fillsOf = (node: Node | null, loading: Loading): readonly Fill[] =>
  entries(node, loading).flatMap(([code, value, key]) => fillOf(code, value, key, loading));

const fillOf = (code: string, value: Node | null, key: Node, loading: Loading): readonly Fill[] => {
  const { yaml, definition, attributes, surroundings, findings } = loading;
  const field = fieldNamed(definition, code);
  if (field === undefined) {
    const facts = { field: code, nearest: nearest(code, definition.fieldNames.all) };
    findings.push(diagnostic("unknown-field", facts, { place: yaml.placeOf(key) }));
    return [];
  }
  const source = expressionOf(yaml, value);
  if (source === undefined) {
    const facts = {
      key: code,
      reason:
        'an expression is wanted, such as name or "{brand} {name}"; to leave the field blank write blank',
    };
    findings.push(diagnostic("wrong-setting", facts, { place: yaml.placeOf(key) }));
    return [];
  }
  const wanted = resultKind(field.kind, field.list);
  // Texts are read as the field's kind when products are filled; only what can never fit is refused here.
  const compiled = program(source, attributes, surroundings, wanted === "text" ? "text" : "any");
  if (compiled.kind === "program") return [{ field, program: compiled }];
  findings.push(...compiled.findings);
  return [];
};
