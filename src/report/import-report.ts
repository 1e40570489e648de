/** What an import did, for people. */
import { shownItems } from "../core/catalogue/list-text.js";
import type { SourceProposal } from "../core/catalogue/proposal/source-proposal.js";
import { causeLines } from "./findings.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { styleFor } from "./style.js";
import { tableLines } from "./table.js";
import { wrapText } from "./text-width.js";
import type { Source } from "../workspace/source-files.js";
import { toldMarks } from "../workspace/source-reading.js";
import type { FileResult, ImportResult, OpenProposal } from "../flow/import/import-files.js";

const number = (count: number): string => count.toLocaleString("en");

function shown(text: string): string {
  const line = shownItems(text, ", ").replace(/\s+/g, " ");
  return line.length > 48 ? `${line.slice(0, 48)}…` : line === "" ? "nothing" : line;
}

/** What an import did, or would do: the account of rows first, then what was found, then what to do. */
export function importReport(
  { files, causes, beyond, proposed }: ImportResult,
  io: Io,
  { dryRun, dropVanished }: { readonly dryRun: boolean; readonly dropVanished: boolean },
): readonly string[] {
  return [
    ...proposed.map(({ source, file, isNew }) =>
      isNew
        ? `Written: sources/${source.name}.yaml; look it over, then: lexicant import ${file}`
        : `${file} is read by sources/${source.name}.yaml already; nothing was written.`,
    ),
    ...files.flatMap((file) => [
      ...fileLines(file, io, dryRun, dropVanished),
      ...(files.length > 1 ? causeLines(file.causes.causes(), io) : []),
    ]),
    // What was found in one file's rows stands with what showed behind them; of several, below its own file.
    ...causeLines((files.length > 1 ? beyond : causes).causes(), io),
    ...(dryRun ? [styleFor(io).bold("Nothing was changed: this was a dry run.")] : []),
  ];
}

function fileLines(
  {
    file,
    columns,
    counts,
    told,
    source,
    from,
    revision,
    channels,
    vanished,
    replaced,
    rejectedFile,
    changes,
    added,
  }: FileResult,
  io: Io,
  dryRun: boolean,
  dropVanished: boolean,
): readonly string[] {
  const style = styleFor(io);
  const how =
    from.kind === "sheet"
      ? `read as a sheet of the catalogue's own attributes; what differs goes to the layer ${source.settings.layer}`
      : from.kind === "proposal"
        ? `read as proposed${dryRun ? "" : `, and kept so in sources/${source.name}.yaml`}, into the layer ${source.settings.layer}`
        : `read by sources/${source.name}.yaml into the layer ${source.settings.layer}`;
  const rows = [
    countText(counts.rows, "row"),
    ...(counts.joined > 0 ? [`${number(counts.joined)} joined to other rows`] : []),
    ...(counts.skipped > 0 ? [`${number(counts.skipped)} not taken by the source`] : []),
  ].join(", ");
  const landed =
    revision === undefined ? "; no revision, since nothing is new" : dryRun ? "" : `; revision ${revision}`;
  const about = `${file}: ${rows}, ${countText(columns, "column")}, ${told.join(", ")}; ${how}`;
  const [head = "", ...more] = wrapText(about, Math.max(40, io.columns - 2));
  return [
    head.startsWith(file) ? style.bold(file) + head.slice(file.length) : head,
    ...more.map((line) => `  ${line}`),
    `  ${number(counts.read)} read = ${number(counts.added)} added + ${number(counts.changed)} changed + ${number(counts.unchanged)} unchanged + ${number(counts.rejected)} rejected${landed}`,
    ...channels.map(
      ({ channel, layer, changed, unchanged, revision: own }) =>
        `  for ${channel} alone, in the layer ${layer}: ${number(changed)} changed + ${number(unchanged)} unchanged${own === undefined || dryRun ? "" : `; revision ${own}`}`,
    ),
    ...(rejectedFile === undefined || dryRun
      ? []
      : [`  rejected rows with their reasons: ${rejectedFile} (correct them there and import that file)`]),
    ...(replaced && vanished > 0
      ? [
          `  ${countText(vanished, "product")} of the layer ${vanished === 1 ? "is" : "are"} not in the new delivery${dropVanished ? ` and ${vanished === 1 ? "was" : "were"} taken back` : "; they stay (--drop-vanished takes them back)"}`,
        ]
      : []),
    ...(dryRun && added.length > 0
      ? [
          `  would be added: ${added.join(", ")}${counts.added > added.length ? `, and ${number(counts.added - added.length)} more` : ""}`,
        ]
      : []),
    ...changes.map(
      ({ sku, channel, changes: values }) =>
        `  would change ${sku}${channel === undefined ? "" : ` for ${channel}`}: ${values
          .slice(0, 4)
          .map(({ attribute, before, after }) => `${attribute} ${shown(before)} → ${shown(after)}`)
          .join("; ")}${values.length > 4 ? `; ${values.length - 4} more` : ""}`,
    ),
  ];
}

const sureness = (confidence: number): string =>
  confidence >= 0.85 ? "sure" : confidence >= 0.6 ? "likely" : "a guess";

const kindNames = { money: "price", number: "number", date: "day", "yes-no": "yes or no" } as const;

const columns = [
  { title: "", align: "right" },
  { title: "attribute" },
  { title: "read from", flexible: true },
  { title: "how sure" },
  { title: "samples", flexible: true },
] as const;

const PREVIEWED = 12;

