/** Files on their way, on a terminal. */
import type { FileProgress } from "../flow/exchange/ask-results.js";
import type { SubmitWatch } from "../flow/exchange/submit.js";
import type { Io } from "../io/io.js";

/** What a person sees while files are on their way: a bar, on a terminal alone, where it takes its time; waits are always told. */
export interface ExchangeScreen extends SubmitWatch {
  reading(files: readonly FileProgress[]): void;
  end(): void;
}

const QUIET_MILLISECONDS = 1000;

interface Bar {
  update(share: number, facts: { readonly what: string }): void;
  stop(): void;
}

/** Begins to show. */
export function exchangeProgress(io: Io, quiet: boolean): ExchangeScreen {
  const shows = !quiet && io.isAttended;
  const begun = io.now().getTime();
  let bar: Bar | undefined;
  let isLoading = false;
  const load = async (): Promise<void> => {
    isLoading = true;
    const { SingleBar } = (await import("cli-progress")).default;
    const own = new SingleBar({
      format: "{bar} {percentage}%  {what}",
      clearOnComplete: true,
      hideCursor: true,
      stream: process.stderr,
    });
    own.start(100, 0, { what: "" });
    bar = own;
    isLoading = false;
  };
  const at = (share: number, what: string): void => {
    if (!shows || io.now().getTime() - begun < QUIET_MILLISECONDS) return;
    if (bar === undefined && !isLoading) void load();
    bar?.update(Math.round(share), { what });
  };
  const end = (): void => {
    bar?.stop();
    bar = undefined;
  };
  return {
    begins: ({ name }) => at(0, name),
    of: ({ name, bytes }) => ({
      bytes: (sent) => at(bytes === 0 ? 100 : Math.min(100, (sent / bytes) * 100), `sending ${name}`),
      waits(reason, milliseconds) {
        end();
        if (!quiet) io.err(`${name}: ${reason}; trying again in ${(milliseconds / 1000).toFixed(1)} s\n`);
      },
    }),
    reading(files) {
      const shares = files.flatMap(({ progress }) =>
        progress.kind === "reading" ? [progress.percent ?? 0] : [],
      );
      const share = shares.reduce((sum, one) => sum + one, 0) / Math.max(1, shares.length);
      at(
        share,
        `the channel is at work on ${files.length === 1 ? (files[0]?.file.name ?? "") : `${files.length} files`}`,
      );
    },
    end,
  };
}
