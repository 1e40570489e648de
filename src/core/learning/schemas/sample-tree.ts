/** A sample of a file, read as if it were a schema: fields with their values. */
import { localName } from "../../records/local-name.js";
import { greatest } from "../../many.js";
import type { TreeNode, TreePaper } from "../paper.js";
import type { SchemaField, SchemaReading } from "./schema-reading.js";

interface SeenNode {
  readonly path: string;
  readonly values: string[];
  rows: number;
  most: number;
  readonly line: number;
}

/** The element that comes again and again and holds the most: a listing of the sample. */
function repeated(
  root: TreeNode,
): { readonly rows: readonly TreeNode[]; readonly above: TreeNode } | undefined {
  let best: { rows: readonly TreeNode[]; above: TreeNode; weight: number } | undefined;
  const visit = (node: TreeNode, deep: number): void => {
    const byName = new Map<string, TreeNode[]>();
    for (const child of node.children) {
      const same = byName.get(child.name) ?? [];
      same.push(child);
      byName.set(child.name, same);
    }
    for (const rows of byName.values()) {
      const holds = greatest(
        rows.map((row) => row.children.length + row.attributes.size),
        0,
      );
      // What stands higher up is the listing; what repeats within it are its values.
      const weight = holds / (1 + deep * 0.5) + (rows.length > 1 ? 1 : 0);
      if (holds >= 3 && (best === undefined || weight > best.weight)) best = { rows, above: node, weight };
    }
    if (deep < 4) for (const child of node.children.slice(0, 50)) visit(child, deep + 1);
  };
  visit(root, 0);
  return best;
}

/** Reads a sample of a file: the fields that its listings have, with their values; what must be there it does not say. */
export function readSample(paper: TreePaper): SchemaReading | undefined {
  const { file, root, format, json } = paper;
  const isLinked = format === "json" && hasContext(json);
  const name = localName(root.name);
  const isFeed = name === "rss" || name === "feed";
  const found = isFeed ? feedRows(root) : repeated(root);
  if (found === undefined) return undefined;
  const seen = new Map<string, SeenNode>();
  for (const row of found.rows) {
    const counts = new Map<string, number>();
    const visit = (node: TreeNode, path: string): void => {
      const note = (at: string, value: string): void => {
        const one = seen.get(at) ?? { path: at, values: [], rows: 0, most: 1, line: node.line };
        seen.set(at, one);
        const count = (counts.get(at) ?? 0) + 1;
        counts.set(at, count);
        if (count === 1) one.rows++;
        one.most = Math.max(one.most, count);
        if (value !== "" && one.values.length < 50) one.values.push(value);
      };
      const to = (step: string): string => (path === "" ? step : `${path}/${step}`);
      for (const [key, value] of node.attributes) if (!key.startsWith("xmlns")) note(to(`@${key}`), value);
      for (const child of node.children) {
        if (child.children.length === 0) note(to(child.name), child.text.trim());
        visit(child, to(child.name));
      }
    };
    visit(row, "");
  }
  const fields = [...seen.values()].map((one): SchemaField => ({
    path: one.path,
    name: (one.path.split("/").at(-1) ?? "").replace(/^@/, ""),
    label: "",
    help: "",
    kind: undefined,
    isRequired: false,
    many: one.most > 1 ? Infinity : undefined,
    limits: {},
    values: [],
    examples: one.values,
    default: "",
    line: one.line,
    isMembers: false,
  }));
  const prefix = isFeed
    ? (fields
        .map((field) => field.name)
        .find((one) => one.includes(":"))
        ?.split(":")[0] ?? "")
    : "";
  return {
    file,
    format: isFeed
      ? name === "rss"
        ? "rss"
        : "atom"
      : isLinked
        ? "jsonld"
        : format === "json"
          ? "json"
          : "xml",
    title: "",
    namespace:
      prefix === "" ? (root.attributes.get("xmlns") ?? "") : (root.attributes.get(`xmlns:${prefix}`) ?? ""),
    prefix,
    root: found.above.name,
    row: found.rows[0]?.name ?? "",
    member: "",
    fields,
    isSample: true,
    told: [],
  };
}

function feedRows(root: TreeNode): ReturnType<typeof repeated> {
  const above = root.children.find(({ name }) => localName(name) === "channel") ?? root;
  const rows = above.children.filter(({ name }) => localName(name) === "item" || localName(name) === "entry");
  return rows.length === 0 ? undefined : { rows, above };
}

function hasContext(json: unknown): boolean {
  const one: unknown = Array.isArray(json) ? json[0] : json;
  return (
    typeof one === "object" &&
    one !== null &&
    "@context" in one &&
    JSON.stringify((one as Record<string, unknown>)["@context"]).includes("schema.org")
  );
}
