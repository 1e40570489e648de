/** Where findings stand in files: lines for editors and code hosts. */
import { existsSync, readFileSync, statSync } from "node:fs";
import type { Place } from "../../core/diagnostics/place.js";
import type { Workspace } from "../../workspace/workspace.js";

const READ_LIMIT = 256 << 20;
const QUOTE = 34;
const LINE_FEED = 10;

/** The line that each row of a CSV file begins on: a quoted cell may span lines. Row 1 is the header. */
export function linesOfRows(bytes: Uint8Array): Uint32Array {
  let lines = new Uint32Array(1024);
  let [row, line, quoted, atStart] = [0, 1, false, true];
  for (const byte of bytes) {
    if (atStart) {
      if (row === lines.length) {
        const longer = new Uint32Array(row * 2);
        longer.set(lines);
        lines = longer;
      }
      lines[row++] = line;
      atStart = false;
    }
    if (byte === QUOTE) quoted = !quoted;
    else if (byte === LINE_FEED) {
      line++;
      atStart = !quoted;
    }
  }
  return lines.subarray(0, row);
}

/** A file's path from the workspace's folder, and the line that a row begins on; undefined where it is not to be found. */
export type Locator = (place: Place) => { readonly uri: string; readonly line: number } | undefined;

/** Finds the places of findings among the workspace's files; data files lie in `data/` as long as they are kept. */
export function locatorIn(workspace: Workspace): Locator {
  const paths = new Map<string, string | undefined>();
  const rows = new Map<string, Uint32Array>();
  const pathOf = (file: string): string | undefined => {
    if (!paths.has(file))
      paths.set(
        file,
        [file, `data/${file}`].find((path) => !path.startsWith("..") && existsSync(workspace.path(path))),
      );
    return paths.get(file);
  };
  const rowsOf = (path: string): Uint32Array => {
    const known = rows.get(path);
    if (known !== undefined) return known;
    const full = workspace.path(path);
    const stats = statSync(full);
    const isText = /\.(?:csv|tsv|txt|tab)$/i.test(path) && stats.isFile() && stats.size < READ_LIMIT;
    const found = isText ? linesOfRows(readFileSync(full)) : new Uint32Array();
    rows.set(path, found);
    return found;
  };
  return ({ file, line, row }: Place) => {
    const uri = pathOf(file);
    if (uri === undefined) return undefined;
    if (line !== undefined || row === undefined) return { uri, line: line ?? 1 };
    return { uri, line: rowsOf(uri)[row - 1] ?? row };
  };
}
