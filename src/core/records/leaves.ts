import type { RecordNode } from "./node.js";
import { stepText } from "./path.js";

/** A value of a record. */
export interface Leaf {
  /** From the record to it, in the notation of paths. */
  readonly path: string;
  readonly text: string;
}

/** All texts of a record, by the paths that lead to them, in the file's order. */
export function leavesOf(record: RecordNode): readonly Leaf[] {
  const found: Leaf[] = [];
  const walk = (node: RecordNode, path: string): void => {
    const language = node.attributes.get("lang");
    const { text: written = "" } = node;
    const hasText = written !== "";
    for (const [name, text] of node.attributes)
      if (name !== "lang" || path === "" || !hasText)
        found.push({ path: path === "" ? `@${name}` : `${path}/@${name}`, text });
    if (hasText) {
      const own = path === "" ? "text()" : path;
      const isMarked =
        language !== undefined && path !== "" && /^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/.test(language);
      found.push({ path: isMarked ? `${own}@${language}` : own, text: written });
    }
    for (const child of node.children)
      walk(child, path === "" ? stepText(child.name) : `${path}/${stepText(child.name)}`);
  };
  walk(record, "");
  return found;
}
