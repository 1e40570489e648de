/** Writes one revision: finds the products of its records, settles their families, keeps what is news, and counts. */
import { recordRows, type RecordRows } from "./record-rows.js";
import { addRevision, endRevision } from "./revision-row.js";
import type Database from "better-sqlite3";
import type { GrowingIndex } from "../../core/catalogue/attribute-index.js";
import { anotherProduct } from "../../core/catalogue/another-product.js";
import { hasNews } from "../../core/catalogue/news.js";
import { RETRACTED, SAME } from "../../core/catalogue/record.js";
import { asSku, type Sku } from "../../core/ids.js";
import { usualAxes, VARIES_BY } from "../../core/catalogue/axes.js";
import { axisWatch } from "./axis-watch.js";
import type { CatalogueReader } from "./catalogue-reader.js";
import { formerReading } from "./former-reading.js";
import { RecordNews } from "./record-news.js";
import type { Families } from "./families.js";
import { layerState, type LayerState } from "./layer-state.js";
import type { ProductKeys } from "./product-keys.js";
import { productMatcher, type KnownProduct, type Match, type ProductMatcher } from "./product-matcher.js";
import { isSaid, revisionColumns, type RevisionColumns } from "./revision-columns.js";
import {
  changesOf,
  isBare,
  keysApart,
  landed,
  repeated,
  settleDoubts,
  withoutProved,
  type RecordRules,
} from "./record-fate.js";
import type { RecordTexts } from "../../core/catalogue/stored-texts.js";
import type { MetBefore } from "./met-before.js";
import { removalsIn } from "./removals.js";
import { placeOfLayer, type Revision } from "./revisions.js";
import { FAMILIES_PER_PRODUCT, REVISIONS_PER_PRODUCT } from "./schema.js";
import { seenProducts } from "./seen-products.js";
import { touchedProducts } from "./touched.js";
import type {
  ImportCounts,
  IncomingRecord,
  LayerName,
  RecordAgain,
  RecordFate,
  RevisionPlan,
  RevisionWriter,
} from "../store.js";

/** What a transaction's revisions share. */
export interface WriterTools {
  readonly database: Database.Database;
  readonly attributes: GrowingIndex;
  readonly revisions: Map<number, Revision>;
  readonly reader: CatalogueReader;
  readonly families: Families;
  readonly keys: ProductKeys;
  readonly met: MetBefore;
  readonly layers: readonly LayerName[];
  /** Notes a family that has to be looked at again when the act is done. */
  suspect(family: number): void;
}

const SLICE = 10_000;

const axisNames = [...usualAxes, VARIES_BY];

const isFamilyOfGroup = (family: number): boolean => family % FAMILIES_PER_PRODUCT !== 0;

/** Starts a revision within a running transaction; it belongs to the act, or begins one. */
export function revisionWriter(
  tools: WriterTools,
  plan: RevisionPlan,
  act: number | undefined,
): RevisionWriter & { readonly id: number } {
  return new Writer(tools, plan, act);
}

class Writer implements RevisionWriter {
  readonly id: number;
  private readonly columns: RevisionColumns;
  /** By what is said of a record. */
  private readonly told: RecordRules;
  private readonly before: LayerState;
  private readonly matcher: ProductMatcher;
  private readonly seen = seenProducts();
  private readonly areSameAxes = axisWatch();
  /** The channel that alone sees what is written. */
  private readonly channel: string | undefined;
  private readonly rows: RecordRows;
  private readonly touched = touchedProducts();
  /** Records that say something new; others only say again what was said. */
  private news = 0;
  private repeats = 0;
  private drops = false;
  /** Products of which the delivery says all that its layer says in these columns, and nothing else. */
  private readonly same = seenProducts();
  /** Whether its rows put products there; a source that only updates speaks of what others name. */
  private readonly names: boolean;
  private readonly recordNews: RecordNews;
  /** The revision by which a person took a product out of the catalogue. */
  private readonly removalOf: (product: number) => number | undefined;

