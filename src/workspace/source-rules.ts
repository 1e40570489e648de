import { createHash } from "node:crypto";
import type { Source } from "./source-files.js";
import { expressionAt } from "./yaml-file.js";

// What says which rows are read, and where they go, changes no value that was read.
const besideValues = new Set(["layer", "files", "columns", "mode", "key", "replaces", "take", "write_keys"]);

/** How a source reads each attribute, and a mark of all else that has a part in it. */
export function rulesOf({ settings, yaml }: Source): {
  readonly columns: Readonly<Record<string, string>>;
  readonly rest: string;
} {
  const columns = Object.fromEntries(
    Object.keys(settings.columns).map((attribute) => [
      attribute,
      expressionAt(yaml, ["columns", attribute])?.text ?? "",
    ]),
  );
  const rest = Object.entries(settings)
    .filter(([key, value]) => !besideValues.has(key) && value !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : 1));
  const mark = createHash("sha256").update(JSON.stringify(rest)).digest("hex").slice(0, 16);
  return { columns, rest: mark };
}
