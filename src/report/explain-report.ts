/** How a listing came about, for people. */
import { textOf } from "../core/catalogue/product.js";
import { isError } from "../core/diagnostics/diagnostic.js";
import { placeText } from "../core/diagnostics/place.js";
import { sentence } from "../workspace/wording.js";
import { isAskedOf } from "../core/listing/demand.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { stateWords } from "../core/listing/state-words.js";
import { isHeld, type Listing } from "../core/listing/listing.js";
import { percentOf, percentOfShare, sharesOf } from "../core/listing/readiness/readiness.js";
import { canonicalText } from "../core/values/show.js";
import { type MaybeBlank } from "../core/values/value.js";
import { findingLines } from "./findings.js";
import type { Io } from "../io/io.js";
import { limitWords } from "../core/channel/limit-words.js";
import { styleFor } from "./style.js";
import { tableLines } from "./table.js";
import { wrapText } from "./text-width.js";
import type { ExplainedField, ExplainedListing } from "../flow/explain/explain-listing.js";
import { whatToDo } from "../flow/explain/what-to-do.js";

/** A value in one line. */
export const valueText = (value: MaybeBlank): string => canonicalText(value, " | ");

function giverText({ giver, attributes, value: own }: ExplainedField): string {
  switch (giver.by) {
    case "placement":
      return giver.place === undefined ? "the placement" : `placement: ${placeText(giver.place)}`;
    case "answer":
      return `an answer for this field: ${giver.place === undefined ? "" : placeText(giver.place)}`;
    case "channel":
      return `the channel fills it in: ${giver.value}`;
    case "nothing":
      return "no fill";
    case "fill": {
      const first =
        own === undefined
          ? undefined
          : attributes.find(({ value, from }) => value !== undefined && from !== undefined);
      if (first?.isMade === true) return `${first.name}, made by channel.yaml`;
      const { place } = giver.fill.program.source;
      return first?.from === undefined
        ? `fill: ${placeText(place)}`
        : `${first.name}: ${placeText(first.from)}`;
    }
  }
}

/** What the listing is, and how it stands. */
export function headLines(explained: ExplainedListing, io: Io): readonly string[] {
  const style = styleFor(io);
  const { product, setup, outcome, listing, placed } = explained;
  const state = stateWords[outcome.kind];
  const painted =
    outcome.kind === "ready"
      ? style.good(state)
      : style.severity(isHeld(outcome) ? "error" : "advice", state);
  const shares = listing === undefined ? undefined : sharesOf(listing, setup.definition, outcome.findings);
  const category = listing?.plan.rules.category;
  const errors = outcome.findings.filter(isError);
  const others = outcome.findings.filter((finding) => !isError(finding));
  return [
    `${style.bold(product.sku)}  ${textOf(product, "name") ?? ""}`,
    `${style.bold(`${setup.definition.label} ${setup.definition.version}`)}: ${painted}` +
      (shares === undefined
        ? ""
        : `, ${percentOfShare(shares.required)}% of what is required and ${percentOf(shares)}% with what is recommended`),
    ...(category === undefined
      ? []
      : wrapText(
          `${textOf(product, "category") ?? "no category"} → ${category.code}${category.path === category.code ? "" : ` (${category.path})`}${placed === undefined ? "" : `, by ${placeText(placed)}`}`,
          io.columns,
        )),
    ...(errors.length === 0 ? [] : ["", style.bold("What is to be done")]),
    ...errors.flatMap((finding, index) => {
      const [first = "", ...more] = wrapText(sentence(finding).replace(/\n/g, " "), io.columns - 4);
      return [
        `${String(index + 1).padStart(2)}. ${first}`,
        ...more.map((line) => `    ${line}`),
        ...wrapText(whatToDo(finding, product.sku), io.columns - 6).map(
          (line, at) => `    ${style.good(at === 0 ? `→ ${line}` : `  ${line}`)}`,
        ),
      ];
    }),
    ...(others.length === 0 ? [] : [""]),
    ...others.flatMap((finding) => findingLines(finding, io, { isAboutNamed: true })),
  ];
}

const columns = [
  { title: "field" },
  { title: "need" },
  { title: "value", flexible: true },
  { title: "from", flexible: true },
] as const;

