import { confidence, text, type Option } from "./option.js";

/** Options that several commands have, worded and checked alike. */

export const condition = (help: string): Option<string | undefined> =>
  text("--where <condition>", help, "is a condition of at most 10,000 characters", 10_000);

export const categoryPath = (help: string): Option<string | undefined> =>
  text("--category <path>", help, "is a category's path, or the end of one");

export const groupName = text("--group <name>", "only the members of this group", "is a group's name");

export const skuList = text(
  "--sku <list>",
  "only these SKUs: with commas between, or @FILE with one a line",
  "is a list of SKUs with commas between, or @FILE with one a line",
  1_000_000,
);

export const acceptAbove = confidence(
  "--accept-above <confidence>",
  "accept every proposal that is at least so sure, as 0.9",
);
