/** Asks where one thing of ours goes. */
import type { Category } from "../core/channel/category-tree.js";
import type { CategoryIndex } from "../core/placement/category-index.js";
import { searchCategories } from "../core/placement/search.js";
import type { Suggestion } from "../core/placement/suggest.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { readChoice } from "./read-choice.js";
import { styleFor } from "./style.js";

/** What a person decided of one of our categories. */
export type PlacementAnswer =
  | {
      readonly answer: "place";
      readonly path: string;
      readonly category: Category;
      readonly confidence: number;
    }
  | { readonly answer: "skip" }
  | { readonly answer: "stop" };

const FOUND = 5;

const percent = (confidence: number): string => `${Math.round(confidence * 100)}%`;

/** What is asked about: a category of ours or a product, and the category above it. */
export interface AskedPlacement {
  readonly title: string;
  readonly above: string | undefined;
  readonly products: number;
}

const PLACEMENT_HELP = [
  "Enter     the first of the categories shown",
  "2         the second, and so on",
  "bee suit  words look among all categories of the channel",
  "+         decide for the category above, and all that is in it",
  "-         leave it open",
  "q         end here; what was answered is kept",
];

/** Asks where something of ours goes: accept, choose another, search, all of the category above, skip, stop. */
export async function askPlacement(
  { title, above, products }: AskedPlacement,
  suggestions: readonly Suggestion[],
  index: CategoryIndex,
  io: Io,
): Promise<PlacementAnswer> {
  const style = styleFor(io);
  let choices: readonly {
    readonly category: Category;
    readonly confidence: number;
    readonly about: string;
  }[] = suggestions.map(({ category, confidence, reason }) => ({
    category,
    confidence,
    about: `${percent(confidence)}, ${reason}`,
  }));
  let path = title;
  for (;;) {
    io.err(`\n${style.bold(path)} (${countText(products, "product")})\n`);
    choices.forEach(({ category, about }, at) =>
      io.err(`  ${at + 1}  ${category.path} (${category.code})  ${style.dim(about)}\n`),
    );
    const line = await io.ask(
      `Enter accepts the first; 1 to ${Math.max(1, choices.length)} another; words search; + all of ${above ?? "it"}; - skips; q ends; ? helps: `,
    );
    if (line?.trim() === "+") {
      path = above ?? path;
      continue;
    }
    const read = readChoice(line, choices, PLACEMENT_HELP, io);
    if (read.kind === "end") return { answer: "stop" };
    if (read.kind === "skip") return { answer: "skip" };
    if (read.kind === "choice") {
      const { category, confidence } = read.choice;
      return { answer: "place", path, category, confidence };
    }
    if (read.kind !== "words") continue;
    const found = searchCategories(read.words, index)
      .filter(({ category }) => category.isOpen)
      .slice(0, FOUND)
      .map(({ category }) => ({ category, confidence: 1, about: "" }));
    if (found.length === 0) io.err(`No category has these words.\n`);
    else choices = found;
  }
}
