/** Options that several commands have, once for all of them: how products are chosen, how many threads work. */
import { percent, flag, named, text, wholeNumber } from "./option.js";

/** Options that several commands have, worded and checked alike. */

const where = text(
  "--where <condition>",
  "only products for which it holds, such as 'quantity > 0'",
  "is a condition of at most 10,000 characters",
  10_000,
);

const category = text(
  "--category <path>",
  "only products in this category of ours or below it",
  "is a category's path, or the end of one",
);

const group = text("--group <name>", "only the members of this group", "is a group's name");

const sku = text(
  "--sku <list>",
  "only these: SKUs with commas between, or @FILE (@- for standard input) with one a line",
  "is a list of SKUs with commas between, or @FILE with one a line",
  1_000_000,
);

const lacking = named("--lacking <channel>", "only products that this channel holds back");

const changed = flag("--changed", "only what the channel does not have as it is now");

/** The one way to choose products: every command that takes a choice has all of it, and each option means the same there. */
export const choiceOptions = { where, category, group, sku, lacking, changed };

/** The same work comes of any number of them. */
export const workers = wholeNumber(
  "--workers <count>",
  "so many threads at work at once (as many as the machine has cores)",
  { least: 1 },
);

/** Proposals that are surer than this are taken without a question. */
export const acceptAbove = percent(
  "--accept-above <percent>",
  "accept every proposal that is at least so sure, such as 90",
);