  constructor(
    private readonly tools: WriterTools,
    private readonly plan: RevisionPlan,
    act: number | undefined,
  ) {
    const { database, attributes, revisions, reader, keys, met, layers } = tools;
    this.before = layerState(database, plan.layer, revisions);
    this.names = plan.mode !== "update";
    this.columns = revisionColumns(database, attributes, plan);
    this.told = { plan, columns: this.columns };
    const former = formerReading(plan, revisions);
    for (const attribute of former?.attributes ?? []) this.columns.add({ attribute, column: "" });
    if (plan.replace)
      for (const attribute of this.before.attributes) this.columns.add({ attribute, column: "" });
    for (const key of plan.keys) if (key !== "sku") keys.keep(key);
    this.id = addRevision(database, { ...plan, act, names: this.names });
    const found = placeOfLayer(layers, plan);
    this.channel = found.channel;
    const { columns, before } = this;
    this.recordNews = new RecordNews({ plan, columns, reader, former, before, channel: found.channel });
    this.removalOf = removalsIn(database, revisions);
    const { kind, layer, source, file, at, rules } = plan;
    const { all, slots, slotsOfGroup } = this.columns;
    revisions.set(this.id, {
      id: this.id,
      kind,
      layer,
      source,
      file,
      at,
      rules,
      columns: all,
      slots,
      slotsOfGroup,
      ...found,
      live: true,
      drops: false,
    });
    const wasTakenBack = [...revisions.values()].some(({ live, drops }) => !live || drops);
    this.matcher = productMatcher(database, reader, keys, met, () => wasTakenBack || this.drops);
    this.rows = recordRows(database, met, this.id, this.touched);
  }

  put(records: readonly (IncomingRecord | RecordAgain)[]): Promise<readonly RecordFate[]> {
    return Promise.resolve(
      records.map((record) =>
        record.kind === "again" ? this.putAgain(record) : this.putOne(this.columns.inOrder(record)),
      ),
    );
  }

  vanished(drop: boolean, tell: (sku: Sku) => void): Promise<number> {
    const slice = this.tools.database
      .prepare<[number], number>(`SELECT id FROM record WHERE id > ? ORDER BY id LIMIT ${SLICE}`)
      .pluck();
    const gone = new Set<number>();
    for (let from = 0; ;) {
      const ids = slice.all(from);
      for (const recordId of ids) {
        const product = Math.floor(recordId / REVISIONS_PER_PRODUCT);
        if (this.before.speaksOf(recordId) && !this.seen.has(product) && !gone.has(product))
          this.vanish(product, drop, (sku) => {
            gone.add(product);
            tell(sku);
          });
      }
      const last = ids.at(-1);
      if (ids.length < SLICE || last === undefined) return Promise.resolve(gone.size);
      from = last;
    }
  }

  finish(counts: ImportCounts): Promise<number | undefined> {
    const { database, revisions } = this.tools;
    if (this.news === 0 && (this.plan.decided ?? []).length === 0) {
      // A delivery that only says again what was said leaves no trace.
      if (this.repeats > 0) this.rows.forget();
      database.prepare("DELETE FROM revision WHERE id = ?").run(this.id);
      revisions.delete(this.id);
      return Promise.resolve(undefined);
    }
    const { drops, touched, channel } = this;
    const columns = this.columns.all;
    endRevision(database, this.id, { columns, channel, counts, drops, same: this.same.bytes() });
    touched.keep(database, this.id);
    const own = revisions.get(this.id);
    if (own !== undefined && this.drops) revisions.set(this.id, { ...own, drops: true });
    return Promise.resolve(this.id);
  }

  drop(skus: readonly string[]): Promise<void> {
    for (const attribute of this.before.attributes) this.columns.add({ attribute, column: "" });
    for (const sku of skus) {
      const known = this.matcher.bySku(sku);
      if (known !== undefined) this.vanish(known.id, true, () => undefined);
      if (known !== undefined && isFamilyOfGroup(known.family)) this.tools.suspect(known.family);
    }
    return Promise.resolve();
  }

  formerRules(): number | undefined {
    return this.recordNews.formerRules();
  }

  private putAgain({ product }: RecordAgain): RecordFate {
    if (this.seen.note(product))
      return { fate: "repeated", key: "sku", value: this.matcher.byId(product)?.sku ?? "" };
    this.same.note(product);
    return { fate: "again" };
  }

