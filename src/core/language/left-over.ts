import { isCurrency } from "../values/currencies.js";
import { isDecimal } from "../values/decimal.js";
import { unitOf } from "../values/units.js";
import { functionNamed } from "./functions/functions.js";
import type { Expression } from "./syntax.js";
import type { Token } from "./token.js";

function endsInNumber(expression: Expression): boolean {
  if (expression.node === "literal") return isDecimal(expression.value);
  return expression.node === "binary" && endsInNumber(expression.right);
}

/** The number that an expression ends in, as written. */
const lastNumber = (shown: string): string => /[\d.]+$/.exec(shown)?.[0] ?? "1";

function afterName(shown: string, before: Expression, name: string): string | undefined {
  if (endsInNumber(before) && isCurrency(name))
    return `an amount is written money(${lastNumber(shown)}, "${name}")`;
  if (endsInNumber(before) && unitOf(name) !== undefined)
    return `a measure is written measure(${lastNumber(shown)}, "${name}")`;
  if (isCurrency(name) || unitOf(name) !== undefined)
    return `before a unit or currency stands "in": ${shown} in ${name}`;
  if (before.node === "name" && functionNamed(before.name) !== undefined)
    return `"${before.name}" is a function: write ${before.name}(${name})`;
  if (functionNamed(name) !== undefined) return `"${name}" is a function: write ${name}(${shown}, …)`;
  return undefined;
}

/** Why nothing can stand behind an expression that is whole, and what may have been meant. */
export function leftOver(source: string, shown: string, before: Expression, token: Token): string {
  if (token.token === "sign" && token.sign === ")") return "this bracket was never opened";
  if (token.token === "sign" && token.sign === ",")
    return endsInNumber(before) && /\d/.test(source[token.span.end] ?? "")
      ? "decimals are written with a point, such as 1.1"
      : 'a comma parts the arguments of a function; texts are joined in a template, such as "{name}, {brand}"';
  const known = token.token === "name" ? afterName(shown, before, token.name) : undefined;
  return known ?? `something is missing behind ${shown}, such as "or", a sign, or a comma between arguments`;
}
