/** What says how a source reads, so that a change of it is known: the columns that it writes, and a mark of all else. */
import { createHash } from "node:crypto";
import { attributeKind } from "../core/catalogue/vocabulary.js";
import type { KindOf } from "../core/values/attribute-kind.js";
import type { Source } from "./source-files.js";
import { expressionAt } from "./yaml-file.js";

// What says which rows are read, and where they go, changes no value that was read.
const besideValues = new Set(["layer", "files", "columns", "mode", "key", "replaces", "take", "write_keys"]);

/**
 * How a source reads each attribute that it writes, and a mark of all else that has a part in it. A key that only finds
 * products is not among them: where the source wrote it before, what it wrote is its word no more.
 */
export function rulesOf(
  { settings, yaml }: Source,
  kindOf: KindOf,
): {
  readonly columns: Readonly<Record<string, string>>;
  readonly rest: string;
} {
  const keys = new Set(settings.key ?? ["sku"]);
  const isWritten = (attribute: string): boolean =>
    attribute === "sku" || !keys.has(attribute) || (settings.write_keys ?? false) !== false;
  const columns = Object.fromEntries(
    Object.keys(settings.columns)
      .filter(isWritten)
      .map((attribute) => [
        attribute,
        (expressionAt(yaml, ["columns", attribute])?.text ?? "") + declaredAs(attribute, kindOf),
      ]),
  );
  const rest = Object.entries(settings)
    .filter(([key, value]) => !besideValues.has(key) && value !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : 1));
  const mark = createHash("sha256").update(JSON.stringify(rest)).digest("hex").slice(0, 16);
  return { columns, rest: mark };
}

/** What the shop declares of an attribute of its own: it is read by that as well. */
function declaredAs(attribute: string, kindOf: KindOf): string {
  const own = kindOf(attribute);
  return own === attributeKind(attribute) ? "" : ` as ${JSON.stringify(own)}`;
}
