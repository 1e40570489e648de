import type { Value } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";
import { asText, items, listOrBlank, parameter } from "./arguments.js";

const withoutQuery = (address: string): string => address.replace(/[?#].*$/s, "");
const secure = (address: string): string => address.replace(/^http:\/\//i, "https://");

/** Applies a change to one address or to each of a list; one stays one. */
const each = (
  value: Parameters<ExpressionFunction["apply"]>[0][number],
  change: (address: string) => string,
) =>
  Array.isArray(value)
    ? listOrBlank((value as readonly Value[]).map((address) => change(asText(address))))
    : change(asText(value));

/** Functions over addresses of pictures. */
export const pictures: readonly ExpressionFunction[] = [
  {
    name: "without_query",
    family: "pictures",
    summary: "Web addresses without what stands behind ? or #; one address, or each of a list.",
    parameters: [parameter("addresses", "any")],
    result: "first",
    examples: [
      {
        expression: 'without_query("https://shop.example/hive.jpg?w=200")',
        gives: "https://shop.example/hive.jpg",
      },
    ],
    apply: ([addresses]) => each(addresses, withoutQuery),
  },
  {
    name: "secure",
    family: "pictures",
    summary: "Web addresses with https:// where they had http://; one address, or each of a list.",
    parameters: [parameter("addresses", "any")],
    result: "first",
    examples: [
      { expression: 'secure("http://shop.example/hive.jpg")', gives: "https://shop.example/hive.jpg" },
    ],
    apply: ([addresses]) => each(addresses, secure),
  },
  {
    name: "picture_list",
    family: "pictures",
    summary:
      "One list of pictures from several, in their order: https, without query, each once. Put the channel's own first picture before the member's, and the group's last.",
    parameters: [parameter("pictures", "list")],
    repeats: true,
    result: "list",
    keepsBlanks: true,
    examples: [
      {
        expression:
          'picture_list(blank, list("http://shop.example/a.jpg?w=1"), list("https://shop.example/a.jpg", "https://shop.example/b.jpg"))',
        gives: "https://shop.example/a.jpg, https://shop.example/b.jpg",
      },
    ],
    apply: (lists) =>
      listOrBlank([...new Set(lists.flatMap(items).map((address) => secure(withoutQuery(asText(address)))))]),
  },
];
