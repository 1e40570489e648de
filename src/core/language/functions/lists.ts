import { whole } from "../../values/decimal.js";
import { termKey } from "../../values/text.js";
import type { ExpressionFunction } from "../function.js";
import { asCount, asLimit, asText, items, listOrBlank, parameter, places, textOrBlank } from "./arguments.js";

/** Functions over lists. */
export const lists: readonly ExpressionFunction[] = [
  {
    name: "list",
    family: "lists",
    summary: "A list of the values given, without the blank ones; lists among them are joined on.",
    parameters: [parameter("value", "any")],
    repeats: true,
    result: "list",
    keepsBlanks: true,
    examples: [{ expression: 'list("front.jpg", blank, "side.jpg")', gives: "front.jpg, side.jpg" }],
    apply: (args) => listOrBlank(args.flatMap(items)),
  },
  {
    name: "split",
    family: "lists",
    summary:
      "The parts of a text between a separator, as a list; spaces around them are cut. A part that is blank keeps its place for nth.",
    parameters: [parameter("text", "text"), parameter("separator", "text")],
    result: "list",
    examples: [{ expression: 'split("March; April", ";")', gives: "March, April" }],
    apply: ([text, separator]) => {
      const parts = asText(text)
        .split(asText(separator) || "\n")
        .map((part) => part.trim());
      return parts.some(Boolean) ? parts : undefined;
    },
  },
  {
    name: "first",
    family: "lists",
    summary: "The first value of a list.",
    parameters: [parameter("list", "list")],
    result: "any",
    examples: [{ expression: 'first(list("front.jpg", "side.jpg"))', gives: "front.jpg" }],
    apply: ([list]) => items(list)[0],
  },
  {
    name: "nth",
    family: "lists",
    summary: "The value at a place of a list, counted from 1; blank behind its end.",
    parameters: [parameter("list", "list"), parameter("number", "number")],
    result: "any",
    examples: [
      { expression: 'nth(list("front.jpg", "side.jpg"), 2)', gives: "side.jpg" },
      { expression: 'nth(split("red;;oak", ";"), 3)', gives: "oak" },
    ],
    apply: ([list, number]) => {
      const value = places(list)[asCount(number) - 1];
      return value === "" ? undefined : value;
    },
  },
  {
    name: "last",
    family: "lists",
    summary: "The last value of a list.",
    parameters: [parameter("list", "list")],
    result: "any",
    examples: [{ expression: 'last(split("Garden > Tools", ">"))', gives: "Tools" }],
    apply: ([list]) => items(list).at(-1),
  },
  {
    name: "rest",
    family: "lists",
    summary: "A list without its first value; blank when nothing is left.",
    parameters: [parameter("list", "list")],
    result: "list",
    examples: [{ expression: 'rest(list("front.jpg", "side.jpg"))', gives: "side.jpg" }],
    apply: ([list]) => listOrBlank(items(list).slice(1)),
  },
  {
    name: "take",
    family: "lists",
    summary: "The first so many values of a list; all where the count is blank.",
    parameters: [parameter("list", "list"), parameter("count", "number")],
    result: "list",
    examples: [
      { expression: 'take(list("a", "b", "c"), 2)', gives: "a, b" },
      { expression: 'take(list("a", "b", "c"), blank)', gives: "a, b, c" },
    ],
    apply: ([list, count]) => listOrBlank(items(list).slice(0, asLimit(count))),
  },
  {
    name: "without",
    family: "lists",
    summary: "A list without some values; case and accents do not matter.",
    parameters: [parameter("list", "list"), parameter("values", "list")],
    result: "list",
    examples: [
      { expression: 'without(list("wool", "other", "felt"), list("Other", "n/a"))', gives: "wool, felt" },
    ],
    apply: ([list, values]) => {
      const unwanted = new Set(items(values).map((value) => termKey(asText(value))));
      return listOrBlank(items(list).filter((value) => !unwanted.has(termKey(asText(value)))));
    },
  },
  {
    name: "unique",
    family: "lists",
    summary: "A list with each value once, where it stands first.",
    parameters: [parameter("list", "list")],
    result: "list",
    examples: [{ expression: 'unique(list("a.jpg", "b.jpg", "a.jpg"))', gives: "a.jpg, b.jpg" }],
    apply: ([list]) => {
      const seen = new Set<string>();
      return listOrBlank(
        items(list).filter((value) => {
          const text = asText(value);
          if (seen.has(text)) return false;
          seen.add(text);
          return true;
        }),
      );
    },
  },
  {
    name: "join",
    family: "lists",
    summary: "The values of a list as one text, with a separator between them.",
    parameters: [parameter("list", "list"), parameter("separator", "text")],
    result: "text",
    examples: [{ expression: 'join(list("wool", "felt"), " / ")', gives: "wool / felt" }],
    apply: ([list, separator]) => textOrBlank(items(list).map(asText).join(asText(separator))),
  },
  {
    name: "count",
    family: "lists",
    summary: "How many values a list has; of blank, 0.",
    parameters: [parameter("list", "list")],
    result: "number",
    keepsBlanks: true,
    examples: [
      { expression: 'count(list("a", "b"))', gives: "2" },
      { expression: "count(blank)", gives: "0" },
    ],
    apply: ([list]) => whole(items(list).length),
  },
  {
    name: "has",
    family: "lists",
    summary: "Whether a value is in a list; case and accents do not matter.",
    parameters: [parameter("list", "list"), parameter("value", "any")],
    result: "yes-no",
    keepsBlanks: true,
    examples: [{ expression: 'has(list("Wool", "felt"), "wool")', gives: "yes" }],
    apply: ([list, value]) => {
      const wanted = termKey(asText(value));
      return wanted !== "" && items(list).some((one) => termKey(asText(one)) === wanted);
    },
  },
];
