/** What became of answers, for people and programs. */
import { causeLines } from "./findings.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";
import type { AnswersResult } from "../flow/gaps/take-answers.js";

const parts = ({ catalogue, channel, lexicon }: AnswersResult): string =>
  [
    catalogue > 0 ? `${catalogue.toLocaleString("en")} into the catalogue` : "",
    channel > 0 ? `${channel.toLocaleString("en")} for one channel alone` : "",
    lexicon > 0 ? `${lexicon.toLocaleString("en")} into the lexicon` : "",
  ]
    .filter(Boolean)
    .join(", ");

/** What became of the answers, for people. */
export function answersLines(result: AnswersResult, dryRun: boolean, io: Io): readonly string[] {
  const style = styleFor(io);
  const { answers, sheets, refused, unchanged, revisions, causes, channels } = result;
  const taken = result.catalogue + result.channel + result.lexicon;
  if (answers === 0)
    return [
      `${countText(sheets, "gap sheet")}, and no answer in ${sheets === 1 ? "it" : "them"} yet: fill in the white cells, save, and import again.`,
      ...causeLines(causes.causes(), io),
    ];
  const rest = [
    unchanged > 0 ? `${unchanged.toLocaleString("en")} say nothing new` : "",
    refused > 0 ? style.severity("error", `${refused.toLocaleString("en")} not taken`) : "",
  ].filter(Boolean);
  const best = channels.filter(({ becameReady, stillHeld }) => becameReady + stillHeld > 0);
  return [
    `${countText(answers, "answer")} in ${countText(sheets, "gap sheet")}: ${style.good(`${taken.toLocaleString("en")} ${dryRun ? "would be taken" : "taken"}`)}${taken > 0 ? ` (${parts(result)})` : ""}${rest.length > 0 ? `, ${rest.join(", ")}` : ""}`,
    ...best.map(
      ({ label, becameReady, stillHeld }) =>
        `  ${label}: ${style.good(countText(becameReady, "product"))} ${dryRun ? "would become" : "became"} ready, ${stillHeld.toLocaleString("en")} of these still held`,
    ),
    ...causeLines(causes.causes(), io),
    ...(revisions.length > 0 && !dryRun
      ? [
          revisions.length === 1
            ? `This is revision ${revisions[0] ?? ""}; to take it back: lexicant undo ${revisions[0] ?? ""}`
            : `These are revisions ${revisions[0] ?? ""} to ${revisions.at(-1) ?? ""}; to take all of them back: lexicant undo`,
        ]
      : []),
    refused > 0
      ? "Correct the cells named above in the same sheet and import it again."
      : "What is left: lexicant check",
  ];
}

/** The same for programs. */
export function answersJson(result: AnswersResult, dryRun: boolean): string {
  const { sheets, answers, catalogue, channel, lexicon, unchanged, refused, revisions, channels } = result;
  return jsonLine({
    type: "answers",
    sheets,
    answers,
    catalogue,
    channel,
    lexicon,
    unchanged,
    refused,
    revisions,
    channels,
    dryRun,
  });
}
