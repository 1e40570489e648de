/** Findings in lines: sentence, what it is about, its place, what to do. Words are `core/diagnostics`'s. */
import type { Cause } from "../core/diagnostics/causes.js";
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import { placeText } from "../core/diagnostics/place.js";
import { heading } from "../workspace/wording.js";
import { noteText } from "../core/diagnostics/wording.js";
import { sentence } from "../workspace/wording.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { styleFor } from "./style.js";
import { wrapText } from "./text-width.js";

/** A finding for people: severity, sentence, and below it what it is about, unless that was named before, and the place. */
export function findingLines(
  finding: Diagnostic,
  io: Io,
  { isAboutNamed = false }: { readonly isAboutNamed?: boolean } = {},
): readonly string[] {
  const style = styleFor(io);
  const [first = "", ...rest] = sentence(finding).split("\n");
  const [head = "", ...wrapped] = wrapText(first, Math.max(40, io.columns - 9));
  const about = isAboutNamed
    ? ""
    : [finding.product, finding.channel].filter((part) => part !== undefined).join(" on ");
  const at =
    finding.place === undefined ? about : [about, `at ${placeText(finding.place)}`].filter(Boolean).join(" ");
  return [
    `${style.severity(finding.severity, finding.severity.padEnd(8))} ${head}`,
    ...wrapped.map((line) => `         ${line}`),
    ...rest.map((line) => `           ${line}`),
    ...(at === "" ? [] : [`         ${style.dim(at)}`]),
  ];
}

/** What a cause's examples add: the offending value where the heading is general. */
export function exampleText(cause: Cause): string {
  const files = new Set(cause.examples.map(({ place }) => place?.file));
  const areRows = cause.examples.every(
    ({ product, place }) => product === undefined && place?.row !== undefined,
  );
  // Rows of one file are named together.
  const shown =
    areRows && files.size === 1 && cause.examples.length > 1
      ? [`${[...files][0] ?? ""}, rows ${cause.examples.map(({ place }) => place?.row).join(", ")}`]
      : cause.examples.map((finding) => finding.product ?? placeOf(finding));
  const more = cause.products - cause.examples.length;
  return shown.filter(Boolean).join(", ") + (more > 0 ? ` and ${countText(more, "more", "more")}` : "");
}

const placeOf = ({ place }: Diagnostic): string => (place === undefined ? "" : placeText(place));

/** All places of a finding that stands for one product alone. */
export function singleText(finding: Diagnostic): string {
  const value =
    finding.product === undefined
      ? placeOf(finding)
      : finding.place === undefined
        ? ""
        : `value from ${placeOf(finding)}`;
  return [finding.product ?? "", value, ...(finding.notes ?? []).map(noteText)].filter(Boolean).join("; ");
}

/** Findings of many products by cause, most products first; each with its count, examples and the rule that asks. */
export function causeLines(causes: readonly Cause[], io: Io, limit = Infinity): readonly string[] {
  const style = styleFor(io);
  const lines = causes.slice(0, limit).flatMap((cause) => {
    const { first, products, categories } = cause;
    const size = `${countText(products, first.product === undefined ? "row" : "product")}${categories > 1 ? `, ${countText(categories, "category", "categories")}` : ""}`;
    const room = Math.max(40, io.columns - 9);
    const text = `${size}: ${heading(first, products).replace(/\n/g, " ")}`;
    const [head = "", ...wrapped] = wrapText(text, room);
    const detail = products > 1 ? exampleText(cause) : singleText(first);
    const rule = first.notes?.find(({ note }) => note === "rule");
    const asked = rule === undefined || products === 1 ? "" : `; ${noteText(rule)}`;
    return [
      `${style.severity(first.severity, first.severity.padEnd(8))} ${style.bold(size)}${head.slice(size.length)}`,
      ...wrapped.map((line) => `         ${line}`),
      ...wrapText(detail + asked, room).map((line) => `         ${style.dim(line)}`),
    ];
  });
  const left = causes.length - Math.min(limit, causes.length);
  return left > 0
    ? [...lines, style.dim(`         and ${countText(left, "more cause")} (see them with --all)`)]
    : lines;
}
