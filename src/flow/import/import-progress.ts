/** How far an import is, on a terminal. */
import type { ByteSource } from "../../formats/byte-source.js";
import type { Io } from "../../io/io.js";

/** How far an import is, shown on a terminal while it runs. */
export interface ImportProgress {
  /** Takes how many bytes and rows of a file were read. */
  at(file: ByteSource, bytes: number, rows: number): void;
  end(): void;
}

const QUIET_MILLISECONDS = 1500;

const silent: ImportProgress = { at: () => undefined, end: () => undefined };

/** A bar over all files' bytes; it appears only when an import takes its time. */
export function importProgress(files: readonly ByteSource[], io: Io, quiet: boolean): ImportProgress {
  if (quiet || !io.isAttended) return silent;
  const total = files.reduce((sum, { size = 0 }) => sum + size, 0);
  const read = new Map<ByteSource, number>();
  const started = io.now().getTime();
  let shown: { at(bytes: number, rows: number): void; end(): void } | undefined;
  let loading = false;
  const show = async (): Promise<void> => {
    loading = true;
    const { SingleBar } = (await import("cli-progress")).default;
    const bar = new SingleBar({
      format: "{bar} {percentage}%  {rows} rows  {eta_formatted} left",
      clearOnComplete: true,
      hideCursor: true,
      stream: process.stderr,
    });
    bar.start(Math.max(1, total), 0, { rows: "0" });
    shown = {
      at: (bytes, rows) => bar.update(Math.min(bytes, total), { rows: rows.toLocaleString("en") }),
      end: () => bar.stop(),
    };
  };
  return {
    at(file, bytes, rows) {
      read.set(file, bytes);
      if (shown === undefined && !loading && io.now().getTime() - started > QUIET_MILLISECONDS) void show();
      shown?.at(
        [...read.values()].reduce((sum, one) => sum + one, 0),
        rows,
      );
    },
    end() {
      shown?.end();
      shown = undefined;
      loading = true;
    },
  };
}
