/**
 * Reconciling: an export of a channel's live listings, held against what it accepted and what it would be sent now. The
 * export is kept by the channel's references first; then our listings are run once and each looks for its own row; then
 * what only the ledger knows; what is left over are strangers.
 */
import { rm } from "node:fs/promises";
import { groupFieldOf } from "../../core/channel/group-model.js";
import { factsOf } from "../../core/listing/as-sent.js";
import { referenceOf } from "../../core/listing/live-reference.js";
import { keptListing } from "../../core/listing/live-text.js";
import type { LiveListing } from "../../core/listing/live-listing.js";
import { rowsOf, type FileRow } from "../../core/listing/shape/file-family.js";
import { shape } from "../../core/listing/shape/shape.js";
import { textRegister, type TextRegister } from "../../core/catalogue/beside/text-register.js";
import { textIn } from "../../core/purpose/purpose.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import type { ChannelLedger, LedgerEntry, LedgerNotes } from "../../store/ledger.js";
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

/** What a reconciling came to. */
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
async function stageExport(
  path: string,
  channel: WorkspaceChannel,
  notes: LedgerNotes,
): Promise<{ readonly listings: number; readonly ids: ReadonlyMap<string, string> }> {
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
}

const empty: LiveListing = {
  name: undefined,
  gtin: undefined,
  price: undefined,
  category: "",
  axes: "",
  group: undefined,
  values: {},
};

/** One pass over an export: what it compares by, and what it has found so far. */
interface Pass {
  readonly definition: ChannelDefinition;
  readonly channel: WorkspaceChannel;
  readonly ledger: ChannelLedger;
  readonly notes: LedgerNotes;
  readonly fields: readonly LiveField[];
  /** Codes of the fields that the export has columns for. */
  readonly covered: ReadonlySet<string>;
  /** Ids that the channel gave, by its own references. */
  readonly idsByReference: ReadonlyMap<string, string>;
  readonly found: ReconcileTally;
  /** SKUs of ours that were looked at, and references of the export that were met. */
  readonly handled: TextRegister;
  readonly met: TextRegister;
  /** Families of what no family speaks of any more have numbers behind all others. */
  further: number;
  tell(one: Disagreement): void;
}

/** What is counted and gathered on the way. */
interface ReconcileTally {
  readonly counts: Record<Disagreement["kind"], number>;
  readonly toAmend: Set<string>;
  readonly toSend: Set<string>;
  readonly toEnd: Set<string>;
  readonly ids: Map<string, string>;
  agreeing: number;
  waiting: number;
}

/** A row that we know, with what each side says of it. */
interface RowOfOurs {
  readonly sku: string;
  readonly family: number;
  readonly isGroup: boolean;
  /** As we know it, beside what the export shows. */
  readonly base: LiveListing;
  readonly came: LedgerEntry | undefined;
  readonly sent: LedgerEntry | undefined;
  /** What it would be sent now; undefined where no ready listing speaks of it. */
  readonly now: LiveListing["values"] | undefined;
}

/** What one listing comes to: what is told of it, and how the channel has it, with what it alters by itself put right. */
function compared(
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
} {
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
}

function valuesOf(row: FileRow, { setup }: WorkspaceChannel): LiveListing["values"] {
  const values: Record<string, string> = {};
  for (const field of setup.definition.fields) {
    const text = textIn(row, field);
    if (text !== "") values[field.code] = text;
  }
  return values;
}

/** The reference that a listing has at the channel, by its values. */
const referenceKey = (
  sku: string,
  values: LiveListing["values"],
  isGroup: boolean,
  { definition }: Pass,
): string => keyOf(referenceOf(sku, { values, ...(isGroup ? { isGroup } : {}) }, definition), isGroup);

/** How the channel has a listing: what the export shows, and what tells it and its group as we know that. */
function asShown(
  { base, isGroup }: RowOfOurs,
  shown: Readonly<Record<string, string>>,
  { definition }: Pass,
): LiveListing {
  const values = { ...shown };
  for (const code of [definition.identifiedBy, groupFieldOf(definition.groups)])
    if (code !== undefined && base.values[code] !== undefined) values[code] = base.values[code];
  const price = definition.roles.price === undefined ? undefined : shown[definition.roles.price.code];
  return {
    ...base,
    ...(price === undefined ? {} : { price }),
    ...(isGroup ? { isGroup: true } : {}),
    values,
  };
}

/** Looks at one row that we know: tells where the sides disagree, and notes how the channel has it. */
async function look(row: RowOfOurs, pass: Pass): Promise<void> {
  const { sku, isGroup, came, sent, now } = row;
  const { found } = pass;
  pass.handled.add(sku, 1);
  const isSent = sent !== undefined && sent.listing.withdrawn !== true;
  if (came === undefined) {
    if (!isSent || isGroup) return;
    pass.tell({ kind: "not live", sku });
    found.toSend.add(sku);
    return;
  }
  pass.met.add(came.sku, 1);
  const id = pass.idsByReference.get(came.sku) ?? "";
  if (id !== "" && !isGroup) found.ids.set(sku, id);
  if (sent?.listing.withdrawn === true && now === undefined) {
    if (isGroup) return;
    pass.tell({ kind: "still live", sku, id });
    found.toEnd.add(sku);
  }
  const result = compared(pass, sku, came.listing.values, isSent ? sent.listing.values : undefined, now);
  found.waiting += result.waiting;
  if (result.differs === 0 && !isGroup) found.agreeing++;
  if (result.differs > 0) (result.isBlank ? found.toSend : found.toAmend).add(sku);
  await pass.notes.note(row.family, [keptListing(sku, asShown(row, result.values, pass))]);
}

