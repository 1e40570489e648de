/** Causes as a table: what holds most first. */
import { greatest } from "../core/many.js";
import { actText } from "../workspace/wording.js";
import { actFor } from "../core/diagnostics/entry.js";
import type { Cause } from "../core/diagnostics/causes.js";
import type { Note } from "../core/diagnostics/diagnostic.js";
import { heading } from "../workspace/wording.js";
import { noteText } from "../core/diagnostics/wording.js";
import { exampleText, singleText } from "./findings.js";
import type { Io } from "../io/io.js";
import { styleFor } from "./style.js";
import { textWidth, wrapText } from "./text-width.js";

const GAP = "  ";
const titles = ["", "products", "alone"] as const;

/** What a cause says of itself: the field, then the fact and the remedy. */
function causeText({ first, products, categories }: Cause): string {
  const field = first.field === undefined ? "" : `${first.field}: `;
  const where = categories > 1 ? ` (in ${categories.toLocaleString("en")} categories)` : "";
  return `${field}${heading(first, products).replace(/\n/g, " ")}${where}`;
}

/** The channel stands above: of its definition's files the name is enough. */
const withoutFolder = (rule: Note): Note => ({
  ...rule,
  place: { ...rule.place, file: rule.place.file.split("/").at(-1) ?? "" },
});

function detailText(cause: Cause): string {
  const { first, products } = cause;
  if (products <= 1) return singleText(first);
  const rule = first.notes?.find(({ note }) => note === "rule");
  return exampleText(cause) + (rule === undefined ? "" : `; ${noteText(withoutFolder(rule))}`);
}

/** Whether the sentence leaves open what to do, so that the act is worth a line. */
const asksForAct = ({ first }: Cause): boolean =>
  first.severity === "error" && first.code !== "rule-broken" && !/; |"lexicant /.test(heading(first, 2));

const cells = ({ first, products, alone }: Cause): readonly string[] => [
  first.severity,
  products.toLocaleString("en"),
  alone === 0 ? "" : alone.toLocaleString("en"),
];

/**
 * Causes as a table as wide as the terminal: severity, products held or touched, those that nothing else holds, and the
 * cause in words with examples below it.
 */
export function causeTable(causes: readonly Cause[], io: Io, limit = Infinity): readonly string[] {
  if (causes.length === 0) return [];
  const style = styleFor(io);
  const shown = causes.slice(0, limit);
  const widths = titles.map((title, column) =>
    greatest(
      shown.map((cause) => textWidth(cells(cause)[column] ?? "")),
      textWidth(title),
    ),
  );
  const margin = widths.reduce((sum, own) => sum + own + GAP.length, 0);
  const room = Math.max(40, io.columns - margin);
  const row = (texts: readonly string[], paint: (text: string, column: number) => string): string =>
    texts
      .map((text, column) => {
        const own = widths[column] ?? 0;
        return paint(column === 0 ? text.padEnd(own) : text.padStart(own), column) + GAP;
      })
      .join("");
  const indent = " ".repeat(margin);
  const left = causes.length - shown.length;
  return [
    style.bold(row(titles, (text) => text) + "cause"),
    ...shown.flatMap((cause) => {
      const { severity } = cause.first;
      const [head = "", ...more] = wrapText(causeText(cause), room);
      const act = asksForAct(cause) ? [`settle it: ${actText(actFor(cause.first))}`] : [];
      const details = [...act, detailText(cause)].filter((text) => text !== "");
      return [
        row(cells(cause), (text, column) => (column === 0 ? style.severity(severity, text) : text)) + head,
        ...more.map((line) => indent + line),
        ...details.flatMap((text) => wrapText(text, room).map((line) => indent + style.dim(line))),
      ];
    }),
    ...(left > 0
      ? [
          style.dim(
            `${indent}and ${left.toLocaleString("en")} more ${left === 1 ? "cause" : "causes"} (--all)`,
          ),
        ]
      : []),
  ];
}
