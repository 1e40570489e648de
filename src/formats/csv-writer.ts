/** A cell that a spreadsheet would run as a formula gets an apostrophe before it, which cleaning takes away again. */
export const neutral = (text: string): string => (/^[=+@]|^-(?![\d.,]+$)/.test(text) ? `'${text}` : text);

/** One CSV line (RFC 4180), safe to open in a spreadsheet. */
export const csvLine = (cells: readonly string[]): string => lineAsItIs(cells.map(neutral));

/** One line of cells that are a person's own already, and stay as they wrote them. */
export function lineAsItIs(cells: readonly string[], delimiter = ",", lineEnd = "\n"): string {
  const asks = (cell: string): boolean => /["\n\r]/.test(cell) || cell.includes(delimiter);
  return (
    cells.map((cell) => (asks(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join(delimiter) + lineEnd
  );
}
