/** What says how a source reads, so that a change of it is known: the columns that it writes, and a mark of all else. */
import { createHash } from "node:crypto";
import { attributeKind } from "../core/catalogue/vocabulary.js";
import { ownOf } from "../core/own.js";
import type { KindOf } from "../core/values/attribute-kind.js";
import type { Source } from "./source-files.js";
import { expressionAt } from "./yaml-file.js";

/** The text by which each attribute is read. */
type ColumnRules = Readonly<Record<string, string>>;

// What says which rows are read, and where they go, changes no value that was read.
const besideValues = new Set([
  ...["layer", "files", "columns", "channels", "mode", "key", "replaces", "take", "write_keys"],
]);

/**
 * How a source reads each attribute that it writes, and a mark of all else that has a part in it. A key that only finds
 * products is not among them: where the source wrote it before, what it wrote is its word no more.
 */
export function rulesOf(
  source: Source,
  kindOf: KindOf,
  channel?: string,
): { readonly columns: ColumnRules; readonly rest: string } {
  return {
    columns: channel === undefined ? columnRules(source, kindOf) : channelRules(source, kindOf, channel),
    rest: restOf(source),
  };
}

function columnRules({ settings, yaml }: Source, kindOf: KindOf): ColumnRules {
  const keys = new Set(settings.key ?? ["sku"]);
  const isWritten = (attribute: string): boolean =>
    attribute === "sku" || !keys.has(attribute) || (settings.write_keys ?? false) !== false;
  return Object.fromEntries(
    Object.keys(settings.columns)
      .filter(isWritten)
      .map((attribute) => [
        attribute,
        (expressionAt(yaml, ["columns", attribute])?.text ?? "") + declaredAs(attribute, kindOf),
      ]),
  );
}

/** The same of the columns that one channel alone sees; of a channel that the source has no word for any more, none. */
const channelRules = ({ settings, yaml }: Source, kindOf: KindOf, channel: string): ColumnRules =>
  Object.fromEntries(
    Object.keys(ownOf(settings.channels ?? {}, channel) ?? {}).map((attribute) => [
      attribute,
      (expressionAt(yaml, ["channels", channel, attribute])?.text ?? "") + declaredAs(attribute, kindOf),
    ]),
  );

function restOf({ settings }: Source): string {
  const rest = Object.entries(settings)
    .filter(([key, value]) => !besideValues.has(key) && value !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return createHash("sha256").update(JSON.stringify(rest)).digest("hex").slice(0, 16);
}

/** What the shop declares of an attribute of its own: it is read by that as well. */
function declaredAs(attribute: string, kindOf: KindOf): string {
  const own = kindOf(attribute);
  return own === attributeKind(attribute) ? "" : ` as ${JSON.stringify(own)}`;
}
