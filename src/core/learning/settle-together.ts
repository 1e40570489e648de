/** Fields seen beside each other: conditions as expressions, the category's column, fills that two would share. */
import { trust } from "./trust.js";
import { originOf } from "./channel-guesses.js";
import { valuesOf } from "./claim.js";
import { conditionOf } from "./condition.js";
import type { ChannelFact, ChannelGuess, LearnedChannel, LearnedField, LearningWishes } from "./learned.js";
import { startingFill } from "./starting-fill.js";

/** Conditions in words become expressions, where they name one field and ask something of it that is understood. */
export function settleConditions(fields: readonly LearnedField[]): void {
  for (const { facts } of fields) {
    const when = facts.get("when");
    if (when === undefined || when.isCorrected) continue;
    const expression = conditionOf(when.value, fields);
    if (expression !== undefined)
      facts.set("when", {
        ...when,
        value: expression,
        confidence: trust.readCondition,
        because: `"${when.value}"`,
      });
    const need = facts.get("need");
    if (expression !== undefined && need !== undefined)
      facts.set("need", { ...need, confidence: Math.max(need.confidence, trust.readCondition) });
  }
}

/** The column for the category holds what the placement gives: a choice where its list is the tree's own codes, else a text. */
export function settleCategory(
  fields: readonly LearnedField[],
  guesses: ReadonlyMap<ChannelFact, ChannelGuess>,
  { categories, categoriesBy }: Pick<LearnedChannel, "categories" | "categoriesBy">,
): void {
  const category = guesses.get("category_field");
  const field = fields.find(({ code }) => code === category?.value);
  if (field === undefined || category === undefined || field.facts.get("kind")?.isCorrected === true) return;
  const codes = new Set(categories.map(({ code }) => code));
  const values = valuesOf(field.facts.get("values")?.value ?? "");
  if (categoriesBy === "code" && values.length > 0 && values.every((value) => codes.has(value))) return;
  field.facts.set("kind", {
    fact: "kind",
    value: "text",
    confidence: category.confidence,
    from: category.from,
    because: "it holds the category",
    against: [],
    isCorrected: false,
  });
}

/** What fills each field to begin with; no two are filled by what only one can be. */
export function fillFields(
  fields: readonly LearnedField[],
  guesses: ReadonlyMap<ChannelFact, ChannelGuess>,
  { corrections }: LearningWishes,
): void {
  const isSeparate = guesses.get("group_model")?.value === "separate";
  const hasMainPicture = fields.some(
    ({ meaning, facts }) => meaning?.attribute === "images" && facts.get("list")?.value !== "yes",
  );
  const named = new Map<string, number>();
  for (const field of fields) {
    const { facts, meaning, code } = field;
    if (code === guesses.get("category_field")?.value || facts.get("fill")?.isCorrected === true) continue;
    const fill =
      code === guesses.get("identified_by")?.value
        ? {
            fill: "sku",
            confidence: guesses.get("identified_by")?.confidence ?? trust.guess,
            because: "our number",
          }
        : startingFill(meaning, facts, {
            titlesTellApart: isSeparate,
            hasMainPicture,
            names: [field.label, field.name],
          });
    if (fill === undefined) continue;
    // Two fields that one attribute would fill: the second is a question.
    const before = named.get(fill.fill) ?? 0;
    named.set(fill.fill, before + 1);
    facts.set("fill", {
      fact: "fill",
      value: fill.fill,
      confidence: before > 0 ? Math.min(trust.furtherField, fill.confidence) : fill.confidence,
      from: originOf(field),
      because: fill.because,
      against: [],
      isCorrected: false,
    });
  }
  for (const { code, facts } of fields) {
    const corrected = corrections.applied(code, "*", facts);
    facts.clear();
    for (const [fact, settled] of corrected) facts.set(fact, settled);
  }
}
