/** One product on each channel. */
import { textOf } from "../core/catalogue/product.js";
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import { noteText } from "../core/diagnostics/wording.js";
import { isHeld, type Outcome } from "../core/listing/listing.js";
import { stateWords } from "../core/listing/state-words.js";
import type { CheckedProduct } from "../flow/check/check-product.js";
import type { Io } from "../io/io.js";
import { findingLines } from "./findings.js";
import { findingJson, jsonLine } from "./json.js";
import { styleFor, type Style } from "./style.js";

/** A product's standing on each channel for a person, with every reason. */
export function standingLines({ product, standings }: CheckedProduct, io: Io): readonly string[] {
  const style = styleFor(io);
  return [
    `${style.bold(product.sku)}  ${textOf(product, "name") ?? ""}`,
    ...standings.flatMap(({ setup: { definition }, outcome, findings }) => [
      "",
      `${style.bold(`${definition.label} ${definition.version}`)}: ${stateText(outcome, style)}`,
      ...findings.flatMap((finding) => reasonLines(finding, io)),
    ]),
  ];
}

function stateText(outcome: Outcome, style: Style): string {
  const words = stateWords[outcome.kind];
  if (outcome.kind === "ready") return style.good(words);
  return style.severity(isHeld(outcome) ? "error" : "advice", words);
}

/** The product and the channel stand above: a reason names its place and what asks for it. */
function reasonLines(finding: Diagnostic, io: Io): readonly string[] {
  const notes = (finding.notes ?? []).map((note) => `         ${styleFor(io).dim(noteText(note))}`);
  return [...findingLines(finding, io, { isAboutNamed: true }), ...notes];
}

/** The same as lines of JSON. */
export function standingJson({ product: { sku }, standings }: CheckedProduct): readonly string[] {
  return standings.flatMap(({ setup: { channel }, outcome, findings }) => [
    ...findings.map(findingJson),
    jsonLine({ type: "product-state", sku, channel, state: stateWords[outcome.kind] }),
  ]);
}
