import { catalogue } from "./catalogue.js";
import { definitions } from "./definitions.js";
import { exchange } from "./exchange.js";
import { expressions } from "./expressions.js";
import { fields } from "./fields.js";
import { fills } from "./fills.js";
import { groups } from "./groups.js";
import { incoming } from "./incoming.js";
import { links } from "./links.js";
import { placement } from "./placement.js";
import { prices } from "./prices.js";
import { selection } from "./selection.js";
import { settings } from "./settings.js";
import { sheets } from "./sheets.js";
import { standing } from "./standing.js";
import { world } from "./world.js";
import type { Finding } from "../finding.js";

/** Every family of codes by its name. */
export const families = {
  placement,
  fields,
  fills,
  groups,
  standing,
  selection,
  prices,
  links,
  incoming,
  catalogue,
  sheets,
  settings,
  expressions,
  definitions,
  exchange,
  world,
} as const;

/** Every code with its one entry. A code is never reused for another meaning. */
export const findings = {
  ...placement,
  ...fields,
  ...fills,
  ...groups,
  ...standing,
  ...selection,
  ...prices,
  ...links,
  ...incoming,
  ...catalogue,
  ...sheets,
  ...settings,
  ...expressions,
  ...definitions,
  ...exchange,
  ...world,
} as const;

/** The name of a finding. */
export type Code = keyof typeof findings;

/** What each finding knows, by its code. */
export type FactsByCode = {
  readonly [C in Code]: (typeof findings)[C] extends Finding<infer Facts> ? Facts : never;
};
