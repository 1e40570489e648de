import type { ExpressionFunction } from "./function.js";
import { dates } from "./functions/dates.js";
import { lists } from "./functions/lists.js";
import { numbers } from "./functions/numbers.js";
import { reading } from "./functions/reading.js";
import { texts } from "./functions/texts.js";

/** Every function of the language, in the order of the reference page. */
export const functions: readonly ExpressionFunction[] = [
  ...texts,
  ...lists,
  ...numbers,
  ...dates,
  ...reading,
];

const byName = new Map(functions.map((entry) => [entry.name, entry]));

export const functionNamed = (name: string): ExpressionFunction | undefined => byName.get(name);
