import { command } from "./command.js";
import { limit } from "./options/option.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { HistoryEntry } from "../store/store.js";
import type { CommandFile } from "./command-file.js";
import { withCatalogue } from "../flow/open-catalogue.js";

const SHOWN = 30;

const columns = [
  { title: "revision", align: "right" },
  { title: "when" },
  { title: "what", flexible: true },
  { title: "layer" },
  { title: "added", align: "right" },
  { title: "changed", align: "right" },
  { title: "state" },
] as const;

/** `lexicant history`: every import, edit, sending and undo, latest first. */
export const history: CommandFile = command({
  args: [],
  options: {
    limit: limit(`at most so many revisions (${SHOWN} unless in JSON)`),
  },
  examples: [["history", "what was done, latest first"]],
  async run({ given, options, io }) {
    return withCatalogue(options.workspace, io, async ({ store }) => {
      const entries = await store.history();
      const limit = given.limit ?? (options.json ? Infinity : SHOWN);
      if (options.json)
        for (const entry of entries.slice(0, limit)) io.out(jsonLine({ type: "revision", ...entry }));
      else print(entries, limit, options.quiet, io);
      return 0;
    });
  },
});

function whatOf({ kind, source, file, undoes }: HistoryEntry): string {
  if (kind === "undo") return `undo of ${undoes.join(", ")}`;
  if (kind === "sent") return `sent to ${source} (${file})`;
  return kind === "edit" ? `edit of ${file}` : `import of ${file}`;
}

function print(entries: readonly HistoryEntry[], limit: number, quiet: boolean, io: Io): void {
  if (entries.length === 0) {
    io.out('Nothing has been imported yet; begin with "lexicant import FILE".\n');
    return;
  }
  const count = (value: number | undefined): string => value?.toLocaleString("en") ?? "";
  const rows = entries
    .slice(0, limit)
    .map((entry) => [
      String(entry.revision),
      entry.at.slice(0, 16).replace("T", " "),
      whatOf(entry),
      entry.layer,
      count(entry.counts.added),
      count(entry.counts.changed),
      entry.undoneBy === undefined ? "" : `undone by ${entry.undoneBy}`,
    ]);
  const [head = "", ...lines] = tableLines(columns, rows, io);
  io.out(`${styleFor(io).bold(head)}\n${lines.map((line) => `${line}\n`).join("")}`);
  const more = entries.length - rows.length;
  if (!quiet && more > 0) io.err(`${countText(more, "more", "more")} with --limit ${entries.length}\n`);
}
