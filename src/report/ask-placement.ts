import type { Category } from "../core/channel/category-tree.js";
import type { CategoryIndex } from "../core/placement/category-index.js";
import { searchCategories } from "../core/placement/search.js";
import type { Suggestion } from "../core/placement/suggest.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { styleFor } from "./style.js";

/** What a person decided of one of our categories. */
export type Answer =
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
export interface Asked {
  readonly title: string;
  readonly above: string | undefined;
  readonly products: number;
}

/** Asks where something of ours goes: accept, choose another, search, all of the category above, skip, stop. */
export const askPlacement = async (
  { title, above, products }: Asked,
  suggestions: readonly Suggestion[],
  index: CategoryIndex,
  io: Io,
): Promise<Answer> => {
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
      `Enter accepts the first; 1 to ${Math.max(1, choices.length)} another; words search; + all of ${above ?? "it"}; - skips; q ends: `,
    );
    const answer = line?.trim() ?? "q";
    if (answer === "q") return { answer: "stop" };
    if (answer === "-") return { answer: "skip" };
    if (answer === "+") {
      path = above ?? path;
      continue;
    }
    const chosen = choices[answer === "" ? 0 : Number(answer) - 1];
    if ((answer === "" || /^\d$/.test(answer)) && chosen !== undefined)
      return { answer: "place", path, category: chosen.category, confidence: chosen.confidence };
    choices = searchCategories(answer, index)
      .filter(({ category }) => category.isOpen)
      .slice(0, FOUND)
      .map(({ category }) => ({ category, confidence: 1, about: "" }));
    if (choices.length === 0) io.err(`No category has these words.\n`);
  }
};
