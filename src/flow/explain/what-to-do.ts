/** What settles a finding, as words to type. */
import { assertNever } from "../../core/assert-never.js";
import { actText } from "../../workspace/wording.js";
import { actFor } from "../../core/diagnostics/entry.js";
import type { Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { placeText } from "../../core/diagnostics/place.js";

/** A value that a shell takes as one word. */
const word = (text: string): string =>
  /^[\w@%+=:,./-]+$/.test(text) ? text : `"${text.replace(/["\\$`]/g, "\\$&")}"`;

/** What a person types or opens to settle one finding of one product. */
export function whatToDo(finding: Diagnostic, sku: string): string {
  const { channel = "", field = "" } = finding;
  const act = actFor(finding);
  switch (act.act) {
    case "column":
      return `lexicant set ${word(sku)} ${act.attributes[0] ?? ""}=…${act.attributes.length > 1 ? `   (or ${act.attributes.slice(1).join(", ")})` : ""}`;
    case "lexicon-row": {
      const [near] = finding.code === "unknown-value" ? finding.facts.nearest : [];
      return `lexicant lexicon ${channel} --field ${field} --set ${word(`${act.term}=${near ?? "…"}`)}   (lexicant values ${channel} ${field})`;
    }
    case "placement":
      return `lexicant place ${channel}   (or a row in channels/${channel}/placements.csv)`;
    case "fill": {
      const fill = finding.notes?.find(({ note }) => note === "fill")?.place;
      return fill === undefined
        ? `a fill for ${field} in channels/${channel}/fills.yaml; for this product alone: lexicant gaps ${channel}`
        : `change ${placeText(fill)}; for this product alone: lexicant gaps ${channel}`;
    }
    case "price-rule":
      return `change the price (lexicant set ${word(sku)} price=…), or channels/${channel}/channel.yaml`;
    case "group-rule":
      return actText(act);
    case "correction":
      return finding.place === undefined
        ? actText(act)
        : `${actText(act)}; it stands in ${placeText(finding.place)}`;
    default:
      return assertNever(act);
  }
}
