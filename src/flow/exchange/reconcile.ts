import { rm } from "node:fs/promises";
import { groupFieldOf } from "../../core/channel/group-model.js";
import { factsOf } from "../../core/listing/as-sent.js";
import { referenceOf } from "../../core/listing/live-reference.js";
import { keptListing } from "../../core/listing/live-text.js";
import type { LiveListing } from "../../core/listing/live-listing.js";
import { rowsOf, type FileRow } from "../../core/listing/shape/file-family.js";
import { shape } from "../../core/listing/shape/shape.js";
import { textRegister } from "../../core/catalogue/beside/text-register.js";
import { textIn } from "../../core/purpose/purpose.js";
import type { LedgerEntry, LedgerNotes } from "../../store/ledger.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { exchangeOf } from "./account.js";
import { runChannels } from "../run-channels.js";
import { liveFields, type LiveCells, type LiveField } from "./compare-live.js";
import { liveLayoutOf, liveRows } from "./read-live.js";

/** What the export and we do not agree on. */
export type Disagreement =
  /** The channel shows what the ledger does not know. */
  | { readonly kind: "not ours"; readonly sku: string; readonly id: string }
  /** The ledger says that it is there, and the channel does not show it. */
  | { readonly kind: "not live"; readonly sku: string }
  /** It was ended, and the channel still shows it. */
  | { readonly kind: "still live"; readonly sku: string; readonly id: string }
  /** The channel shows another value than it accepted, and than we would send now. */
  | {
      readonly kind: "differs";
      readonly sku: string;
      readonly field: string;
      readonly live: string;
      readonly sent: string;
      readonly now: string;
    }
  /** The channel shows what it accepted, and the price or stock is another one now. */
  | {
      readonly kind: "stale";
      readonly sku: string;
      readonly field: string;
      readonly live: string;
      readonly sent: string;
      readonly now: string;
    };

export interface Reconciled {
  /** Listings in the export, and of those how many are as they should be. */
  readonly live: number;
  readonly agreeing: number;
  /** Other fields that would be sent otherwise now. */
  readonly waiting: number;
  readonly counts: Readonly<Record<Disagreement["kind"], number>>;
  /** SKUs that a file of changes mends, and those that only a whole listing does. */
  readonly toAmend: ReadonlySet<string>;
  readonly toSend: ReadonlySet<string>;
  readonly toEnd: ReadonlySet<string>;
  /** Ids that the channel gave, by SKU. */
  readonly ids: ReadonlyMap<string, string>;
}

/** A group's own row has a name of its own among references. */
const keyOf = (reference: string, isGroup: boolean): string => (isGroup ? `group ${reference}` : reference);

/** Keeps an export by the channel's own references. Gives how many listings it holds. */
const stageExport = async (
  path: string,
  channel: WorkspaceChannel,
  notes: LedgerNotes,
): Promise<{ readonly listings: number; readonly ids: ReadonlyMap<string, string> }> => {
  const { definition } = channel.setup;
  const { live } = exchangeOf(channel, "its export of live listings is read");
  if (live === undefined) throw new Error("asked for an export that the definition does not know");
  const ids = new Map<string, string>();
  let [listings, family] = [0, 0];
  const seen = textRegister();
  for await (const batch of liveRows(path, definition, live))
    for (const { reference, isGroup, id, cells } of batch) {
      const sku = keyOf(reference, isGroup);
      // A listing that is shown twice is one of ours, and the other is told by the channel's own id.
      if (seen.has(sku)) continue;
      seen.add(sku, 1);
      if (!isGroup) listings++;
      if (id !== "") ids.set(sku, id);
      const listing: LiveListing = { ...empty, ...(isGroup ? { isGroup: true } : {}), values: cells };
      await notes.note(family++, [keptListing(sku, listing)]);
    }
  return { listings, ids };
};

const empty: LiveListing = {
  ...{
    name: undefined,
    gtin: undefined,
    price: undefined,
    category: "",
    axes: "",
    group: undefined,
    values: {},
  },
};

interface Pass {
  readonly fields: readonly LiveField[];
  /** Codes of the fields that the export has columns for. */
  readonly covered: ReadonlySet<string>;
  readonly channel: WorkspaceChannel;
  readonly notes: LedgerNotes;
  tell(one: Disagreement): void;
}

