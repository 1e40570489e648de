/** What a channel shows and should not, or the other way round. */
import { countText } from "../core/diagnostics/phrases.js";
import { shownItems } from "../core/catalogue/list-text.js";
import type { Disagreement, Reconciled } from "../flow/exchange/reconcile.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";
import { tableLines } from "./table.js";

const words: Readonly<Record<Disagreement["kind"], string>> = {
  "not ours": "live, and not ours",
  "not live": "ours, and not live",
  "still live": "ended, and still live",
  differs: "differs",
  stale: "stale",
};

const shown = (text: string): string =>
  text === "" ? "blank" : shownItems(text, " | ").replace(/\s+/g, " ");

function cellsOf(one: Disagreement): readonly string[] {
  if (one.kind === "differs" || one.kind === "stale")
    return [
      one.sku,
      words[one.kind],
      one.field,
      shown(one.live),
      shown(one.kind === "stale" ? one.now : one.sent || one.now),
    ];
  return [one.sku, words[one.kind], "", "id" in one ? one.id : "", ""];
}

const columns = [
  { title: "sku" },
  { title: "what" },
  { title: "field" },
  { title: "the channel shows", flexible: true },
  { title: "should be", flexible: true },
] as const;

/** What the channel's export and we do not agree on. */
export function reconcileLines(
  { live, agreeing, waiting, counts }: Reconciled,
  found: readonly Disagreement[],
  label: string,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const all = Object.values(counts).reduce((sum, count) => sum + count, 0);
  const kinds = (Object.keys(words) as Disagreement["kind"][]).filter((kind) => counts[kind] > 0);
  const head = [
    `${style.bold(label)} shows ${countText(live, "listing")}: ${style.good(`${agreeing.toLocaleString("en")} as they should be`)}`,
    ...(kinds.length === 0
      ? []
      : [`  ${kinds.map((kind) => `${counts[kind].toLocaleString("en")} ${words[kind]}`).join("; ")}`]),
  ];
  const later =
    waiting === 0
      ? []
      : [
          style.dim(
            `${countText(waiting, "value")} besides ${waiting === 1 ? "was" : "were"} changed here since and not sent yet: lexicant diff shows them`,
          ),
        ];
  if (all === 0) return [...head, ...later];
  const [title = "", ...lines] = tableLines(columns, found.map(cellsOf), io);
  return [
    ...head,
    ...later,
    style.bold(title),
    ...lines,
    ...(all > found.length
      ? [style.dim(`and ${countText(all - found.length, "more", "more")} (--limit)`)]
      : []),
  ];
}

/** One disagreement, for programs. */
export const disagreementJson = (one: Disagreement, channel: string): string =>
  jsonLine({ type: "disagreement", channel, ...one });

/** All of it in numbers, for programs. */
export function reconcileJson({ live, agreeing, waiting, counts }: Reconciled, channel: string): string {
  return jsonLine({
    type: "reconcile",
    channel,
    live,
    agreeing,
    waiting,
    notOurs: counts["not ours"],
    notLive: counts["not live"],
    stillLive: counts["still live"],
    differs: counts.differs,
    stale: counts.stale,
  });
}
