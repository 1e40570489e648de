/** What fills a field to begin with. */
import { trust } from "./trust.js";
import { attributeKind } from "../catalogue/vocabulary.js";
import { fold } from "../values/text.js";
import { valuesOf } from "./claim.js";
import { learnedKinds } from "./learned-kinds.js";
import type { FieldMeaning } from "./meaning.js";
import type { SettledFacts } from "./settle.js";

/** A fill to begin with, and why. */
export interface StartingFill {
  readonly fill: string;
  readonly confidence: number;
  readonly because: string;
}

/** What fills depend on beside their field. */
export interface FillContext {
  /** Whether members are told apart by their titles. */
  readonly titlesTellApart: boolean;
  /** Whether another field takes the first picture. */
  readonly hasMainPicture: boolean;
  /** Whether the field's price has its currency elsewhere. */
  readonly names: readonly string[];
}

const currencyWord = /\b(?:currency|wahrung|waehrung|devise|moneda|divisa|valuta)\b/;
const newWord = /^(?:new|neu|neuf|neuve|nuevo|nueva|nuovo|nieuw|brand new)\b/i;

const text = (value: string): string =>
  `"${value
    .replaceAll("\\", "\\\\")
    .replaceAll('"', '\\"')
    .replace(/([{}])/g, "\\$1")}"`;

/** A text cut to the field's length, where it has one. */
function fitted(expression: string, facts: SettledFacts): string {
  const most = facts.get("max_length")?.value;
  if (most === undefined) return expression;
  return `${facts.get("counted")?.value === "bytes" ? "fit_bytes" : "fit"}(${expression}, ${most})`;
}

/** A title that ends in what sets a member apart, whatever its group varies by. */
function titleApart(facts: SettledFacts): string {
  const apart = "axis_values or list(color, size)";
  const most = facts.get("max_length")?.value;
  if (most === undefined) return `if name is given then join(list(name, ${apart}), ", ")`;
  const counts = facts.get("counted")?.value === "bytes" ? "fit_before_bytes" : "fit_before";
  return `${counts}(name, join(${apart}, ", "), ${most})`;
}

function taken(expression: string, facts: SettledFacts): string {
  const most = Number(facts.get("max_items")?.value ?? Infinity);
  return Number.isFinite(most) ? `take(${expression}, ${most})` : expression;
}

/** What fills a field to begin with; undefined where nothing that a shop has would. */
export function startingFill(
  meaning: FieldMeaning | undefined,
  facts: SettledFacts,
  { titlesTellApart, hasMainPicture, names }: FillContext,
): StartingFill | undefined {
  const kind = facts.get("kind")?.value ?? "text";
  const isList = facts.get("list")?.value === "yes";
  const values = valuesOf(facts.get("values")?.value ?? "");
  const byName = names.map((name) => fold(name).normalize("NFKD").replace(/\p{M}/gu, ""));
  if (byName.some((name) => currencyWord.test(name)))
    return { fill: "currency(price)", confidence: trust.currencyField, because: "the price's currency" };
  if (values.length === 1 && kind === "choice")
    return { fill: text(values[0] ?? ""), confidence: trust.onlyValue, because: "its list has one value" };
  if (meaning === undefined) return undefined;
  const { attribute, confidence, because } = meaning;
  const own = attributeKind(attribute);
  const as = (fill: string, weight = 1): StartingFill => ({ fill, confidence: confidence * weight, because });
  switch (attribute) {
    case "name":
      return as(titlesTellApart ? titleApart(facts) : fitted("name", facts));
    case "description":
      return as(kind === "html" ? "description" : fitted("plain(description)", facts));
    case "images": {
      if (!isList) return as("first(images)");
      return as(taken(hasMainPicture ? "rest(images)" : "images", facts));
    }
    case "condition": {
      const usual = values.find((value) => newWord.test(value));
      return as(usual === undefined ? "condition" : `condition or ${text(usual)}`);
    }
    case "battery":
    case "hazard":
      return as(kind === "yes-no" ? `${attribute} is given` : attribute, kind === "yes-no" ? 0.9 : 1);
    case "category":
      return as("leaf(category)", 0.5);
    default:
      break;
  }
  const { fills, fillsLists } = learnedKinds[own.kind];
  const filled = fills === undefined ? attribute : fills(attribute, kind);
  if (filled === undefined) return undefined;
  if (fillsLists) return as(filled);
  if (own.list && !isList)
    return as(own.kind === "text" ? fitted(`join(${attribute}, ", ")`, facts) : `first(${attribute})`, 0.9);
  if (own.list) return as(taken(attribute, facts));
  if (isList) return undefined;
  if (kind === "measure" && own.kind === "text" && !["unit_quantity"].includes(attribute))
    return as(attribute, 0.95);
  return as(
    kind === "text" &&
      own.kind === "text" &&
      attribute !== "sku" &&
      attribute !== "mpn" &&
      attribute !== "group"
      ? fitted(attribute, facts)
      : attribute,
  );
}
