import { isUnder, pathParts, pathText } from "../../values/category-path.js";
import type { ExpressionFunction } from "../function.js";
import { asCount, asText, items, listOrBlank, optional, parameter, textOrBlank } from "./arguments.js";

/** Functions over paths of categories. */
export const categories: readonly ExpressionFunction[] = [
  {
    name: "leaf",
    family: "categories",
    summary: "The last level of a category path.",
    parameters: [parameter("path", "text")],
    result: "text",
    examples: [{ expression: 'leaf("Tools > Digging > Spades")', gives: "Spades" }],
    apply: ([path]) => pathParts(asText(path)).at(-1),
  },
  {
    name: "level",
    family: "categories",
    summary: "One level of a category path, counted from 1; blank below its last.",
    parameters: [parameter("path", "text"), parameter("number", "number")],
    result: "text",
    examples: [{ expression: 'level("Tools > Digging > Spades", 2)', gives: "Digging" }],
    apply: ([path, number]) => pathParts(asText(path))[asCount(number) - 1],
  },
  {
    name: "levels",
    family: "categories",
    summary: "The levels of a category path, as a list.",
    parameters: [parameter("path", "text")],
    result: "list",
    examples: [{ expression: 'levels("Tools > Digging")', gives: "Tools, Digging" }],
    apply: ([path]) => listOrBlank(pathParts(asText(path))),
  },
  {
    name: "is_under",
    family: "categories",
    summary:
      'Whether a category path is one of several, or below one of them; `category under "Tools"` asks for one.',
    parameters: [parameter("path", "text"), parameter("other", "text")],
    repeats: true,
    result: "yes-no",
    keepsBlanks: true,
    examples: [{ expression: 'is_under("Tools > Digging", "Seeds", "Tools")', gives: "yes" }],
    apply: ([path, ...others]) => others.some((other) => isUnder(asText(path), asText(other))),
  },
  {
    name: "path",
    family: "categories",
    summary: "A category path from its levels: a list of columns, or one text with the mark between levels.",
    parameters: [parameter("levels", "any"), optional("mark", "text")],
    result: "text",
    examples: [
      { expression: 'path(list("Garden", "Tools", blank))', gives: "Garden > Tools" },
      { expression: 'path("Garden / Tools", "/")', gives: "Garden > Tools" },
    ],
    apply([value, mark]) {
      const parts = Array.isArray(value)
        ? items(value).map(asText)
        : asText(value).split(mark === undefined ? ">" : asText(mark));
      return textOrBlank(pathText(parts.map((level) => level.trim()).filter(Boolean)));
    },
  },
];
