/** What could give an attribute that a product lacks: sources that read it, members of its group that have it. */
import { ownOf } from "../../core/own.js";
import { textOf } from "../../core/catalogue/product.js";
import { placeText } from "../../core/diagnostics/place.js";
import { loadSource, sourceNames } from "../../workspace/source-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { ExplainedListing } from "./explain-listing.js";

/** What could give an attribute that a product lacks: sources that read it, and members of its group that have it. */
export async function possibleSources(
  attribute: string,
  { product, family, setup: { channel } }: Pick<ExplainedListing, "product" | "family" | "setup">,
  workspace: Workspace,
): Promise<readonly string[]> {
  const found: string[] = [];
  for (const name of await sourceNames(workspace)) {
    const { settings, yaml } = await loadSource(workspace, name);
    const { columns, channels = {} } = settings;
    const own = ownOf(channels, channel);
    for (const [from, path, whose] of [
      [columns, ["columns"], ""],
      [own, ["channels", channel], " for this channel"],
    ] as const) {
      if (from === undefined || !Object.hasOwn(from, attribute)) continue;
      const place = placeText(yaml.place([...path, attribute]));
      found.push(
        `source ${name} reads it${whose} from ${String(ownOf(from, attribute))} (${place}); it is blank there for ${product.sku}, or no file had it`,
      );
    }
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