/** What one listing comes to: what is told of it, and how the channel has it, with what it alters by itself put right. */
const compared = (
  pass: Pass,
  sku: string,
  cells: LiveCells,
  sent: LiveListing["values"] | undefined,
  now: LiveListing["values"] | undefined,
): {
  readonly values: LiveListing["values"];
  readonly differs: number;
  readonly waiting: number;
  readonly isBlank: boolean;
} => {
  // What the export has no column for is as it was sent, as far as anybody knows.
  const values: Record<string, string> = Object.fromEntries(
    Object.entries(sent ?? now ?? {}).filter(([code]) => !pass.covered.has(code)),
  );
  let [differs, waiting, isBlank] = [0, 0, false];
  for (const one of pass.fields) {
    const { field, isOffer } = one;
    const expected = sent ?? now ?? {};
    const [was, wanted] = [expected[field.code] ?? "", (now ?? expected)[field.code] ?? ""];
    const isAsSent = one.isSame(cells, expected);
    const isAsNow = now !== undefined && (was === wanted ? isAsSent : one.isSame(cells, now));
    const live = isAsSent ? was : isAsNow ? wanted : one.read(cells, expected);
    if (live !== "") values[field.code] = live;
    if (isAsNow || (isAsSent && was === wanted)) continue;
    const told = { sku, field: field.code, live, sent: sent?.[field.code] ?? "", now: wanted };
    if (!isAsSent) {
      differs++;
      if (wanted === "") isBlank = true;
      pass.tell({ kind: "differs", ...told });
    } else if (isOffer && now !== undefined) {
      differs++;
      pass.tell({ kind: "stale", ...told });
    } else waiting++;
  }
  return { values, differs, waiting, isBlank };
};

const valuesOf = (row: FileRow, { setup }: WorkspaceChannel): LiveListing["values"] => {
  const values: Record<string, string> = {};
  for (const field of setup.definition.fields) {
    const text = textIn(row, field);
    if (text !== "") values[field.code] = text;
  }
  return values;
};

/**
 * Holds an export of live listings against what the channel accepted and what it would be sent now, product by product.
 * `tell` is given each disagreement. Nothing but the export itself is noted.
 */
