import pino, { type Logger } from "pino";
import type { Io } from "../io/io.js";

export type { Logger };

/** How a log is written: for people, or as lines of JSON. */
export const logForms = ["text", "json"] as const;

export type LogForm = (typeof logForms)[number];

const levels: Readonly<Record<number, string>> = {
  20: "debug",
  30: "info",
  40: "warning",
  50: "error",
  60: "error",
};

/** A line for people, of the record that programs read. */
function plainLine(line: string): string {
  const { time, level, msg, ...facts } = JSON.parse(line) as Readonly<Record<string, unknown>>;
  const shown = Object.entries(facts).map(
    ([name, value]) =>
      `${name}=${typeof value === "string" && !/[\s"=]/.test(value) ? value : JSON.stringify(value)}`,
  );
  const at = typeof time === "string" ? time.slice(0, 19).replace("T", " ") : "";
  return `${[at, (levels[Number(level)] ?? "").padEnd(7), String(msg), ...shown].join(" ")}\n`;
}

/** A log on standard error: JSON lines, or the same for people. */
export function logTo(io: Io, form: LogForm): Logger {
  return pino(
    {
      base: null,
      timestamp: () => `,"time":"${io.now().toISOString()}"`,
    },
    { write: (line: string) => io.err(form === "json" ? line : plainLine(line)) },
  );
}
