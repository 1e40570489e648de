/** `fills.yaml`, each fill compiled. */
import { isThere } from "../formats/is-there.js";
import { addAll } from "../core/many.js";
import { smallFile } from "../formats/small-file.js";
import { isAbsolute, relative, resolve } from "node:path";
import { isMap, isPair, isScalar, type Node, type Pair, type YAMLMap } from "yaml";
import { fieldNamed, type ChannelDefinition } from "../core/channel/definition.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import type { Surroundings } from "../core/language/function.js";
import { resultKind } from "../core/language/kind.js";
import type { Names } from "../core/language/names.js";
import { program } from "../core/language/program.js";
import { fillCircles } from "../core/listing/fill/fill-circles.js";
import { unusedLanguages } from "../core/listing/fill/fill-names.js";
import type { Fill, FillBlock } from "../core/listing/fill/fill-set.js";
import { expressionOf, readYaml, type YamlFile } from "./yaml-file.js";

/** Fills, and what is wrong with them. */
export interface LoadedFills {
  readonly blocks: readonly FillBlock[];
  readonly findings: readonly Diagnostic[];
  /** What a person should know, and what stops nothing. */
  readonly advice: readonly Diagnostic[];
}

/** What fills are checked against. */
export interface FillsContext {
  /** The workspace's folder, where lists of products lie. */
  readonly root: string;
  readonly definition: ChannelDefinition;
  readonly names: Names;
  readonly surroundings: Surroundings;
}

interface Loading extends FillsContext {
  readonly yaml: YamlFile;
  readonly findings: Diagnostic[];
  readonly advice: Diagnostic[];
}

const blockNames = ["all", "our_categories", "channel_categories", "products"];

/** Reads `fills.yaml` and compiles each fill; every wrong one is found, each with line and position. */
export async function loadFills(path: string, file: string, context: FillsContext): Promise<LoadedFills> {
  if (!isThere(path, file)) return { blocks: [], findings: [], advice: [] };
  const yaml = await readYaml(path, file);
  const loading: Loading = { ...context, yaml, findings: [], advice: [] };
  const blocks: FillBlock[] = [];
  for (const [name, node, key] of entries(yaml.document.contents, loading)) {
    if (name === "products") {
      for (const [skus, fills, at] of entries(node, loading))
        blocks.push({
          scope: "products",
          skus: await productList(skus, at, loading),
          fills: fillsOf(fills, loading),
        });
      continue;
    }
    addAll(blocks, blocksOf(name, node, key, loading));
  }
  const circles = loading.findings.length > 0 ? [] : fillCircles(blocks);
  const circular = circles.map(({ fields, fill }) =>
    diagnostic(
      "fill-circle",
      { label: fill.field.label, trouble: { trouble: "fill-circle", fields } },
      { place: fill.program.source.place },
    ),
  );
  return { blocks, findings: [...loading.findings, ...circular], advice: loading.advice };
}

function blocksOf(name: string, node: Node | null, key: Node, loading: Loading): readonly FillBlock[] {
  const { yaml } = loading;
  if (name === "all") return [{ scope: "all", fills: fillsOf(node, loading) }];
  if (name === "our_categories")
    return entries(node, loading).map(([path, fills]) => ({
      scope: "our-category",
      path,
      fills: fillsOf(fills, loading),
    }));
  if (name === "channel_categories")
    return entries(node, loading).flatMap(([wanted, fills, at]) => channelBlock(wanted, fills, at, loading));
  const place = yaml.placeOf(key);
  loading.findings.push(
    diagnostic("unknown-setting", { key: name, nearest: nearest(name, blockNames) }, { place }),
  );
  return [];
}

/** SKUs with commas between, or `@FILE`: a file in the workspace with one a line. */
async function productList(
  written: string,
  key: Node,
  { root, yaml, findings }: Loading,
): Promise<ReadonlySet<string>> {
  const wrong = (reason: string): ReadonlySet<string> => {
    findings.push(diagnostic("wrong-setting", { key: written, reason }, { place: yaml.placeOf(key) }));
    return new Set();
  };
  const skusOf = (text: string, between: RegExp): ReadonlySet<string> =>
    new Set(
      text
        .split(between)
        .map((sku) => sku.trim())
        .filter(Boolean),
    );
  if (!written.startsWith("@")) return skusOf(written, /,/);
  const path = resolve(root, written.slice(1));
  if (relative(root, path).startsWith("..") || isAbsolute(written.slice(1)))
    return wrong("the list lies outside the workspace; name a file in its folder");
  try {
    return skusOf((await smallFile(path, written.slice(1))).toString(), /\r?\n/);
  } catch {
    return wrong(`there is no file ${written.slice(1)} with one SKU a line`);
  }
}

function channelBlock(wanted: string, fills: Node | null, key: Node, loading: Loading): readonly FillBlock[] {
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
}

/** The entries of a map, with their key nodes; anything else than a map is a finding, nothing at all is empty. */
function entries(
  node: Node | null,
  { yaml, findings }: Loading,
): readonly (readonly [string, Node | null, Node])[] {
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
}

const fillsOf = (node: Node | null, loading: Loading): readonly Fill[] =>
  entries(node, loading).flatMap(([code, value, key]) => fillOf(code, value, key, loading));

function fillOf(code: string, value: Node | null, key: Node, loading: Loading): readonly Fill[] {
  const { yaml, definition, names, surroundings, findings } = loading;
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
  const compiled = program(source, names, surroundings, wanted === "text" ? "text" : "any");
  if (compiled.kind === "program") {
    for (const attribute of unusedLanguages(source.text, names))
      loading.advice.push(
        diagnostic(
          "unused-language",
          { attribute },
          { place: yaml.placeOf(key), field: field.code },
          "advice",
        ),
      );
    return [{ field, program: compiled }];
  }
  addAll(findings, compiled.findings);
  return [];
}