/** What a build would hold now, family by family, held against the export. */
const lookAtListings = (store: Store, pass: Pass): Promise<unknown> =>
  runChannels(store, [
    {
      channel: pass.channel,
      take: () => undefined,
      async family(outcomes, family) {
        const rows = shape(outcomes, family, pass.channel.setup).flatMap(rowsOf);
        const sent = await pass.ledger.of({ skus: rows.map(({ sku }) => sku) });
        const known = rows.map((row) => {
          const now = valuesOf(row, pass.channel);
          return { row, now, key: referenceKey(row.sku, now, row.kind === "group", pass) };
        });
        const shown = await pass.ledger.of({ skus: known.map(({ key }) => key), state: "came" });
        for (const { row, now, key } of known) {
          const { listing, sku } = row;
          if (listing === undefined) continue;
          const base = { ...empty, ...namesOf(factsOf(listing)), group: listing.product.group, values: now };
          const isGroup = row.kind === "group";
          await look(
            { sku, family: family.number, isGroup, base, now, came: shown.get(key), sent: sent.get(sku) },
            pass,
          );
        }
      },
    },
  ]);

/** What the ledger knows and no ready listing speaks of any more: held ones, and those that left. */
async function lookAtOthers(pass: Pass): Promise<void> {
  for await (const batch of pass.ledger.entries("sent")) {
    const rest = batch
      .filter(({ sku }) => !pass.handled.has(sku))
      .map((entry) => {
        const isGroup = entry.listing.isGroup === true;
        return { entry, isGroup, key: referenceKey(entry.sku, entry.listing.values, isGroup, pass) };
      });
    const shown = await pass.ledger.of({ skus: rest.map(({ key }) => key), state: "came" });
    for (const { entry, isGroup, key } of rest) {
      const { sku, listing: base } = entry;
      const family = FURTHER + pass.further++;
      await look({ sku, family, isGroup, base, came: shown.get(key), sent: entry, now: undefined }, pass);
    }
  }
}

/** What the channel shows and nobody of us speaks of. */
async function tellStrangers(pass: Pass): Promise<void> {
  for await (const batch of pass.ledger.entries("came"))
    for (const { sku, listing } of batch) {
      if (pass.met.has(sku) || listing.isGroup === true) continue;
      const id = pass.idsByReference.get(sku) ?? "";
      pass.tell({ kind: "not ours", sku, id });
      pass.found.toEnd.add(sku);
      pass.found.ids.set(sku, id);
      const values: Record<string, string> = { [pass.definition.identifiedBy]: sku };
      for (const one of pass.fields) {
        const value = one.read(listing.values, {});
        if (value !== "") values[one.field.code] = value;
      }
      await pass.notes.note(FURTHER + pass.further++, [keptListing(sku, { ...empty, values })]);
    }
}

/**
 * Holds an export of live listings against what the channel accepted and what it would be sent now, product by product.
 * `tell` is given each disagreement. Nothing but the export itself is noted: by the channel's references as it came, by our
 * SKUs as it is understood.
 */
export async function reconcileChannel(
  path: string,
  channel: WorkspaceChannel,
  store: Store,
  at: string,
  tell: (one: Disagreement) => void,
): Promise<Reconciled> {
  const { definition, channel: name } = channel.setup;
  const ledger = store.ledgerOf(name);
  const { live } = exchangeOf(channel, "its export of live listings is read");
  if (live === undefined) throw new Error("asked for an export that the definition does not know");
  const came = await ledger.beginExport("came", at);
  const { listings, ids: idsByReference } = await stageExport(path, channel, came);
  await came.commit([]);
  const found: ReconcileTally = {
    counts: { "not ours": 0, "not live": 0, "still live": 0, differs: 0, stale: 0 },
    toAmend: new Set(),
    toSend: new Set(),
    toEnd: new Set(),
    ids: new Map(),
    agreeing: 0,
    waiting: 0,
  };
  const fields = liveFields(definition, liveLayoutOf(definition), live);
  const notes = await ledger.beginExport("live", at);
  const pass: Pass = {
    definition,
    channel,
    ledger,
    notes,
    fields,
    covered: new Set(fields.map(({ field }) => field.code)),
    idsByReference,
    found,
    handled: textRegister(),
    met: textRegister(),
    further: 0,
    tell(one) {
      found.counts[one.kind]++;
      tell(one);
    },
  };
  await lookAtListings(store, pass);
  await lookAtOthers(pass);
  await tellStrangers(pass);
  await notes.commit([]);
  return { live: listings, ...found };
}

/** Behind every family's number: what is of no family any more. */
const FURTHER = 2 ** 50;

const namesOf = ({ name, gtin, price, category, axes }: ReturnType<typeof factsOf>) => ({
  name,
  gtin,
  price,
  category,
  axes,
});

/** Takes away an export that was fetched. */
export const forgetExport = (path: string): Promise<void> => rm(path, { force: true });
