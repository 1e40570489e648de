import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { withCatalogue } from "../flow/open-catalogue.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import { tableLines } from "../report/table.js";
import type { HistoryEntry } from "../store/store.js";
import { loadSource, sourceNames, type Source } from "../workspace/source-files.js";
import { expressionAt } from "../workspace/yaml-file.js";
import type { CommandFile } from "./command-file.js";
import { command } from "./command.js";

const columns = [
  { title: "source" },
  { title: "layer" },
  { title: "reads", flexible: true },
  { title: "key" },
  { title: "last file", flexible: true },
  { title: "when" },
] as const;

/** `lexicant sources [NAME]`: how files are read, from which files, and when last. */
export const sources: CommandFile = command({
  args: [["[words...]", "show NAME: one source, line by line"]],
  options: {},
  examples: [
    ["sources", "how files are read, and when last"],
    ["sources show shop-export", "one of them, column by column"],
  ],
  async run({ args, options, io }) {
    const [first, second] = args;
    if (args.length > 2 || (args.length === 2 && first !== "show"))
      throw new Refusal([
        diagnostic("unknown-option", { reason: 'say "lexicant sources", or "lexicant sources show NAME"' }),
      ]);
    const name = first === "show" ? second : first;
    return withCatalogue(options.workspace, io, async ({ workspace, store }) => {
      const history = await store.history();
      const names = name === undefined ? await sourceNames(workspace) : [name];
      const found = await Promise.all(names.map((one) => loadSource(workspace, one)));
      if (options.json)
        for (const source of found) io.out(jsonLine(json(source, importsBy(source, history))));
      else if (name !== undefined && found[0] !== undefined)
        io.out(`${oneLines(found[0], importsBy(found[0], history), io).join("\n")}\n`);
      else if (found.length === 0)
        io.out('No source yet: "lexicant import FILE" proposes one for a file that nothing describes.\n');
      else {
        const [head = "", ...lines] = tableLines(
          columns,
          found.map((one) => cells(one, importsBy(one, history))),
          io,
        );
        io.out(`${styleFor(io).bold(head)}\n${lines.map((line) => `${line}\n`).join("")}`);
        if (!options.quiet) io.err("How one of them reads: lexicant sources show NAME\n");
      }
      return 0;
    });
  },
});

/** The imports that a source did and that hold, latest first; a file that goes to single channels as well came once. */
function importsBy({ name, settings }: Source, history: readonly HistoryEntry[]): readonly HistoryEntry[] {
  const own = history.filter(
    ({ source, kind, undoneBy }) => source === name && kind === "import" && undoneBy === undefined,
  );
  const files = new Map<string, HistoryEntry>();
  for (const entry of own) {
    const key = `${entry.act}\u0000${entry.file}`;
    if (!files.has(key) || entry.layer === settings.layer) files.set(key, entry);
  }
  return [...files.values()];
}

const keysOf = ({ settings }: Source): string => (settings.key ?? ["sku"]).join(" or ");

const filesOf = ({ name, settings }: Source): string => (settings.files ?? [`${name}.*`]).join(", ");

const cells = (source: Source, [last]: readonly HistoryEntry[]): readonly string[] => [
  source.name,
  source.settings.layer,
  filesOf(source),
  keysOf(source),
  last?.file ?? "",
  last?.at.slice(0, 16).replace("T", " ") ?? "never",
];

const readingColumns = [{ title: "attribute" }, { title: "read from", flexible: true }] as const;

const readingOf = ({ settings, yaml }: Source): readonly (readonly [string, string])[] => [
  ...Object.keys(settings.columns).map(
    (attribute) => [attribute, expressionAt(yaml, ["columns", attribute])?.text ?? ""] as const,
  ),
  ...Object.entries(settings.channels ?? {}).flatMap(([channel, own]) =>
    Object.keys(own).map(
      (attribute) =>
        [
          `${attribute} for ${channel}`,
          expressionAt(yaml, ["channels", channel, attribute])?.text ?? "",
        ] as const,
    ),
  ),
  ...(settings.options ?? []).map(({ name, value }) => [`named by ${name}`, value] as const),
  ...(settings.pairs ?? []).map(({ name, value }) => [`named by ${name}`, value] as const),
];

const SHOWN = 5;

function oneLines(source: Source, imports: readonly HistoryEntry[], io: Io): readonly string[] {
  const { settings, name } = source;
  const style = styleFor(io);
  const rows = readingOf(source).map(([attribute, from]) => [attribute, from]);
  const [head = "", ...lines] = tableLines(readingColumns, rows, io);
  const mode =
    settings.mode === "update"
      ? ", and only known ones are updated"
      : settings.mode === "add"
        ? ", and only new ones are added"
        : "";
  return [
    `${style.bold(`sources/${name}.yaml`)} reads ${filesOf(source)} into the layer ${settings.layer}; products are matched by ${keysOf(source)}${mode}`,
    style.bold(head),
    ...lines,
    ...(imports.length === 0
      ? ["It has read no file yet."]
      : [
          imports.length === 1
            ? "Read once:"
            : `Read ${imports.length.toLocaleString("en")} times, latest first:`,
          ...imports
            .slice(0, SHOWN)
            .map(
              ({ at, file, revision, counts }) =>
                `  ${at.slice(0, 16).replace("T", " ")}  revision ${revision}  ${file}  (${(counts.added ?? 0).toLocaleString("en")} added, ${(counts.changed ?? 0).toLocaleString("en")} changed)`,
            ),
          `To read ${imports.length === 1 ? "it" : "them"} once more: lexicant import --again ${name}`,
        ]),
  ];
}

const json = (source: Source, imports: readonly HistoryEntry[]) => ({
  type: "source",
  source: source.name,
  layer: source.settings.layer,
  files: source.settings.files ?? [],
  key: source.settings.key ?? ["sku"],
  mode: source.settings.mode ?? "both",
  columns: Object.fromEntries(readingOf(source)),
  imports: imports.map(({ revision, file, at, counts }) => ({ revision, file, at, ...counts })),
});
