/** What was learned of a channel, for people and programs. */
import { countText } from "../core/diagnostics/phrases.js";
import type { ReviewRow } from "../core/learning/review.js";
import type { Learned } from "../flow/learn/learn.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";
import { tableLines } from "./table.js";
import { wrapText } from "./text-width.js";

/** A paragraph of which all lines but the first are set in. */
const hanging = (text: string, { columns, isTerminal }: Pick<Io, "columns" | "isTerminal">): string =>
  wrapText(text, isTerminal ? columns - 4 : Infinity)
    .map((line, at) => `${at === 0 ? "  " : "    "}${line}`)
    .join("\n");

function countBy<T>(items: readonly T[], keyOf: (item: T) => string): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const item of items) counts.set(keyOf(item), (counts.get(keyOf(item)) ?? 0) + 1);
  return counts;
}

/** What was learned, in a few lines: how much, how surely, what is to be looked at, and what comes next. */
export function learnedLines(
  { channel, definition, rows, folder, told, kept, corrected, inUse }: Learned,
  isTrial: boolean,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const { fields, categories } = channel;
  const needs = countBy(fields, ({ facts }) => facts.get("need")?.value ?? "by branch");
  const lists = fields.filter(
    ({ facts, byBranch }) => facts.has("values") || [...byBranch.values()].some((some) => some.has("values")),
  );
  const filled = fields.filter(({ facts }) => facts.has("fill"));
  const states = countBy(rows, ({ state }) => state);
  const count = (state: string): number => states.get(state) ?? 0;
  const open = rows.filter(({ state }) => state === "open");
  const needText = ["required", "recommended", "optional", "by branch"]
    .flatMap((need) => (needs.has(need) ? [`${needs.get(need)} ${need}`] : []))
    .join(", ");
  const also = (text: string): string => hanging(text, io);
  return [
    `${style.bold(definition.label)} ${definition.version}: ${countText(fields.length, "field")} (${needText}), ${countText(lists.length, "list")} of permitted values, ${countText(categories.length, "category", "categories")}`,
    `  ${countText(rows.length, "guess", "guesses")}: ${count("sure")} sure, ${count("likely")} likely, ${count("open")} open${count("corrected") > 0 ? `, ${count("corrected")} corrected by you` : ""}; ${filled.length} of ${fields.length} fields have a fill to begin with`,
    ...(corrected > 0 ? [`  ${countText(corrected, "correction")} taken over`] : []),
    ...kept.slice(0, 8).map((text) => also(text)),
    ...(kept.length > 8 ? [`  and ${kept.length - 8} more cells of yours stay`] : []),
    ...told.map((text) => also(text)),
    ...(open.length > 0
      ? [
          "",
          style.bold(`${countText(open.length, "question")} to look at first:`),
          ...questionLines(open, io),
        ]
      : []),
    "",
    ...(isTrial
      ? [style.bold("Nothing was written: this was a dry run.")]
      : [`Written to ${folder}/. Next:`, ...nextLines(definition.channel, definition.version, inUse)]),
  ];
}

const nextLines = (channel: string, version: string, inUse: string | undefined): readonly string[] =>
  inUse === undefined
    ? [
        `  lexicant channels learn ${channel} --review   (--review review.xlsx to correct them there)`,
        `  lexicant channels add ${channel}, then lexicant place ${channel}`,
      ]
    : [
        `  lexicant channels compare ${channel} ${inUse} ${version}`,
        `  lexicant channels upgrade ${channel} ${version}`,
      ];

/** Questions that are the same of many fields are one. */
const MANY = 4;

function questionLines(rows: readonly ReviewRow[], io: Io): readonly string[] {
  const alike = new Map<string, ReviewRow[]>();
  for (const row of rows) {
    const key = `${row.fact}\u0000${row.guess}\u0000${row.because}`;
    alike.set(key, [...(alike.get(key) ?? []), row]);
  }
  const lines = [...alike.values()].flatMap((own) => {
    const [first] = own;
    if (first !== undefined && own.length >= MANY)
      return [
        hanging(
          `${own
            .slice(0, 3)
            .map(({ label }) => label)
            .join(
              ", ",
            )} and ${own.length - 3} more: ${factText(first.fact)} ${first.guess}? ${first.because}`,
          io,
        ),
      ];
    return own.map((row) => questionLine(row, io));
  });
  return [...lines.slice(0, 8), ...(lines.length > 8 ? [`  and ${lines.length - 8} more`] : [])];
}

function questionLine({ label, field, fact, guess, because, source, scope }: ReviewRow, io: Io): string {
  const what =
    field === "" ? factText(fact) : `${label}${scope === "*" ? "" : ` (${scope})`}: ${factText(fact)}`;
  return hanging(`${what} ${guess}? ${because}${source === "" ? "" : ` (${source})`}`, io);
}

const factText = (fact: string): string => fact.replaceAll("_", " ");

const columns = [
  { title: "how sure" },
  { title: "field", flexible: true },
  { title: "what" },
  { title: "our guess", flexible: true },
  { title: "%", align: "right" },
  { title: "read in", flexible: true },
  { title: "seen by", flexible: true },
] as const;

/** The review on a terminal: what is open or likely line by line; of what is sure, one line a field. */
export function reviewLines(rows: readonly ReviewRow[], io: Io): readonly string[] {
  const style = styleFor(io);
  const unsure = rows.filter(({ state }) => state !== "sure");
  const sure = rows.filter(({ state }) => state === "sure");
  const [head = "", ...lines] = tableLines(
    columns,
    unsure.map(({ state, label, scope, fact, guess, confidence, source, because, against }) => [
      state,
      scope === "*" ? label : `${label} (${scope})`,
      factText(fact),
      guess,
      String(confidence),
      source,
      against === "" ? because : `${because}; but ${against}`,
    ]),
    io,
  );
  const byField = new Map<string, ReviewRow[]>();
  for (const row of sure) byField.set(row.label, [...(byField.get(row.label) ?? []), row]);
  return [
    ...(unsure.length === 0 ? ["Nothing is open or only likely."] : [style.bold(head), ...lines]),
    "",
    style.bold(`Sure: ${countText(sure.length, "guess", "guesses")}`),
    ...[...byField].map(([label, own]) =>
      hanging(
        `${label}: ${own
          .filter(({ fact }) => fact !== "label")
          .map(({ fact, guess, scope }) => `${factText(fact)} ${guess}${scope === "*" ? "" : ` in ${scope}`}`)
          .join("; ")}`,
        io,
      ),
    ),
  ];
}

/** What was learned, for programs. */
export function learnedJson(
  { definition, rows, folder, told, kept }: Learned,
  isTrial: boolean,
): readonly string[] {
  return [
    jsonLine({
      type: "channel-learned",
      channel: definition.channel,
      version: definition.version,
      folder,
      fields: definition.fields.length,
      categories: definition.tree.all.length,
      told,
      kept,
      trial: isTrial,
    }),
    ...rows.map((row) => jsonLine({ type: "guess", channel: definition.channel, ...row })),
  ];
}
