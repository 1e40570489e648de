import picocolors from "picocolors";
import type { Severity } from "../core/diagnostics/diagnostic.js";
import type { Io } from "../io/io.js";

export interface Style {
  bold(text: string): string;
  dim(text: string): string;
  good(text: string): string;
  severity(severity: Severity, text: string): string;
}

export const styleFor = ({ colors }: Pick<Io, "colors">): Style => {
  const paint = picocolors.createColors(colors);
  const bySeverity = { error: paint.red, warning: paint.yellow, advice: paint.cyan };
  return {
    bold: paint.bold,
    dim: paint.dim,
    good: paint.green,
    severity: (severity, text) => bySeverity[severity](text),
  };
};
