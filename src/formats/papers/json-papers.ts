/** JSON and JSON Lines as papers: a schema, a sample, facts and lists of values. */
import type { TreeNode } from "../../core/learning/paper.js";
import { broken, DEEPEST, MOST_NODES, type PaperKind } from "./paper-kind.js";

const scalarText = (value: unknown): string =>
  typeof value === "string"
    ? value
    : typeof value === "number" || typeof value === "boolean"
      ? String(value)
      : "";

/** JSON as a tree: members of objects are named children, items of lists bear their list's name. */
function jsonTree(json: unknown): TreeNode {
  let nodes = 0;
  const node = (name: string, value: unknown, deep: number): readonly TreeNode[] => {
    if (++nodes > MOST_NODES || deep > DEEPEST) return [];
    if (Array.isArray(value)) return value.flatMap((item) => node(name, item, deep + 1));
    const own = { name, attributes: new Map<string, string>(), line: 0 };
    if (typeof value !== "object" || value === null)
      return [{ ...own, children: [], text: scalarText(value) }];
    return [
      {
        ...own,
        children: Object.entries(value).flatMap(([key, inner]) => node(key, inner, deep + 1)),
        text: "",
      },
    ];
  };
  const children = Array.isArray(json)
    ? json.flatMap((item) => node("item", item, 1))
    : (node("root", json, 0)[0]?.children ?? []);
  return { name: "root", attributes: new Map(), children, text: "", line: 0 };
}

function parsed(text: string, file: string): unknown {
  try {
    return JSON.parse(text.replace(/^\ufeff/, ""));
  } catch (error) {
    throw broken(file, "JSON", error instanceof Error ? error.message : "it cannot be read");
  }
}

/** JSON Lines: an object a line. */
function jsonLines(text: string): readonly unknown[] | undefined {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== "");
  if (lines.length < 2) return undefined;
  try {
    const objects = lines.map((line): unknown => JSON.parse(line));
    return objects.every((one) => typeof one === "object" && one !== null) ? objects : undefined;
  } catch {
    return undefined;
  }
}

/** JSON, where the name says so: a text may begin with a brace. */
export const jsonPapers: PaperKind = {
  holds: ({ shown, file }) => /^\s*[{[]/.test(shown().text) && /\.(?:json|jsonl|ndjson|jsonld)$/i.test(file),
  read({ file, shown }) {
    const { text } = shown();
    const json = jsonLines(text) ?? parsed(text, file);
    return { papers: [{ paper: "tree", file, format: "json", root: jsonTree(json), json }], told: [] };
  },
};
