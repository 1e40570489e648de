/** What a channel said of a job. */
import { countText, quote } from "../core/diagnostics/phrases.js";
import { placeText } from "../core/diagnostics/place.js";
import type { JobResults } from "../flow/exchange/exchange-work.js";
import type { Io } from "../io/io.js";
import { sentence } from "../workspace/wording.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";
import { wrapText } from "./text-width.js";

function shortened(text: string, most = 70): string {
  const line = text.replace(/\s+/g, " ");
  return line.length > most ? `${line.slice(0, most)}…` : line;
}

function reasonLines(row: JobResults["refused"][number], io: Io): readonly string[] {
  const style = styleFor(io);
  const { sku, alike, code, message, field, value, ours, from, known, next, isOfGroup } = row;
  const more = alike > 1 ? ` and ${countText(alike - 1, "more", "more")} alike` : "";
  const said = [code, message].filter(Boolean).join(" ");
  const [own] = ours;
  const lines: (readonly [string, string])[] = [
    ["channel", said === "" ? "gives no reason" : said],
    ...(field === "" || (value === "" && isOfGroup)
      ? []
      : [["sent", `${field}${value === "" ? " was blank" : ` ${quote(shortened(value))}`}`] as const]),
    ...(from.length === 0 ? [] : [["from", from.slice(0, 2).map(placeText).join(", ")] as const]),
    [
      "we say",
      known?.means !== undefined && known.means !== ""
        ? known.means
        : own === undefined
          ? "nothing: our check did not foresee it"
          : sentence(own),
    ],
    ["do", next],
  ];
  return [
    `  ${style.severity("error", "refused")} ${style.bold(sku)}${more}`,
    ...lines.flatMap(([name, text]) => {
      const [first = "", ...rest] = wrapText(text, Math.max(40, io.columns - 13));
      return [`    ${style.dim(name.padEnd(8))} ${first}`, ...rest.map((line) => `             ${line}`)];
    }),
  ];
}

/** What the channel said of one job. */
export function resultsLines(results: JobResults, label: string, io: Io): readonly string[] {
  const style = styleFor(io);
  const { job, reading, taken, refused, unanswered } = results;
  const { number, channel, listings, accepted } = job;
  const open = listings - accepted - job.refused;
  const head = `${style.bold(label)}, job ${number}, ${job.purpose}, of ${job.at.slice(0, 16).replace("T", " ")}: ${style.good(`${accepted.toLocaleString("en")} accepted`)}, ${job.refused.toLocaleString("en")} refused${open > 0 ? `, ${open.toLocaleString("en")} without an answer` : ""}`;
  const thrown = job.files.filter(({ state }) => state === "thrown out");
  return [
    head,
    ...reading.map(
      ({ file, progress }) =>
        `  ${file.name}: the channel is at work${progress.kind === "reading" && progress.percent !== undefined ? ` (${Math.round(progress.percent)}%)` : ""}; ask again: lexicant results ${channel} --wait`,
    ),
    ...thrown.map(
      ({ name, because }) =>
        `  ${style.severity("error", "not taken")} ${name}: ${because === "" ? "the channel gives no reason" : because}`,
    ),
    ...refused.flatMap((row) => reasonLines(row, io)),
    ...((taken?.takenBack ?? 0) > 0
      ? wrapText(
          `  ${countText(taken?.takenBack ?? 0, "listing")} that the channel had accepted ${taken?.takenBack === 1 ? "is" : "are"} refused now; what it had before counts again`,
          io.columns,
        )
      : []),
    ...((taken?.strangers ?? 0) > 0
      ? wrapText(
          `  ${countText(taken?.strangers ?? 0, "row")} of the report ${taken?.strangers === 1 ? "speaks" : "speak"} of nothing that was sent: ${taken?.firstStrangers.join(", ") ?? ""}`,
          io.columns,
        )
      : []),
    ...(unanswered.length > 0 && reading.length === 0
      ? wrapText(
          `  without an answer: ${unanswered.join(", ")}${open > unanswered.length ? " …" : ""}; the report left them out. Ask again later: lexicant results ${channel}`,
          io.columns,
        )
      : []),
    ...((taken?.news.length ?? 0) > 0
      ? wrapText(
          `  said for the first time: ${countText(taken?.news.length ?? 0, "reason")}, kept in channels/${channel}/known-refusals.csv; write there what it means and what is to be done, and "lexicant check" tells it before the next sending`,
          io.columns,
        )
      : []),
    ...(job.refused > 0
      ? [`Next: mend these, then: lexicant build ${channel} --failed, lexicant submit ${channel}`]
      : open === 0 && reading.length === 0
        ? [`All is done. What the channel has: lexicant ledger ${channel}`]
        : []),
  ];
}

/** The same for programs. */
export function resultsJson({ job, reading, taken, refused, unanswered }: JobResults): string {
  return jsonLine({
    type: "results",
    channel: job.channel,
    job: job.number,
    purpose: job.purpose,
    listings: job.listings,
    accepted: job.accepted,
    refused: job.refused,
    isAtWork: reading.length > 0,
    takenBack: taken?.takenBack ?? 0,
    strangers: taken?.strangers ?? 0,
    unanswered,
    reasons: refused.map(({ sku, alike, code, message, field, value, id, from, next, known, ours }) => ({
      sku,
      alike,
      code,
      message,
      field,
      value,
      id,
      next,
      from,
      means: known?.means ?? "",
      ours: ours.map((finding) => ({ code: finding.code, message: sentence(finding) })),
    })),
    news: taken?.news ?? [],
  });
}
