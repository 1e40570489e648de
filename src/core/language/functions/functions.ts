import type { ExpressionFunction } from "../function.js";
import { categories } from "./categories.js";
import { dates } from "./dates.js";
import { groups } from "./groups.js";
import { identifiers } from "./identifiers.js";
import { lengths } from "./lengths.js";
import { lists } from "./lists.js";
import { lookUps } from "./look-ups.js";
import { prices } from "./money.js";
import { numbers } from "./numbers.js";
import { pictures } from "./pictures.js";
import { reading } from "./reading.js";
import { texts } from "./texts.js";
import { units } from "./units.js";

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

/** A function by its name. */
export const functionNamed = (name: string): ExpressionFunction | undefined => byName.get(name);
