/** Trees of records from a parser's events, and no more memory than one record takes. */
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { endsIn, type RecordNode } from "../core/records/node.js";

const noAttributes: ReadonlyMap<string, string> = new Map();
const noChildren: OpenNode[] = [];

class OpenNode implements RecordNode {
  text: string | undefined = undefined;
  isClosed = false;
  hasRecord = false;
  children: OpenNode[] = noChildren;
  /** Texts and elements in their order, where there are elements and markup is possible. */
  content: (string | OpenNode)[] | undefined = undefined;
  /** The text of a node as long as it has no other. */
  words = "";

  constructor(
    readonly name: string,
    readonly parent: OpenNode | undefined,
    readonly attributes: ReadonlyMap<string, string>,
  ) {}

  add(child: OpenNode, keepsContent: boolean): void {
    if (this.children === noChildren) this.children = [];
    this.children.push(child);
    if (!keepsContent) return;
    this.content ??= this.words === "" ? [] : [this.words];
    this.content.push(child);
  }
}

// What stands beside the records, at the file's head: values for all of them, and no second catalogue.
const BESIDE_LIMIT = 50_000;
/** A product with more values is none; columns times values is what a record costs. */
const RECORD_LIMIT = 50_000;

const markup = new Set(
  "p br ul ol li b i em strong u s a span div h1 h2 h3 h4 h5 h6 table thead tbody tr td th sup sub small hr font center img blockquote dl dt dd".split(
    " ",
  ),
);

const escaped = (text: string): string =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** An element whose texts stand among elements, as the markup that it is. */
const markupOf = ({ content, words }: OpenNode): string =>
  content === undefined
    ? escaped(words)
    : content
        .map((part) => {
          if (typeof part === "string") return escaped(part);
          const inner = markupOf(part);
          return inner === "" ? `<${part.name}/>` : `<${part.name}>${inner}</${part.name}>`;
        })
        .join("");

const blocks = /^(?:p|ul|ol|div|br|h[1-6])$/;

/** Whether texts stand among its elements, or it begins with a paragraph and has nothing but markup. */
function isMarkup(node: OpenNode): boolean {
  const { content, hasRecord } = node;
  if (hasRecord || content === undefined) return false;
  if (content.some((part) => typeof part === "string" && part.trim() !== "")) return true;
  const first = content.find((part) => typeof part !== "string");
  return first !== undefined && blocks.test(first.name) && isMarkupOnly(node);
}

const isMarkupOnly = ({ content }: OpenNode): boolean =>
  content === undefined ||
  content.every((part) => typeof part === "string" || (markup.has(part.name) && isMarkupOnly(part)));

/** Takes what a parser meets. */
export interface TreeBuilder {
  open(name: string, attributes?: ReadonlyMap<string, string>): void;
  text(text: string): void;
  close(): void;
  /** Records that are whole, since it was last asked. */
  take(): readonly RecordNode[];
  /** How many were whole by now. */
  recordsEnded(): number;
  readonly root: RecordNode | undefined;
}

interface Holder {
  readonly path: string;
  /** Names from it to its records. */
  readonly steps: readonly string[];
}

/** The nearest level above a record that says something of its own; in the file's own element all records stand. */
function holderOf(record: OpenNode, pathAt: (up: number) => string): Holder | undefined {
  const steps = [record.name];
  let up = 1;
  for (let at = record.parent; at?.parent !== undefined; at = at.parent, up++) {
    if (at.attributes.size > 0 || at.children.some(({ text }) => text !== undefined))
      return { path: pathAt(up), steps };
    steps.unshift(at.name);
  }
  return undefined;
}

/** The place of a record in what holds none. */
const emptyPlace = (holder: OpenNode, steps: readonly string[]): OpenNode =>
  steps.reduce((parent, name) => {
    const node = new OpenNode(name, parent, noAttributes);
    node.isClosed = true;
    return node;
  }, holder);

/**
 * Builds the trees of records from what a parser meets, and of what stands around them no more than leads to them. An
 * element that holds records elsewhere and has none is a record without the inner part: a product without variants.
 */
export function treeBuilder(
  records: string,
  file: string,
  { format, depthLimit }: { readonly format: string; readonly depthLimit: number },
): TreeBuilder {
  const hasMarkup = format === "XML";
  let finished: RecordNode[] = [];
  let [ended, depth, beside, inRecord] = [0, 0, 0, 0];
  let current: OpenNode | undefined;
  let root: OpenNode | undefined;
  let record: OpenNode | undefined;
  /** The paths of the open nodes above a record, by their depth. */
  const paths: string[] = [""];
  let holder: Holder | undefined;

  const beginRecord = (node: OpenNode): void => {
    record = node;
    inRecord = 0;
    for (let at = node.parent; at !== undefined && !at.hasRecord; at = at.parent) at.hasRecord = true;
    holder ??= holderOf(node, (up) => paths[depth - up] ?? "");
  };
  const end = (node: OpenNode): void => {
    ended++;
    finished.push(node);
  };
  /** What was read goes from its parent, which may hold a million more. */
  const drop = ({ parent }: OpenNode): void => {
    if (parent === undefined) return;
    parent.children.pop();
    parent.content = undefined;
    parent.words = "";
  };
  return {
    get root() {
      return root;
    },
    open(name, attributes = noAttributes) {
      if (++depth > depthLimit)
        throw new Refusal([
          diagnostic(
            "broken-data",
            { format, reason: `elements nest deeper than ${depthLimit}` },
            { place: { file } },
          ),
        ]);
      if (record !== undefined && ++inRecord > RECORD_LIMIT)
        throw new Refusal([
          diagnostic(
            "broken-data",
            { format, reason: `a record has more than ${RECORD_LIMIT.toLocaleString("en")} values` },
            { place: { file } },
          ),
        ]);
      const node = new OpenNode(name, current, attributes);
      if (current === undefined) root = node;
      else if (record !== undefined || ++beside < BESIDE_LIMIT) current.add(node, hasMarkup);
      if (record === undefined) {
        const above = paths[depth - 1] ?? "";
        const path = above === "" ? name : `${above}/${name}`;
        paths[depth] = path;
        if (current !== undefined && endsIn(path, records)) beginRecord(node);
      }
      current = node;
    },
    text(text) {
      if (current === undefined || (record === undefined && beside >= BESIDE_LIMIT)) return;
      if (current.content !== undefined) current.content.push(text);
      else if (current.children === noChildren) current.words += text;
    },
    close() {
      const node = current;
      if (node === undefined) return;
      if (node.children === noChildren) node.text = hasMarkup ? node.words.trim() : node.words;
      else if (hasMarkup && isMarkup(node)) {
        node.text = markupOf(node).trim();
        node.children = noChildren;
      }
      node.isClosed = true;
      current = node.parent;
      if (record === undefined || node === record) closeOutside(node);
      depth--;
    },
    take() {
      const taken = finished;
      finished = [];
      return taken;
    },
    recordsEnded: () => ended,
  };

  function closeOutside(node: OpenNode): void {
    const isRecord = node === record;
    const isAlone = !isRecord && !node.hasRecord && holder?.path === paths[depth];
    record = undefined;
    if (isRecord) end(node);
    else if (isAlone && holder !== undefined) end(emptyPlace(node, holder.steps));
    // Records and what held them go; what stands beside them may be a value for all.
    if ((isRecord || isAlone || node.hasRecord) && node.parent?.children.at(-1) === node) drop(node);
    else if (!markup.has(node.name)) node.content = undefined;
  }
}
