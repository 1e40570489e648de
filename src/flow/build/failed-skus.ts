import { basename } from "node:path";
import type { ResultLayout } from "../../core/channel/definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { fold } from "../../core/values/text.js";
import { fileSource } from "../../formats/byte-source.js";
import { openTable } from "../../formats/open-table.js";
import type { TableOptions } from "../../formats/kinds/file-kind.js";
import type { ChannelLedger } from "../../store/ledger.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";

/** Where a report's records and their columns stand: `/hall/lot/number` is the column number of the record hall/lot. */
const placesIn = ({ format, ref, state }: ResultLayout) => {
  if (format !== "xml") return { records: undefined, ref, state };
  const parts = ref.split("/").filter(Boolean);
  const records = parts.slice(0, -1).join("/");
  const within = (path: string): string => path.replace(/^\//, "").slice(records.length + 1);
  return { records, ref: within(ref), state: within(state) };
};

/** References that a channel's result report does not count as accepted. */
const refusedIn = async (path: string, results: ResultLayout): Promise<ReadonlySet<string>> => {
  const places = placesIn(results);
  const source = await fileSource(path, basename(path));
  const options: TableOptions = {
    format: results.format === "tsv" ? "csv" : (results.format as TableOptions["format"]),
    records: places.records,
  };
  const table = await openTable(source, options);
  const [ref, state] = [table.column(places.ref), table.column(places.state)];
  if (ref === undefined || state === undefined)
    throw new Refusal([
      diagnostic(
        "unknown-column",
        { column: ref === undefined ? places.ref : places.state, nearest: [] },
        { place: { file: table.file, row: table.headerRow } },
      ),
    ]);
  const accepted = new Set(results.accepted.map(fold));
  const refused = new Set<string>();
  for await (const batch of table.batches)
    for (const { cells } of batch) {
      const reference = (cells[ref] ?? "").trim();
      if (reference !== "" && !accepted.has(fold(cells[state] ?? ""))) refused.add(reference);
    }
  await source.close();
  return refused;
};

/** The SKUs that a result report refused, by the references that the channel was sent. */
export const failedSkus = async (
  path: string,
  { setup }: WorkspaceChannel,
  ledger: ChannelLedger,
): Promise<ReadonlySet<string>> => {
  const { results, identifiedBy, label } = setup.definition;
  if (results === undefined)
    throw new Refusal([
      diagnostic("unknown-option", {
        reason: `--failed: ${label}'s definition does not say how its reports are read`,
      }),
    ]);
  const refused = await refusedIn(path, results);
  const skus = new Set(refused);
  for (const state of ["built", "sent"] as const)
    for await (const batch of ledger.entries(state))
      for (const { sku, listing } of batch)
        if (refused.has(listing.values[identifiedBy] ?? "")) skus.add(sku);
  return skus;
};
