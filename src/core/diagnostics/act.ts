import { assertNever } from "../assert-never.js";
import type { Diagnostic } from "./diagnostic.js";

/** What a person can do about a finding, and about all others like it at once. */
export type Act =
  /** A column of data, for all channels that read it. */
  | { readonly act: "column"; readonly attributes: readonly string[] }
  | { readonly act: "fill"; readonly channel: string; readonly field: string; readonly isNew: boolean }
  | { readonly act: "lexicon-row"; readonly channel: string; readonly field: string; readonly term: string }
  | { readonly act: "placement"; readonly channel: string; readonly ourCategory: string }
  | { readonly act: "price-rule"; readonly channel: string }
  /** Values that only a look at each product can mend. */
  | { readonly act: "correction"; readonly channel: string; readonly field: string; readonly code: string };

/** The act that settles a finding. */
export const actFor = (finding: Diagnostic): Act => {
  const { code, channel = "", field = "" } = finding;
  switch (code) {
    case "no-category":
      return { act: "column", attributes: ["category"] };
    case "unplaced":
      return { act: "placement", channel, ourCategory: finding.facts.ourCategory };
    case "retired-category":
      return { act: "placement", channel, ourCategory: finding.facts.code };
    case "missing-required": {
      const { reads, hasFill } = finding.facts;
      return reads.length > 0
        ? { act: "column", attributes: reads }
        : { act: "fill", channel, field, isNew: !hasFill };
    }
    case "unknown-value":
      return { act: "lexicon-row", channel, field, term: finding.facts.value };
    case "not-calculated":
    case "no-rate":
    case "no-table-row":
    case "fill-circle":
    case "members-differ":
    case "brand-as-title":
    case "not-allowed":
    case "too-many-values":
    case "wrong-currency":
      return { act: "fill", channel, field, isNew: false };
    case "blank-axis":
      return { act: "column", attributes: [finding.facts.axis] };
    case "price-too-low":
    case "price-too-high":
    case "price-jump":
      return { act: "price-rule", channel };
    default:
      return { act: "correction", channel, field: field === "" ? code : field, code };
  }
};

/** Two findings with the same key are settled together. */
export const actKey = (act: Act): string => {
  switch (act.act) {
    case "column":
      return `column ${act.attributes.join(" ")}`;
    case "fill":
      return `fill ${act.channel} ${act.field}`;
    case "lexicon-row":
      return `lexicon-row ${act.channel} ${act.field} ${act.term}`;
    case "placement":
      return `placement ${act.channel} ${act.ourCategory}`;
    case "price-rule":
      return `price-rule ${act.channel}`;
    case "correction":
      return `correction ${act.channel} ${act.field}`;
    default:
      return assertNever(act);
  }
};

/** What is to be done, in a few words. */
export const actText = (act: Act): string => {
  switch (act.act) {
    case "column":
      return `give ${act.attributes.join(" or ")}, in a file or a gap sheet`;
    case "fill":
      return act.isNew
        ? `a fill for ${act.field} in channels/${act.channel}/fills.yaml, or a gap sheet`
        : `change the fill of ${act.field} in channels/${act.channel}/fills.yaml, or a gap sheet`;
    case "lexicon-row":
      return `a row for "${act.term}" in channels/${act.channel}/lexicon.csv: lexicant lexicon ${act.channel}`;
    case "placement":
      return `place "${act.ourCategory}": lexicant place ${act.channel}`;
    case "price-rule":
      return `the prices, or the bounds in channels/${act.channel}/channel.yaml`;
    case "correction":
      return correctionText(act.code, act.field);
    default:
      return assertNever(act);
  }
};

const corrections: Readonly<Record<string, string>> = {
  "too-long": "shorten it, or use fit() in its fill",
  "too-short": "write more, in a file or a gap sheet",
  "banned-content": "take out what is banned, or clean it in the fill",
  "rule-broken": "see the rule, and give what it asks for",
  "titles-alike": "tell the members apart in the title's fill",
  "axis-not-permitted": "say split or alone in channel.yaml (groups: not_permitted)",
  "too-many-axes": "say split or alone in channel.yaml (groups: not_permitted)",
  "too-many-members": "split the group",
  "shared-barcode": "compare the barcodes with the packaging",
};

const correctionText = (code: string, field: string): string =>
  corrections[code] ?? `correct ${field} in its file, or in a gap sheet`;
