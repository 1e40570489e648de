/** Brings a value into its field: kind, unit, decimals, permitted value. Says why where it does not fit. */
import { addAll } from "../../many.js";
import { kindFacts } from "../../values/kinds.js";
import type { CategoryField } from "../../channel/category-rules.js";
import { termParts } from "../../channel/term-forms.js";
import { isDecimal } from "../../values/decimal.js";
import { convert, measure } from "../../values/measure.js";
import { money, payable } from "../../values/money.js";
import { readValue, type ReadingProblem } from "../../values/read.js";
import { shownText } from "../../values/show.js";
import { isList, isMeasure, isMoney, type MaybeBlank, type Value } from "../../values/value.js";

/** A value that fits, or why it does not. */
export type Coerced =
  | { readonly value: MaybeBlank }
  | { readonly problem: ReadingProblem | "unknown-value"; readonly written: string };

/** Finds the permitted value for our term; undefined when there is none without a choice. */
export type Translate = (term: string) => string | undefined;

function rounded(value: Value, { field }: CategoryField): Value {
  const { decimals } = field;
  if (decimals === undefined) return isMoney(value) ? payable(value) : value;
  if (isDecimal(value)) return value.toDecimalPlaces(decimals);
  if (isMoney(value)) return money(value.amount.toDecimalPlaces(decimals), value.currency);
  return isMeasure(value) ? measure(value.amount.toDecimalPlaces(decimals), value.unit) : value;
}

function inUnit(value: Value, { field }: CategoryField): Coerced {
  if (field.unit === undefined || !isMeasure(value)) return { value };
  const converted = convert(value, field.unit);
  return converted === undefined
    ? { problem: "other-dimension", written: shownText(value) }
    : { value: converted };
}

function fitted(value: Value, rule: CategoryField): Coerced {
  const unit = inUnit(value, rule);
  return "value" in unit && unit.value !== undefined ? { value: rounded(unit.value, rule) } : unit;
}

function one(value: Value, rule: CategoryField, translate: Translate): Coerced {
  if (kindFacts[rule.field.kind].is(value)) return fitted(value, rule);
  const written = shownText(value);
  if (rule.limits.values !== undefined || rule.field.kind === "choice") {
    const permitted = translate(written);
    if (permitted !== undefined) return { value: permitted };
    return rule.limits.isOpenList === true ? { value: written } : { problem: "unknown-value", written };
  }
  if (isDecimal(value) && rule.field.kind === "measure") return { problem: "no-unit", written };
  if (isDecimal(value) && rule.field.kind === "money") return { problem: "no-currency", written };
  const reading = readValue(rule.field.kind, written);
  if ("problem" in reading) return { problem: reading.problem, written };
  return fitted(reading.value, rule);
}

/** A term that names several permitted values at once: `forest green / black`, `80% cotton, 20% linen`. */
function severalOf(written: string, translate: Translate): readonly string[] | undefined {
  const named = termParts(written);
  const parts = [...new Set(named.map(translate))];
  return named.length > 1 && parts.every((part) => part !== undefined) ? parts : undefined;
}

/** Brings what a fill gave into the field's kind, unit, decimals and permitted values; or says why it cannot. */
export function coerce(value: Value, rule: CategoryField, translate: Translate): Coerced {
  if (!rule.field.list) return one(isList(value) ? shownText(value) : value, rule, translate);
  const items: Value[] = [];
  for (const item of isList(value) ? value : [value]) {
    const coerced = one(item, rule, translate);
    const parts = "problem" in coerced ? severalOf(coerced.written, translate) : undefined;
    if (parts !== undefined)
      addAll(
        items,
        parts.filter((part) => !items.includes(part)),
      );
    else if ("problem" in coerced) return coerced;
    else if (coerced.value !== undefined) items.push(coerced.value);
  }
  return { value: items.length === 0 ? undefined : items };
}
