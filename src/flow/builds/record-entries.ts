import { isError } from "../../core/diagnostics/diagnostic.js";
import type { Judged, KeptJudged } from "../../core/listing/judged.js";
import { sentence } from "../../workspace/wording.js";

/** Why a product is not in the files, as the build's record says it. */
type Because = readonly Readonly<Record<string, unknown>>[];

const becauseOf = ({ kind, findings }: Judged): Because =>
  kind === "held" || kind === "unplaced"
    ? findings
        .filter(isError)
        .map((finding) => ({ code: finding.code, field: finding.field, message: sentence(finding) }))
    : findings.map((finding) => ({ code: finding.code, message: sentence(finding) }));

/** A file's worth of reasons is known again. */
const MOST_KNOWN = 50_000;

/** Entries of the build's record for products that are not in its files, as JSON. Many products have the same reason. */
export function recordEntries(): (kept: KeptJudged, state: string) => string {
  const known = new Map<object, string>();
  return (kept, state) => {
    let because = known.get(kept.common);
    if (because === undefined) {
      because = JSON.stringify(becauseOf(kept.whole()));
      if (known.size >= MOST_KNOWN) known.clear();
      known.set(kept.common, because);
    }
    return `{"sku":${JSON.stringify(kept.sku)},"state":${JSON.stringify(state)},"because":${because}}`;
  };
}
