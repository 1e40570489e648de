import type { FileProgress } from "../flow/exchange/ask-results.js";
import type { SubmitWatch } from "../flow/exchange/submit.js";
import type { Io } from "../io/io.js";
import { sizeText } from "./submit-report.js";

/** What a person sees while files are on their way: a line that is written over, on a terminal alone; waits are always told. */
export interface ExchangeScreen extends SubmitWatch {
  reading(files: readonly FileProgress[]): void;
  end(): void;
}

const EVERY_MILLISECONDS = 200;

export const exchangeProgress = (io: Io, quiet: boolean): ExchangeScreen => {
  const shows = !quiet && io.isAttended;
  let [last, hasLine] = [0, false];
  const line = (text: string, isUrgent = false): void => {
    const now = io.now().getTime();
    if (!shows || (!isUrgent && now - last < EVERY_MILLISECONDS)) return;
    last = now;
    hasLine = true;
    io.err(`\r\u001b[2K${text.slice(0, Math.max(20, io.columns - 1))}`);
  };
  const end = (): void => {
    if (hasLine) io.err("\r\u001b[2K");
    hasLine = false;
  };
  return {
    begins: ({ name }) => line(`sending ${name}`, true),
    of: ({ name, bytes }) => ({
      bytes: (sent) => line(`sending ${name}: ${sizeText(sent)} of ${sizeText(bytes)}`),
      waits(reason, milliseconds) {
        end();
        if (!quiet) io.err(`${name}: ${reason}; trying again in ${(milliseconds / 1000).toFixed(1)} s\n`);
      },
    }),
    reading(files) {
      const [first] = files;
      if (first?.progress.kind !== "reading") return;
      const { percent } = first.progress;
      line(
        `the channel is at work on ${first.file.name}${percent === undefined ? "" : ` (${Math.round(percent)}%)`}${files.length > 1 ? ` and ${files.length - 1} more` : ""}`,
        true,
      );
    },
    end,
  };
};
