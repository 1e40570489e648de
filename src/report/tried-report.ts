import type { TriedFiles } from "../flow/exchange/try-files.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "./json.js";
import { styleFor } from "./style.js";
import { wrapText } from "./text-width.js";

/** What a channel says of files that it only looked at. */
export function triedLines({ label, answers }: TriedFiles, channel: string, io: Io): readonly string[] {
  const style = styleFor(io);
  const good = answers.filter(({ answer }) => answer.isGood).length;
  return [
    `${style.bold(label)} looked at ${answers.length} files without effect: ${good} would be taken whole`,
    ...answers.flatMap(({ name, answer }) =>
      answer.isGood
        ? []
        : [
            `  ${style.severity("error", "not whole")} ${name}`,
            ...wrapText(answer.says, Math.max(40, io.columns - 6)).map((line) => `      ${line}`),
          ],
    ),
    good === answers.length
      ? `To send them: lexicant submit ${channel}`
      : `Mend these, then: lexicant build ${channel}`,
  ];
}

/** What a channel said of files that it only looked at. */
export const triedJson = ({ answers }: TriedFiles, channel: string): string =>
  jsonLine({ type: "check-only", channel, files: answers.map(({ name, answer }) => ({ name, ...answer })) });
