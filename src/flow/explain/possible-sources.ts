import { ownOf } from "../../core/own.js";
import type { Family } from "../../core/catalogue/family.js";
import { textOf, type Product } from "../../core/catalogue/product.js";
import { placeText } from "../../core/diagnostics/place.js";
import { loadSource, sourceNames } from "../../workspace/source-files.js";
import type { Workspace } from "../../workspace/workspace.js";

/** What could give an attribute that a product lacks: sources that read it, and members of its group that have it. */
export async function possibleSources(
  attribute: string,
  product: Product,
  family: Family,
  workspace: Workspace,
): Promise<readonly string[]> {
  const found: string[] = [];
  for (const name of await sourceNames(workspace)) {
    const source = await loadSource(workspace, name);
    if (!Object.hasOwn(source.settings.columns, attribute)) continue;
    const column = String(ownOf(source.settings.columns, attribute));
    found.push(
      `source ${name} reads it from ${column} (${placeText(source.yaml.place(["columns", attribute]))}); it is blank there for ${product.sku}, or no file had it`,
    );
  }
  const siblings = family.members.filter(
    (member) => member.sku !== product.sku && textOf(member, attribute) !== undefined,
  );
  const [first] = siblings;
  if (first !== undefined)
    found.push(
      `${siblings.length === 1 ? "a member" : `${siblings.length} members`} of its group ${siblings.length === 1 ? "has" : "have"} it: ${first.sku} says "${textOf(first, attribute) ?? ""}"`,
    );
  if (found.length === 0) found.push("no source reads it yet");
  return found;
}