  private putOne(record: IncomingRecord): RecordFate {
    if (record.kind === "group") return this.putGroup(record);
    const { mode, keys } = this.plan;
    const found = this.matcher.match(keys, (key) => this.columns.textOf(record, key));
    if (!("fate" in found)) {
      if (mode !== "add") return this.change(found, record);
      const { id: product, sku } = found.known;
      return this.seen.note(product)
        ? repeated(record.texts, this.told)
        : { fate: "unchanged", sku: asSku(sku), known: true };
    }
    const sku = this.columns.textOf(record, "sku");
    if (found.fate !== "unmatched" || mode === "update" || !isSaid(sku)) return found;
    const gone = this.matcher.bySku(sku);
    const removal = gone === undefined ? undefined : this.removalOf(gone.id);
    if (removal !== undefined) return { fate: "removed", sku: asSku(sku), revision: removal };
    if (this.plan.refusesBare === true && isBare(record, this.told)) return { fate: "bare", sku: asSku(sku) };
    return gone === undefined
      ? this.add(record, sku)
      : this.change({ known: gone, key: "sku" }, record, true);
  }

  private add(record: IncomingRecord, sku: string): RecordFate {
    const product = this.rows.nextProduct();
    this.seen.note(product);
    const named = this.columns.textOf(record, "group");
    const group = isSaid(named) ? named : undefined;
    const family = this.tools.families.of(group, product);
    this.rows.addProduct(product, sku, false, family);
    if (group !== undefined) {
      // A group that was there before has members which this file may not show.
      const joins = Math.floor(family / FAMILIES_PER_PRODUCT) <= this.rows.newest;
      const isTwin = this.areSameAxes(group, (attribute) => this.columns.textOf(record, attribute));
      if (joins || isTwin) this.tools.suspect(family);
    }
    const sameGtin = this.matcher.othersWithGtin(this.columns.textOf(record, "gtin"), product);
    this.store(product, record.row, record);
    return {
      ...landed("added", sku, settleDoubts(this.doubtsOf(record), undefined), sameGtin),
      settled: product,
    };
  }

  /** Damaged values of the revision's own columns. */
  private doubtsOf({ doubts }: IncomingRecord): IncomingRecord["doubts"] {
    return doubts.length === 0 ? doubts : doubts.filter(({ channel }) => channel === this.plan.channel);
  }

  private change(
    match: Match,
    record: IncomingRecord,
    /** Whether nothing that holds names the product any more: it comes back by this row. */
    returns = false,
  ): RecordFate {
    const { known } = match;
    const { row, texts: given } = record;
    const doubts = this.doubtsOf(record);
    const { reader, suspect } = this.tools;
    if (this.seen.note(known.id)) return repeated(given, this.told);
    const settled = doubts.length === 0 ? [] : settleDoubts(doubts, reader.productById(known.id));
    const texts = withoutProved(given, settled, this.columns);
    const said = this.before.inOrder(known.id, this.columns);
    const { texts: news, zerosKept } = this.recordNews.of(match, texts, said);
    const kept = zerosKept.length === 0 ? {} : { zerosKept };
    const gtin = this.columns.textAt(news, "gtin");
    const reused = isSaid(gtin) ? this.reused(known, gtin, this.columns.textAt(texts, "name")) : undefined;
    if (reused !== undefined) return reused;
    const old = this.plan.tellChanges ? reader.productById(known.id, this.channel) : undefined;
    const isNews = returns || hasNews(news);
    const keys = keysApart(match, texts, this.told, () => reader.productById(known.id));
    if (!isNews) {
      const isAll = this.repeat(known, row, news, texts, said);
      return {
        ...landed("unchanged", known.sku, settled, []),
        ...keys,
        ...kept,
        ...(isAll && zerosKept.length === 0 ? { settled: known.id } : {}),
      };
    }
    const fresh = this.named(news, texts, known);
    const sameGtin = this.matcher.othersWithGtin(gtin, known.id);
    this.store(known.id, row, { texts: fresh });
    const group = this.columns.textAt(fresh, "group");
    // One that comes back may have a group by what others still say of it.
    if (returns || (group !== undefined && group !== ""))
      this.settleFamily(known, known.isGroup ? known.sku : reader.productById(known.id)?.group);
    else if (
      isFamilyOfGroup(known.family) &&
      axisNames.some((axis) => isSaid(this.columns.textAt(fresh, axis)))
    )
      suspect(known.family);
    const isSeen = news.filter((text) => text !== "" && text !== SAME).length > zerosKept.length;
    const became = returns ? "added" : isSeen ? "changed" : "unchanged";
    const fate = { ...landed(became, known.sku, settled, sameGtin), ...keys, ...kept };
    if (!this.plan.tellChanges) return fate;
    return {
      ...fate,
      changes: changesOf(fresh, old, reader.productById(known.id, this.channel), this.columns),
    };
  }

