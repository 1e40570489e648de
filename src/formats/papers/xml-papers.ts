/** XML as a paper: a schema, a sample, a list of values. Entities of its own are refused. Leans on saxes. */
import { SaxesParser } from "saxes";
import type { TreeNode } from "../../core/learning/paper.js";
import { refuseEntities } from "../xml-reader.js";
import { broken, DEEPEST, MOST_NODES, type PaperKind } from "./paper-kind.js";

interface GrowingNode {
  name: string;
  attributes: Map<string, string>;
  children: GrowingNode[];
  text: string;
  line: number;
}

/** A document of XML as a tree; entities of its own are refused. */
function xmlTree(text: string, file: string): TreeNode {
  const parser = new SaxesParser();
  const path: GrowingNode[] = [];
  let root: GrowingNode | undefined;
  let nodes = 0;
  parser.on("doctype", (doctype) => refuseEntities(doctype, file));
  parser.on("error", (error) => {
    throw broken(file, "XML", error.message.replace(/^.*?\d+:\d+: /, ""), parser.line);
  });
  parser.on("opentag", ({ name, attributes }) => {
    if (++nodes > MOST_NODES || path.length >= DEEPEST)
      throw broken(
        file,
        "XML",
        `it has more than ${MOST_NODES} elements, or more than ${DEEPEST} within each other`,
      );
    const node: GrowingNode = {
      name,
      attributes: new Map(Object.entries(attributes)),
      children: [],
      text: "",
      line: parser.line,
    };
    path.at(-1)?.children.push(node);
    root ??= node;
    path.push(node);
  });
  const add = (piece: string): void => {
    const node = path.at(-1);
    if (node !== undefined) node.text += piece;
  };
  parser.on("text", add);
  parser.on("cdata", add);
  parser.on("closetag", () => path.pop());
  parser.write(text.startsWith("\ufeff") ? text.slice(1) : text).close();
  if (root === undefined) throw broken(file, "XML", "it has no element");
  return root;
}

/** XML. */
export const xmlPapers: PaperKind = {
  holds: ({ shown }) => shown().text.trimStart().startsWith("<"),
  read: ({ file, shown }) => ({
    papers: [{ paper: "tree", file, format: "xml", root: xmlTree(shown().text, file), json: undefined }],
    told: [],
  }),
};
