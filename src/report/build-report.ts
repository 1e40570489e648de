/** What became of builds, for people and programs. */
import { greatest } from "../core/many.js";
import { join, relative } from "node:path";
import { countText } from "../core/diagnostics/phrases.js";
import type { ChannelBuild } from "../flow/builds/build-channel.js";
import { RECORD_FILE } from "../flow/builds/build-record.js";
import type { BuildWishes } from "../flow/builds/build-wishes.js";
import type { BuiltFile } from "../flow/builds/built-files.js";
import type { PartNumber } from "../flow/builds/part-files.js";
import type { Io } from "../io/io.js";
import { heading } from "../workspace/wording.js";
import { jsonLine } from "./json.js";
import { sizeText } from "./size-text.js";
import { styleFor, type Style } from "./style.js";
import { wrapText } from "./text-width.js";

/** What became of one channel's build. */
export interface Built {
  readonly build: ChannelBuild;
  /** Those that were put in place: none in a dry run, or where no listing was for them. */
  readonly files: readonly BuiltFile[];
  /** Where they stand. */
  readonly folder: string;
  readonly wishes: BuildWishes;
  readonly dryRun: boolean;
}

const shownFolder = ({ folder, dryRun }: Built, io: Io): string =>
  dryRun ? "" : relative(io.cwd, folder) || ".";

/** A part of a build, for programs. */
export const partJson = ({ part, of }: PartNumber, file: string): string =>
  jsonLine({ type: "part", part, of, file });

/** A part of a build, for people. */
export function partLines({ part, of }: PartNumber, file: string, io: Io): readonly string[] {
  return [
    `Part ${part} of ${of} is in ${relative(io.cwd, file)}.`,
    ...wrapText(
      of === 1
        ? "Now: lexicant build --join, with the same channels and options"
        : `When all ${of} are there: lexicant build --join, with the same channels and options`,
      io.columns,
    ),
  ];
}

/** A build, for programs. */
export function buildJson(built: Built, io: Io): string {
  const { build, files, wishes, dryRun } = built;
  const { channel: name, definition } = build.channel.setup;
  const { ready, held, leftOut } = build.counts;
  return jsonLine({
    type: "build",
    channel: name,
    version: definition.version,
    purpose: wishes.purpose,
    kind: wishes.kind,
    ready,
    held,
    leftOut,
    notForThisFile: build.omitted.count("advice"),
    written: build.written,
    folder: files.length === 0 ? "" : shownFolder(built, io),
    files,
    dryRun,
  });
}

/** The first line: what was written, and where. */
function headLine(built: Built, style: Style, io: Io): string {
  const { build, wishes, dryRun } = built;
  const { definition } = build.channel.setup;
  const what = `${style.bold(`${definition.label} ${definition.version}`)}, ${wishes.purpose}`;
  if (build.isEmpty)
    return `${what}: no listing is for this file, so none is written; what stands there stays`;
  const count = style.good(
    build.written === 0 ? "groups' own rows alone" : countText(build.written, "listing"),
  );
  return `${what}: ${count}${dryRun ? " would be written; nothing was" : ` written to ${shownFolder(built, io)}`}`;
}

/** A file of products by choice is no whole file: what a person should know who sends it. */
function chosenLines({ build, wishes, dryRun }: Built): readonly string[] {
  if (wishes.kind !== "chosen" || build.isEmpty || dryRun) return [];
  const { channel, definition } = build.channel.setup;
  const whole = !definition.purposes.includes("withdraw");
  return [
    `by choice: it stands apart, and the whole file stays as it was.${whole ? ` ${definition.label} takes whole files: sending this one ends all other listings there.` : ""} ${build.channel.exchangeAccount.address === undefined ? `Sent? lexicant sent ${channel} ${build.files[0] ?? ""}` : `To send it: lexicant submit ${channel}`}`,
  ];
}

function erasedLines({ build, wishes }: Built, style: Style): readonly string[] {
  const { channel, definition } = build.channel.setup;
  const erases =
    wishes.purpose === "full" &&
    !wishes.keepLive &&
    definition.purposeRules.some((rule) => rule.purpose === "full" && rule.blank === "erase");
  const erased = erases ? (build.counts.causes.byCode().get("would-erase") ?? 0) : 0;
  if (erased === 0) return [];
  return [
    `${style.severity("warning", "note")} ${countText(erased, "value")} that the channel has would be erased: lexicant check ${channel} --code would-erase, or build with --keep-live`,
  ];
}

function notInItLines(built: Built, io: Io): readonly string[] {
  const { build, files } = built;
  const { held, leftOut } = build.counts;
  if (held + leftOut === 0) return [];
  const where =
    files.length === 0 ? "" : `each with its reason in ${join(shownFolder(built, io), RECORD_FILE)}; `;
  return [
    `not in it: ${held.toLocaleString("en")} held, ${leftOut.toLocaleString("en")} left out; ${where}what to do: lexicant check ${build.channel.setup.channel}`,
  ];
}

/** What was built, for people. */
export function buildLines(built: Built, io: Io): readonly string[] {
  const { build, files, dryRun } = built;
  const style = styleFor(io);
  const width = greatest(
    files.map(({ name }) => name.length),
    0,
  );
  const notes = [
    ...files.map(({ name, bytes }) => `${name.padEnd(width)}  ${sizeText(bytes)}`),
    ...chosenLines(built),
    ...notInItLines(built, io),
    ...build.omitted
      .causes()
      .map(
        ({ products, first }) =>
          `not in it: ${countText(products, "ready listing")}: ${heading(first, products)}`,
      ),
    ...erasedLines(built, style),
    ...(dryRun ? [] : build.told().map((text) => `${style.severity("warning", "note")} ${text}`)),
  ];
  return [
    headLine(built, style, io),
    ...notes.flatMap((note) => wrapText(note, io.columns - 2).map((line) => `  ${line}`)),
  ];
}