  /** A row without news. That it was said again counts once what it repeats is undone. Gives whether it says all that its layer says. */
  private repeat(
    known: KnownProduct,
    row: number,
    news: readonly string[],
    texts: readonly string[],
    said: readonly string[],
  ): boolean {
    if (this.plan.compare === "merged") return false;
    const at = this.columns.positionOf("sku");
    const isNew = this.isNaming(texts) && at !== undefined && (said[at] ?? "") === "";
    const isAll = said.every((text, index) => text === "" || index === at || (news[index] ?? "") === SAME);
    if (!isNew && isAll) {
      this.same.note(known.id);
      return true;
    }
    this.repeats++;
    // To be named for the first time by a layer is news to the catalogue, though no value is.
    if (isNew) this.news++;
    this.rows.addRecord(known.id, row, { texts: this.named(news, texts, known) });
    return false;
  }

  /** Whether a row puts its product there, by its SKU. */
  private isNaming(texts: readonly string[]): boolean {
    return this.names && isSaid(this.columns.textAt(texts, "sku"));
  }

  private named(
    fresh: readonly string[],
    texts: readonly string[],
    { sku, isGroup }: KnownProduct,
  ): readonly string[] {
    const at = this.columns.positionOf("sku");
    if (at === undefined || isGroup || !this.isNaming(texts)) return fresh;
    return fresh.map((text, index) => (index === at ? sku : text));
  }

  private reused(known: KnownProduct, gtin: string, name: string | undefined): RecordFate | undefined {
    const was = this.tools.reader.lastKnown(known.id);
    const other = was === undefined ? undefined : anotherProduct(was, { gtin, name });
    return other === undefined ? undefined : { fate: "reused", sku: asSku(known.sku), ...other };
  }

  private putGroup(record: IncomingRecord): RecordFate {
    const name = this.columns.textAt(record.texts, "group") ?? "";
    const known = this.matcher.group(name);
    if (known !== undefined) return this.change({ known, key: "group" }, record);
    const product = this.rows.nextProduct();
    this.seen.note(product);
    this.rows.addProduct(product, name, true, this.tools.families.of(name, product));
    this.store(product, record.row, record);
    return landed("added", name, settleDoubts(this.doubtsOf(record), undefined), []);
  }

  private store(product: number, row: number, record: RecordTexts): void {
    this.news++;
    this.rows.addRecord(product, row, record);
    const { keys } = this.tools;
    for (const attribute of keys.kept) {
      const text = this.columns.textOf(record, attribute);
      if (isSaid(text)) keys.note(attribute, text, product);
    }
  }

  private settleFamily({ id: product, family }: KnownProduct, group: string | undefined): void {
    const wanted = this.tools.families.of(group, product);
    if (wanted === family) return;
    this.rows.setFamily(product, wanted);
    this.touched.family(family);
    // Both families are others than before: the one it left may have one member now.
    for (const one of [family, wanted]) if (isFamilyOfGroup(one)) this.tools.suspect(one);
  }

  private vanish(product: number, drop: boolean, tell: (sku: Sku) => void): void {
    const said = this.before.of(product);
    const known = this.matcher.byId(product);
    if (said.size === 0 || known === undefined || known.isGroup) return;
    const { sku } = known;
    tell(asSku(sku));
    if (drop) this.drops = true;
    if (drop)
      this.store(product, 0, {
        texts: this.columns.all.map(({ attribute }) => (said.has(attribute) ? RETRACTED : "")),
      });
  }
}
