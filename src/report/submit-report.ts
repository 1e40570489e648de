/** What was sent, and what would be. */
import { assertNever } from "../core/assert-never.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { SubmitOutlook } from "../flow/exchange/exchange-work.js";
import type { Submitted, SubmittedFile } from "../flow/exchange/submit.js";
import type { Io } from "../io/io.js";
import type { Job } from "../store/jobs.js";
import { jsonLine } from "./json.js";
import { sizeText } from "./size-text.js";
import { styleFor, type Style } from "./style.js";
import { wrapText } from "./text-width.js";

/** A file of a job. */
export const fileJson = ({
  name,
  bytes,
  sha256,
  state,
  reference,
  percent,
  because,
  at,
}: Job["files"][number]) => ({
  name,
  bytes,
  sha256,
  state,
  reference,
  because,
  at,
  percent: percent ?? null,
});

/** A job. */
export const jobJson = ({ files, ...job }: Job): string =>
  jsonLine({ type: "job", ...job, files: files.map(fileJson) });

/** What would go where. */
export function outlookLines(
  { label, address, waiting, plan }: SubmitOutlook,
  channel: string,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const head = `${style.bold(label)} at ${address === "" ? "no address yet (exchange.address in its channel.yaml)" : address}`;
  const nothing = style.bold("Nothing was sent: this was a dry run.");
  if (waiting !== undefined) {
    const left = waiting.files.filter(({ state }) => state === "waiting" || state === "sending");
    return [
      head,
      `job ${waiting.number} of ${waiting.at.slice(0, 16).replace("T", " ")} was broken off: ${countText(left.length, "file")} of ${waiting.files.length} would go on: ${left.map(({ name }) => name).join(", ")}`,
      nothing,
    ];
  }
  if (plan === undefined) return [head, nothing];
  return [
    `${head}, ${plan.purpose}${plan.whole ? "; it takes whole files: what is not in them ends there" : ""}`,
    ...plan.files.map(
      ({ name, sentAs, bytes }) => `  ${name}${sentAs === name ? "" : ` as ${sentAs}`}, ${sizeText(bytes)}`,
    ),
    nothing,
    `To send it: lexicant submit ${channel}`,
  ];
}

/** What would go where, for programs. */
export function outlookJson({ address, waiting, plan }: SubmitOutlook, channel: string): string {
  return jsonLine({
    type: "submit",
    channel,
    address,
    dryRun: true,
    resumes: waiting?.number ?? null,
    purpose: plan?.purpose ?? waiting?.purpose ?? null,
    files: (plan?.files ?? []).map(({ name, sentAs, bytes, sha256 }) => ({ name, sentAs, bytes, sha256 })),
  });
}

function sendingText({ file, sending }: SubmittedFile, style: Style): string {
  switch (sending.kind) {
    case "taken":
      return `  ${style.good("sent")}      ${file.name}, ${sizeText(file.bytes)}, job reference ${sending.reference}`;
    case "refused":
      return `  ${style.severity("error", "refused")}   ${file.name}: ${sending.reason}`;
    case "not sent":
      return `  ${style.severity("error", "not sent")}  ${file.name}: ${sending.reason}`;
    case "unclear":
      return `  ${style.severity("warning", "unclear")}   ${file.name}: ${sending.reason}`;
    default:
      return assertNever(sending);
  }
}

/** What is to be done next, by how the last file ended. */
function nextLine({ job, files }: Submitted): string {
  const { channel } = job;
  const ended = files.findLast(({ sending }) => sending.kind !== "taken")?.sending.kind;
  if (ended === "unclear")
    return `Nobody knows whether it arrived. Look at the channel; then: lexicant submit ${channel} --arrived REFERENCE, or lexicant submit ${channel} --send-again`;
  if (ended === "not sent") return `Nothing is lost: lexicant submit ${channel} goes on where this ended.`;
  if (ended === "refused")
    return `What the channel said is above; mend it, then: lexicant build ${channel}, lexicant submit ${channel}`;
  return `Next: lexicant results ${channel}`;
}

const SHOWN_FILES = 5;

/** Files that went as they should are counted where they are many; what did not is always shown. */
function shownFiles(files: readonly SubmittedFile[]): readonly SubmittedFile[] {
  if (files.length <= SHOWN_FILES) return files;
  return [
    ...files.slice(0, SHOWN_FILES - 2),
    ...files.slice(SHOWN_FILES - 2).filter(({ sending }) => sending.kind !== "taken"),
  ];
}

/** What became of a sending. */
export function submittedLines(
  submitted: Submitted,
  label: string,
  io: Io,
  /** Whether the results come next by themselves. */
  isAwaited = false,
): readonly string[] {
  const style = styleFor(io);
  const { job, files, isResumed } = submitted;
  const before = job.files.length - files.length;
  return [
    `${style.bold(label)}, job ${job.number}, ${job.purpose}: ${countText(job.listings, "listing")} in ${countText(job.files.length, "file")}${isResumed ? `, begun ${job.at.slice(0, 16).replace("T", " ")}` : ""}`,
    ...(isResumed && before > 0 ? [style.dim(`  ${countText(before, "file")} had been sent before`)] : []),
    ...shownFiles(files).map((file) => sendingText(file, style)),
    ...(shownFiles(files).length < files.length
      ? [style.dim(`  and ${countText(files.length - shownFiles(files).length, "more file")} sent`)]
      : []),
    ...(isAwaited && files.every(({ sending }) => sending.kind === "taken")
      ? []
      : wrapText(nextLine(submitted), io.columns)),
  ];
}

/** What went, for programs. */
export function submittedJson({ job, files, isResumed }: Submitted): string {
  return jsonLine({
    type: "submit",
    channel: job.channel,
    job: job.number,
    purpose: job.purpose,
    resumes: isResumed ? job.number : null,
    dryRun: false,
    listings: job.listings,
    files: files.map(({ file, sending }) => ({
      name: file.name,
      bytes: file.bytes,
      sha256: file.sha256,
      ...sending,
    })),
  });
}