export const reconcileChannel = async (
  path: string,
  channel: WorkspaceChannel,
  store: Store,
  at: string,
  tell: (one: Disagreement) => void,
): Promise<Reconciled> => {
  const { setup } = channel;
  const { definition, channel: name } = setup;
  const ledger = store.ledgerOf(name);
  const { live } = exchangeOf(channel, "its export of live listings is read");
  if (live === undefined) throw new Error("asked for an export that the definition does not know");
  const came = await ledger.beginExport("came", at);
  const { listings, ids: idsByReference } = await stageExport(path, channel, came);
  await came.commit([]);
  const counts = { "not ours": 0, "not live": 0, "still live": 0, differs: 0, stale: 0 };
  const [toAmend, toSend, toEnd] = [new Set<string>(), new Set<string>(), new Set<string>()];
  const ids = new Map<string, string>();
  let [agreeing, waiting] = [0, 0];
  const notes = await ledger.beginExport("live", at);
  const fields = liveFields(definition, liveLayoutOf(definition), live);
  const pass: Pass = {
    ...{ channel, notes, fields },
    covered: new Set(fields.map(({ field }) => field.code)),
    tell(one) {
      counts[one.kind]++;
      tell(one);
    },
  };
  const handled = textRegister();
  const met = textRegister();
  const groupField = groupFieldOf(definition.groups);
  const keyFor = (sku: string, values: LiveListing["values"], isGroup: boolean): string =>
    keyOf(referenceOf(sku, { values, ...(isGroup ? { isGroup } : {}) }, definition), isGroup);
  /** One row that we know, by its SKU. */
  const look = async (
    family: number,
    sku: string,
    base: LiveListing,
    isGroup: boolean,
    cameRow: LedgerEntry | undefined,
    sent: LedgerEntry | undefined,
    now: LiveListing["values"] | undefined,
  ): Promise<void> => {
    handled.add(sku, 1);
    const isSent = sent !== undefined && sent.listing.withdrawn !== true;
    if (cameRow === undefined) {
      if (!isSent || isGroup) return;
      pass.tell({ kind: "not live", sku });
      toSend.add(sku);
      return;
    }
    met.add(cameRow.sku, 1);
    const id = idsByReference.get(cameRow.sku) ?? "";
    if (id !== "" && !isGroup) ids.set(sku, id);
    if (sent?.listing.withdrawn === true && now === undefined) {
      if (isGroup) return;
      pass.tell({ kind: "still live", sku, id });
      toEnd.add(sku);
    }
    const found = compared(pass, sku, cameRow.listing.values, isSent ? sent.listing.values : undefined, now);
    waiting += found.waiting;
    if (found.differs === 0 && !isGroup) agreeing++;
    if (found.differs > 0) (found.isBlank ? toSend : toAmend).add(sku);
    const kept: Record<string, string> = { ...found.values };
    // What tells the listing and its group is as we know it.
    for (const code of [definition.identifiedBy, groupField])
      if (code !== undefined && base.values[code] !== undefined) kept[code] = base.values[code];
    const price =
      definition.roles.price === undefined ? undefined : found.values[definition.roles.price.code];
    await notes.note(family, [
      keptListing(sku, {
        ...base,
        ...(price === undefined ? {} : { price }),
        ...(isGroup ? { isGroup: true } : {}),
        values: kept,
      }),
    ]);
  };
  await runChannels(store, [
    {
      channel,
      take: () => undefined,
      async family(outcomes, family) {
        const rows = shape(outcomes, family, setup).flatMap(rowsOf);
        const sent = await ledger.of({ skus: rows.map(({ sku }) => sku) });
        const now = rows.map((row) => valuesOf(row, channel));
        const keys = rows.map((row, index) => keyFor(row.sku, now[index] ?? {}, row.kind === "group"));
        const shown = await ledger.of({ skus: keys, state: "came" });
        for (const [index, row] of rows.entries()) {
          const { listing, sku } = row;
          if (listing === undefined) continue;
          const base: LiveListing = {
            ...empty,
            ...namesOf(factsOf(listing)),
            group: listing.product.group,
            values: now[index] ?? {},
          };
          await look(
            family.number,
            ...([sku, base, row.kind === "group"] as const),
            ...([shown.get(keys[index] ?? ""), sent.get(sku), now[index]] as const),
          );
        }
      },
    },
  ]);
  // What the ledger knows and no ready listing speaks of any more: held ones, and those that left.
  let further = 0;
  for await (const batch of ledger.entries("sent")) {
    const rest = batch.filter(({ sku }) => !handled.has(sku));
    const keys = rest.map(({ sku, listing }) => keyFor(sku, listing.values, listing.isGroup === true));
    const shown = await ledger.of({ skus: keys, state: "came" });
    for (const [index, entry] of rest.entries())
      await look(
        FURTHER + further++,
        ...([entry.sku, entry.listing, entry.listing.isGroup === true] as const),
        ...([shown.get(keys[index] ?? ""), entry, undefined] as const),
      );
  }
  for await (const batch of ledger.entries("came"))
    for (const { sku, listing } of batch) {
      if (met.has(sku) || listing.isGroup === true) continue;
      const id = idsByReference.get(sku) ?? "";
      pass.tell({ kind: "not ours", sku, id });
      toEnd.add(sku);
      ids.set(sku, id);
      const values: Record<string, string> = { [definition.identifiedBy]: sku };
      for (const one of pass.fields) {
        const value = one.read(listing.values, {});
        if (value !== "") values[one.field.code] = value;
      }
      await notes.note(FURTHER + further++, [keptListing(sku, { ...empty, values })]);
    }
  await notes.commit([]);
  return { live: listings, ...{ agreeing, waiting, counts, toAmend, toSend, toEnd, ids } };
};

/** Behind every family's number: what is of no family any more. */
const FURTHER = 2 ** 50;

const namesOf = ({ name, gtin, price, category, axes }: ReturnType<typeof factsOf>) => ({
  ...{ name, gtin, price, category, axes },
});

/** Takes away an export that was fetched. */
export const forgetExport = (path: string): Promise<void> => rm(path, { force: true });
