import type { ExpressionFunction } from "./function.js";
import { categories } from "./functions/categories.js";
import { dates } from "./functions/dates.js";
import { groups } from "./functions/groups.js";
import { identifiers } from "./functions/identifiers.js";
import { lengths } from "./functions/lengths.js";
import { lists } from "./functions/lists.js";
import { lookUps } from "./functions/look-ups.js";
import { prices } from "./functions/money.js";
import { numbers } from "./functions/numbers.js";
import { pictures } from "./functions/pictures.js";
import { reading } from "./functions/reading.js";
import { texts } from "./functions/texts.js";
import { units } from "./functions/units.js";

/** Every function of the language, in the order of the reference page. */
export const functions: readonly ExpressionFunction[] = [
  ...lengths,
  ...texts,
  ...lists,
  ...numbers,
  ...units,
  ...prices,
  ...dates,
  ...identifiers,
  ...lookUps,
  ...categories,
  ...pictures,
  ...groups,
  ...reading,
];

const byName = new Map(functions.map((entry) => [entry.name, entry]));

export const functionNamed = (name: string): ExpressionFunction | undefined => byName.get(name);