/** Its fields as a table. */
export function fieldTable(
  fields: readonly ExplainedField[],
  listing: Listing,
  { channel, definition }: Pick<ChannelSetup, "channel" | "definition">,
  all: boolean,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const isAsked = (rule: ExplainedField["rule"]): boolean => isAskedOf(rule, listing, definition);
  const isIdle = ({ value, need, findings, rule }: ExplainedField): boolean =>
    value === undefined &&
    findings.length === 0 &&
    (!isAsked(rule) || need.need === "optional" || need.need === "not allowed");
  const shown = all ? fields : fields.filter((field) => !isIdle(field));
  const [head = "", ...lines] = tableLines(
    columns,
    shown.map((field) => [
      field.rule.field.code,
      isAsked(field.rule) ? field.need.need : "of variations only",
      valueText(field.value),
      giverText(field),
    ]),
    io,
  );
  const idle = fields.length - shown.length;
  return [
    style.bold(head),
    ...lines.map((line, index) => {
      const field = shown[index];
      if (field?.findings.some(isError) === true) return style.severity("error", line);
      return field?.value === undefined ? style.dim(line) : line;
    }),
    ...(idle > 0
      ? [style.dim(`and ${idle} optional ${idle === 1 ? "field" : "fields"} that stay blank (--all)`)]
      : []),
    `Each step to one value: lexicant explain ${listing.product.sku} ${channel} FIELD`,
  ];
}

const stepColumns = [
  { title: "part", flexible: true },
  { title: "comes to", flexible: true },
] as const;

const attributeColumns = [
  { title: "reads" },
  { title: "value", flexible: true },
  { title: "layer" },
  { title: "from", flexible: true },
] as const;

function fillLines({ giver, steps, given }: ExplainedField, io: Io): readonly string[] {
  const style = styleFor(io);
  if (giver.by !== "fill") return [];
  const { fill } = giver;
  const { text, place } = fill.program.source;
  const parts = steps.slice(0, -1);
  const [head = "", ...lines] = tableLines(
    stepColumns,
    parts.map((step) => [
      `${"  ".repeat(Math.max(0, step.depth - 1))}${step.text}`,
      step.value === undefined ? "blank" : valueText(step.value),
    ]),
    io,
  );
  return [
    "",
    ...wrapText(text.replace(/\s+/g, " ").trim(), io.columns - 6).map(
      (line, index) => `${index === 0 ? `${style.bold("fill")}  ` : "      "}${line}`,
    ),
    style.dim(`      ${placeText(place)}`),
    ...(fill.usual === undefined
      ? []
      : [
          style.dim(
            `      in place of ${fill.usual.program.source.text.replace(/\s+/g, " ").trim()} (${placeText(fill.usual.program.source.place)})`,
          ),
        ]),
    ...(parts.length === 0 ? [] : [style.bold(head), ...lines]),
    ...(given === undefined ? [] : [`gives ${valueText(given)}, which the channel has as the value above`]),
  ];
}

function attributeLines(
  { attributes }: ExplainedField,
  sources: ReadonlyMap<string, readonly string[]>,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  if (attributes.length === 0) return [];
  const [head = "", ...lines] = tableLines(
    attributeColumns,
    attributes.map(({ name, value, from, isMade }) => [
      name,
      value === undefined ? "blank" : valueText(value),
      value === undefined ? "" : (from?.layer ?? ""),
      value === undefined ? "" : isMade ? "made by channel.yaml" : from === undefined ? "" : placeText(from),
    ]),
    io,
  );
  return [
    "",
    style.bold(head),
    ...lines,
    ...[...sources].flatMap(([name, told]) =>
      told.flatMap((text) => wrapText(`${name}: ${text}`, io.columns).map((line) => style.dim(line))),
    ),
  ];
}

/** One field, step by step. */
export function fieldLines(
  explained: ExplainedListing,
  field: ExplainedField,
  sources: ReadonlyMap<string, readonly string[]>,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const { product, setup } = explained;
  const { rule, need, value, findings } = field;
  const { label, code, example, help } = rule.field;
  return [
    `${style.bold(product.sku)}  ${textOf(product, "name") ?? ""}`,
    `${style.bold(`${setup.definition.label}: ${code}`)} (${label})`,
    "",
    value === undefined
      ? `value  ${style.severity("advice", "blank")}`
      : `value  ${style.good(valueText(value))}`,
    ...(field.giver.by === "fill" ? [] : [`from   ${giverText(field)}`]),
    ...fillLines(field, io),
    ...attributeLines(field, sources, io),
    "",
    ...wrapText(
      `rule   ${need.need}; ${limitWords(rule).join(", ")}${example === "" ? "" : `; such as ${example}`}`,
      io.columns,
    ),
    style.dim(`       asked by ${placeText(need.place)}`),
    ...(help === "" ? [] : wrapText(`       ${help}`, io.columns).map((line) => style.dim(line))),
    ...(findings.length === 0 ? [] : [""]),
    ...findings.flatMap((finding) => [
      ...findingLines(finding, io, { isAboutNamed: true }),
      ...(isError(finding)
        ? wrapText(whatToDo(finding, product.sku), io.columns - 11).map(
            (line, at) => `         ${style.good(at === 0 ? `→ ${line}` : `  ${line}`)}`,
          )
        : []),
    ]),
  ];
}
