import { isDecimal, whole } from "../../values/decimal.js";
import { shownText } from "../../values/show.js";
import { isList, type MaybeBlank, type Value } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";

/** A single value counts as a list of one. */
const items = (value: MaybeBlank): readonly Value[] =>
  value === undefined ? [] : isList(value) ? value : [value];
const orBlank = (list: readonly Value[]): MaybeBlank => (list.length === 0 ? undefined : list);

export const lists: readonly ExpressionFunction[] = [
  {
    name: "list",
    family: "lists",
    summary: "A list of the values given, without the blank ones.",
    parameters: [
      { name: "value", kind: "any" },
      { name: "second", kind: "any", optional: true },
      { name: "third", kind: "any", optional: true },
      { name: "fourth", kind: "any", optional: true },
    ],
    result: "list",
    keepsBlanks: true,
    examples: [{ expression: 'list("front.jpg", blank, "side.jpg")', gives: "front.jpg, side.jpg" }],
    apply: (args) => orBlank(args.flatMap(items)),
  },
  {
    name: "split",
    family: "lists",
    summary: "The parts of a text between a separator, as a list; spaces around them are cut.",
    parameters: [
      { name: "text", kind: "text" },
      { name: "separator", kind: "text" },
    ],
    result: "list",
    examples: [{ expression: 'split("March; April", ";")', gives: "March, April" }],
    apply: ([text, separator]) =>
      orBlank(
        shownText(text)
          .split(shownText(separator) || "\n")
          .map((part) => part.trim())
          .filter(Boolean),
      ),
  },
  {
    name: "first",
    family: "lists",
    summary: "The first value of a list.",
    parameters: [{ name: "list", kind: "list" }],
    result: "any",
    examples: [{ expression: 'first(list("front.jpg", "side.jpg"))', gives: "front.jpg" }],
    apply: ([list]) => items(list)[0],
  },
  {
    name: "rest",
    family: "lists",
    summary: "A list without its first value; blank when nothing is left.",
    parameters: [{ name: "list", kind: "list" }],
    result: "list",
    examples: [{ expression: 'rest(list("front.jpg", "side.jpg"))', gives: "side.jpg" }],
    apply: ([list]) => orBlank(items(list).slice(1)),
  },
  {
    name: "take",
    family: "lists",
    summary: "The first so many values of a list.",
    parameters: [
      { name: "list", kind: "list" },
      { name: "count", kind: "number" },
    ],
    result: "list",
    examples: [{ expression: 'take(list("a", "b", "c"), 2)', gives: "a, b" }],
    apply: ([list, count]) => orBlank(items(list).slice(0, isDecimal(count) ? count.toNumber() : 0)),
  },
  {
    name: "join",
    family: "lists",
    summary: "The values of a list as one text, with a separator between them.",
    parameters: [
      { name: "list", kind: "list" },
      { name: "separator", kind: "text" },
    ],
    result: "text",
    examples: [{ expression: 'join(list("wool", "felt"), " / ")', gives: "wool / felt" }],
    apply: ([list, separator]) => items(list).map(shownText).join(shownText(separator)),
  },
  {
    name: "count",
    family: "lists",
    summary: "How many values a list has.",
    parameters: [{ name: "list", kind: "list" }],
    result: "number",
    examples: [{ expression: 'count(list("a", "b"))', gives: "2" }],
    apply: ([list]) => whole(items(list).length),
  },
];
