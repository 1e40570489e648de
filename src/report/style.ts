import picocolors from "picocolors";
import type { Severity } from "../core/diagnostics/diagnostic.js";
import type { Io } from "../io/io.js";

/** How texts are set off on a terminal. */
export interface Style {
  bold(text: string): string;
  dim(text: string): string;
  good(text: string): string;
  severity(severity: Severity, text: string): string;
}

/** The styles of a world with or without colours. */
export function styleFor({ colors }: Pick<Io, "colors">): Style {
  const paint = picocolors.createColors(colors);
  const bySeverity = { error: paint.red, warning: paint.yellow, advice: paint.cyan };
  return {
    bold: paint.bold,
    dim: paint.dim,
    good: paint.green,
    severity: (severity, text) => bySeverity[severity](text),
  };
}
