import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { endsIn, type RecordNode } from "../core/records/node.js";

interface OpenNode extends RecordNode {
  text: string | undefined;
  isClosed: boolean;
  readonly children: OpenNode[];
  readonly parent: OpenNode | undefined;
  readonly attributes: Map<string, string>;
  /** Texts and elements in their order, while it is open. */
  content: (string | OpenNode)[];
  hasRecord: boolean;
}

const noAttributes = new Map<string, string>();

// What stands beside the records, at the file's head: values for all of them, and no second catalogue.
const BESIDE_LIMIT = 50_000;

const markup = new Set(
  "p br ul ol li b i em strong u s a span div h1 h2 h3 h4 h5 h6 table thead tbody tr td th sup sub small hr font center img blockquote dl dt dd".split(
    " ",
  ),
);

const escaped = (text: string): string =>
  text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

/** An element whose texts stand among elements, as the markup that it is. */
const markupOf = (node: OpenNode): string =>
  node.content
    .map((part) => {
      if (typeof part === "string") return escaped(part);
      const inner = markupOf(part);
      return inner === "" ? `<${part.name}/>` : `<${part.name}>${inner}</${part.name}>`;
    })
    .join("");

const blocks = /^(?:p|ul|ol|div|br|h[1-6])$/;

/** Whether texts stand among its elements, or it begins with a paragraph and has nothing but markup. */
const isMarkup = (node: OpenNode): boolean => {
  const { content, hasRecord } = node;
  if (hasRecord) return false;
  if (content.some((part) => typeof part === "string" && part.trim() !== "")) return true;
  const first = content.find((part) => typeof part !== "string");
  return first !== undefined && blocks.test(first.name) && isMarkupOnly(node);
};

const isMarkupOnly = ({ content }: OpenNode): boolean =>
  content.every((part) => typeof part === "string" || (markup.has(part.name) && isMarkupOnly(part)));

export interface TreeEvents {
  open(name: string, attributes?: ReadonlyMap<string, string>): void;
  text(text: string): void;
  close(): void;
}

export interface TreeBuilder extends TreeEvents {
  /** Records that are whole, since it was last asked. */
  take(): readonly RecordNode[];
  /** How many were whole by now. */
  recordsEnded(): number;
  readonly root: RecordNode | undefined;
}

/**
 * Builds the trees of records from what a parser meets, and of what stands around them no more than leads to them. An
 * element that holds records elsewhere and has none is a record without the inner part: a product without variants.
 */
export const treeBuilder = (
  records: string,
  file: string,
  { format, depthLimit }: { readonly format: string; readonly depthLimit: number },
): TreeBuilder => {
  let finished: RecordNode[] = [];
  let [ended, depth, beside] = [0, 0, 0];
  let current: OpenNode | undefined;
  let root: OpenNode | undefined;
  let record: OpenNode | undefined;
  /** Names of the open nodes, the path of each by depth. */
  const paths: string[] = [""];
  let holder: { readonly path: string; readonly steps: readonly string[] } | undefined;

  const noteRecord = (node: OpenNode): void => {
    const steps: string[] = [node.name];
    let found: OpenNode | undefined;
    let above = depth - 1;
    for (let at = node.parent; at !== undefined; at = at.parent, above--) {
      at.hasRecord = true;
      if (
        found === undefined &&
        at.parent !== undefined &&
        (at.attributes.size > 0 || at.children.some(({ text }) => text !== undefined))
      )
        found = at;
      if (found === undefined) steps.unshift(at.name);
      else if (found === at) holder ??= { path: paths[above] ?? "", steps };
    }
  };
  const virtual = (node: OpenNode, steps: readonly string[]): OpenNode =>
    steps.reduce(
      (parent, name): OpenNode => ({
        ...{ name, parent, attributes: noAttributes, children: [], text: undefined },
        ...{ isClosed: true, content: [], hasRecord: true },
      }),
      node,
    );
  const end = (node: OpenNode): void => {
    ended++;
    finished.push(node);
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
      const own = attributes.size === 0 ? noAttributes : new Map(attributes);
      const node: OpenNode = {
        ...{ name, parent: current, attributes: own, children: [], text: undefined },
        ...{ isClosed: false, content: [], hasRecord: false },
      };
      const above = paths[depth - 1] ?? "";
      paths[depth] = above === "" ? name : `${above}/${name}`;
      if (current === undefined) root = node;
      else if (record !== undefined || ++beside < BESIDE_LIMIT) {
        current.children.push(node);
        current.content.push(node);
      }
      if (record === undefined && current !== undefined && endsIn(paths[depth] ?? "", records)) {
        record = node;
        noteRecord(node);
      }
      current = node;
    },
    text(text) {
      if (record !== undefined || beside < BESIDE_LIMIT) current?.content.push(text);
    },
    close() {
      const node = current;
      if (node === undefined) return;
      if (node.children.length === 0)
        node.text = node.content.filter((part) => typeof part === "string").join("");
      else if (format === "XML" && isMarkup(node)) {
        node.text = markupOf(node).trim();
        node.children.length = 0;
      }
      if (format === "XML" && node.text !== undefined) node.text = node.text.trim();
      // An element's content is asked for once more, by one around it that turns out to be markup.
      if (record === undefined && !markup.has(node.name)) node.content = [];
      node.isClosed = true;
      current = node.parent;
      const isRecord = node === record;
      const isAlone = record === undefined && !node.hasRecord && holder?.path === paths[depth];
      if (isRecord) record = undefined;
      if (isRecord) end(node);
      else if (isAlone && holder !== undefined) end(virtual(node, holder.steps));
      // Records and what held them go; what stands beside them may be a value for all.
      if (isRecord || isAlone || node.hasRecord) drop(node);
      depth--;
    },
    take() {
      const taken = finished;
      finished = [];
      return taken;
    },
    recordsEnded: () => ended,
  };

  function drop(node: OpenNode): void {
    const parent = node.parent;
    if (parent === undefined) return;
    const at = parent.children.lastIndexOf(node);
    if (at >= 0) parent.children.splice(at, 1);
    parent.content = [];
  }
};
