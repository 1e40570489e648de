/** A cell that a spreadsheet would run as a formula gets an apostrophe before it, which cleaning takes away again. */
const neutral = (text: string): string => (/^[=+@]|^-(?![\d.,]+$)/.test(text) ? `'${text}` : text);

/** One CSV line (RFC 4180), safe to open in a spreadsheet. */
export const csvLine = (cells: readonly string[]): string =>
  `${cells
    .map(neutral)
    .map((cell) => (/[",\n\r]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell))
    .join(",")}\n`;