/** What the first records become, so that a person sees whether it is right. */
function previewLines({ preview }: Pick<OpenProposal, "preview">, source: Source, io: Io): readonly string[] {
  const records = preview(source);
  if (records.length === 0) return [];
  const width = Math.max(40, io.columns - 2);
  return [
    styleFor(io).bold("The first records become:"),
    ...records.flatMap(({ row, kind, values }) => {
      const told = values
        .slice(0, PREVIEWED)
        .map(({ attribute, text }) => `${attribute}: ${shown(text)}`)
        .join("; ");
      const more = values.length > PREVIEWED ? `; ${values.length - PREVIEWED} more` : "";
      const [first = "", ...rest] = wrapText(
        `${row}${kind === "group" ? " (a group)" : ""}  ${told}${more}`,
        width,
      );
      return [`  ${first}`, ...rest.map((line) => `     ${line}`)];
    }),
  ];
}

/** A proposed source as a table: what each column would become, how sure that is, and samples to judge by. */
export function proposalLines(
  proposal: SourceProposal,
  source: Source,
  open: Pick<OpenProposal, "table" | "preview">,
  io: Io,
): readonly string[] {
  const style = styleFor(io);
  const { table } = open;
  const rows = proposal.attributes.map(
    ({ attribute, expression, confidence, known, ownKind, samples }, at) => [
      String(at + 1),
      attribute,
      expression,
      known ? sureness(confidence) : ownKind === undefined ? "your own" : `your own, a ${kindNames[ownKind]}`,
      samples.map((sample) => shownItems(sample, ", ").replace(/\s+/g, " ").slice(0, 40)).join(" | "),
    ],
  );
  const [head = "", ...lines] = tableLines(columns, rows, io);
  const { decimal_mark: decimalMark, date_order: dateOrder } = source.settings;
  const marks = toldMarks({ decimalMark, dateOrder });
  return [
    `${style.bold(table.file)} has no source file yet. Proposed for sources/${source.name}.yaml (${[...table.told(), ...marks].join(", ")}):`,
    style.bold(head),
    ...lines,
    ...matchingNotes(proposal, io),
    ...readingNotes(proposal).map((note) => `  ${note}`),
    ...(proposal.keys.length === 0 ? [] : previewLines(open, source, io)),
  ];
}

/** By what rows find products; what would add products is said where a list looks like one that updates. */
function matchingNotes({ keys, mode, matched, nearKeys }: SourceProposal, io: Io): readonly string[] {
  const style = styleFor(io);
  if (keys.length === 0) {
    const near = nearKeys.map(({ column, because }) => `"${column}" ${nearly[because]}`).join(", ");
    return [
      style.severity(
        "warning",
        `  no column can tell products apart${near === "" ? "" : `; nearest: ${near}`}`,
      ),
    ];
  }
  const known =
    matched === undefined
      ? ""
      : matched === 0
        ? "; the catalogue knows none of those looked at"
        : `; the catalogue knows ${Math.round(matched * 100)}% of those looked at`;
  const found = `  products are matched by ${keys.join(" or ")}${mode === "update" ? ", and only known ones are updated" : ""}${known}`;
  const isDoubtful = matched !== undefined && matched < 0.3 && mode === "both";
  if (!isDoubtful) return [found];
  return [
    style.severity(
      "warning",
      `${found}: ${matched === 0 ? "all" : "the others"} would be added as new products`,
    ),
  ];
}

const nearly = { repeats: "comes again", blanks: "is blank in some rows", long: "holds texts" } as const;

function readingNotes(proposal: SourceProposal): readonly string[] {
  const { groups, furtherRows, rows, options, pairs, units, listSeparator } = proposal;
  const { currency, currencies, leftOut, channels = [] } = proposal;
  return [
    ...(currency === undefined ? [] : [`prices are in ${[currency, ...currencies].join(" or ")}`]),
    ...(leftOut.length === 0
      ? []
      : [`not read, since the catalogue's own names stand: ${leftOut.join(", ")}`]),
    ...(groups.layout === "first-row"
      ? [`a group's first row carries ${groups.shared.join(", ")} for all`]
      : []),
    ...(groups.layout === "own-row" ? [`a group's own row is told by ${groups.when}`] : []),
    ...(furtherRows.length > 0 ? [`further rows of a product add ${furtherRows.join(", ")}`] : []),
    ...(rows.languageFrom === undefined ? [] : [`the language of a row is that of ${rows.languageFrom}`]),
    ...(rows.currencyFrom === undefined ? [] : [`the currency of a row is that of ${rows.currencyFrom}`]),
    ...(rows.gathered.length === 0
      ? []
      : [
          `rows of one product add to ${rows.gathered.join(", ")}${rows.orderBy === undefined ? "" : `, in the order of ${rows.orderBy}`}`,
        ]),
    ...(rows.apart.length === 0
      ? []
      : [`not read, since rows of one product differ there: ${rows.apart.join(", ")}`]),
    ...channels.map(
      ({ channel, attributes }) =>
        `for ${channel} alone: ${attributes.map(({ attribute, expression }) => `${attribute} from ${expression}`).join(", ")}`,
    ),
    ...[...options, ...pairs].map(({ name, value }) => `the values of ${value} are named by ${name}`),
    ...(Object.keys(units).length > 0
      ? [
          `bare numbers: ${Object.entries(units)
            .map(([attribute, unit]) => `${attribute} in ${unit}`)
            .join(", ")}`,
        ]
      : []),
    ...(listSeparator === undefined
      ? []
      : [`several values of a cell stand between ${JSON.stringify(listSeparator)}`]),
  ];
}
