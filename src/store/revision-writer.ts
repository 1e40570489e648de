import type Database from "better-sqlite3";
import type { GrowingIndex } from "../core/catalogue/attribute-index.js";
import type { Doubt } from "../core/catalogue/cell-reader.js";
import { isAnotherProduct } from "../core/catalogue/another-product.js";
import { textOf, type Product } from "../core/catalogue/product.js";
import { CLEARED, LIST_SEPARATOR, RETRACTED } from "../core/catalogue/record.js";
import { asSku, type Sku } from "../core/ids.js";
import type { CatalogueReader } from "./catalogue-reader.js";
import type { Families } from "./families.js";
import { layerState } from "./layer-state.js";
import { keyForm, type ProductKeys } from "./product-keys.js";
import { layerRanks, type Revision } from "./revisions.js";
import { FAMILIES_PER_PRODUCT, GROUP_MARK, REVISIONS_PER_PRODUCT, TEXT_SEPARATOR } from "./schema.js";
import { seenProducts } from "./seen-products.js";
import type {
  ImportCounts,
  IncomingRecord,
  LayerName,
  PlannedColumn,
  RecordFate,
  RevisionPlan,
  RevisionWriter,
  SettledDoubt,
  ValueChange,
} from "./store.js";

/** What a transaction's revisions share. */
export interface WriterTools {
  readonly database: Database.Database;
  readonly attributes: GrowingIndex;
  readonly revisions: Map<number, Revision>;
  readonly reader: CatalogueReader;
  readonly families: Families;
  readonly keys: ProductKeys;
  readonly layers: readonly LayerName[];
  /** Notes a family that has to be looked at again when the act is done. */
  suspect(family: number): void;
}

type LandedFate = Extract<RecordFate, { fate: "added" | "changed" | "unchanged" }>;

interface Known {
  readonly id: number;
  readonly sku: string;
  readonly family: number;
}

const axes = new Set(["color", "size", "material", "pattern"]);

const isSaid = (text: string | undefined): text is string =>
  text !== undefined && text !== "" && text !== CLEARED && text !== RETRACTED;

/** Starts a revision within a running transaction. */
export const revisionWriter = (
  tools: WriterTools,
  plan: RevisionPlan,
  act: number | undefined,
): RevisionWriter & { readonly id: number } => {
  const { database, attributes, revisions, reader, keys } = tools;
  const before = layerState(database, plan.layer, revisions);
  const columns: PlannedColumn[] = [];
  const slots: number[] = [];
  const at = new Map<string, number>();
  const addAttribute = database.prepare(
    "INSERT OR IGNORE INTO attribute (slot, name) VALUES ((SELECT count(*) FROM attribute), ?)",
  );
  const addColumn = (column: PlannedColumn): number => {
    const known = at.get(column.attribute);
    if (known !== undefined) return known;
    addAttribute.run(column.attribute);
    slots.push(attributes.slotFor(column.attribute));
    at.set(column.attribute, columns.length);
    return columns.push(column) - 1;
  };
  plan.columns.forEach(addColumn);
  for (const key of plan.keys) if (key !== "sku") keys.keep(key);
  const id = Number(
    database
      .prepare(
        "INSERT INTO revision (kind, layer, source, file, at, columns, counts, act) VALUES (?, ?, ?, ?, ?, '[]', '{}', ?)",
      )
      .run(plan.kind, plan.layer, plan.source, plan.file, plan.at, act ?? 0).lastInsertRowid,
  );
  const found = layerRanks(tools.layers)(plan.layer);
  // A layer that this very act begins will be the manifest's last.
  const ranked = found.rank < 0 ? { ...found, rank: tools.layers.length } : found;
  revisions.set(id, {
    id,
    kind: plan.kind,
    layer: plan.layer,
    file: plan.file,
    at: plan.at,
    columns,
    slots,
    ...ranked,
    live: true,
  });
  const find = database.prepare<[string], Known>("SELECT id, sku, family FROM product WHERE sku = ?");
  const findById = database.prepare<[number], Known>("SELECT id, sku, family FROM product WHERE id = ?");
  const addProduct = database.prepare<[string, number]>("INSERT INTO product (sku, family) VALUES (?, ?)");
  const setFamily = database.prepare<[number, number]>("UPDATE product SET family = ? WHERE id = ?");
  const addRecord = database.prepare<[number, number, string]>(
    "INSERT INTO record (id, row, texts) VALUES (?, ?, ?)",
  );
  const seen = seenProducts();
  const axisHashes = new Set<string>();
  let axisGroup = "";

  const textAt = (texts: readonly string[], attribute: string): string | undefined => {
    const index = at.get(attribute);
    return index === undefined ? undefined : texts[index];
  };

  let written = 0;
  const store = (product: number, row: number, texts: readonly string[]): void => {
    written++;
    addRecord.run(product * REVISIONS_PER_PRODUCT + id, row, texts.join(TEXT_SEPARATOR));
    texts.forEach((text, index) => {
      if (isSaid(text)) keys.note(columns[index]?.attribute ?? "", text, product);
    });
  };

  const settleFamily = ({ id: product, family }: Known, group: string | undefined): void => {
    const wanted = tools.families.of(group, product);
    if (wanted === family) return;
    setFamily.run(wanted, product);
    // Both families are others than before: the one it left may have one member now.
    if (family % FAMILIES_PER_PRODUCT !== 0) tools.suspect(family);
    if (wanted % FAMILIES_PER_PRODUCT !== 0) tools.suspect(wanted);
  };

  /** Members of one group stand together in most files: two with the same axes are found while they pass. */
  const watchAxes = (texts: readonly string[], group: string | undefined, family: number): void => {
    if (group === undefined || family % FAMILIES_PER_PRODUCT === 0) return;
    if (group !== axisGroup) {
      axisGroup = group;
      axisHashes.clear();
    }
    const named = textAt(texts, "varies_by")?.split(LIST_SEPARATOR).filter(Boolean) ?? [...axes];
    const values = named.map((axis) => textAt(texts, axis) ?? "").join(TEXT_SEPARATOR);
    if (values.replaceAll(TEXT_SEPARATOR, "") === "") return;
    if (axisHashes.has(values)) tools.suspect(family);
    axisHashes.add(values);
  };

  /** Keys are tried in their order; the first that finds a product decides. */
  const matched = (
    texts: readonly string[],
  ): Known | Extract<RecordFate, { fate: "unmatched" | "ambiguous" }> => {
    let tried: { readonly key: string; readonly value: string } | undefined;
    for (const key of plan.keys) {
      const value = textAt(texts, key);
      if (!isSaid(value)) continue;
      tried ??= { key, value };
      if (key === "sku") {
        const known = find.get(value);
        if (known !== undefined) return known;
        continue;
      }
      const wanted = keyForm(key, value);
      const found = keys.candidates(key, value).filter((candidate) => {
        const text = textOfProduct(reader.productById(candidate), key);
        return text !== undefined && keyForm(key, text) === wanted;
      });
      if (found.length > 1)
        return {
          fate: "ambiguous",
          key,
          value,
          skus: found.slice(0, 5).map((one) => asSku(findById.get(one)?.sku ?? "")),
        };
      const known = found[0] === undefined ? undefined : findById.get(found[0]);
      if (known !== undefined) return known;
    }
    return { fate: "unmatched", key: tried?.key ?? "", value: tried?.value ?? "" };
  };

  const settleDoubts = (doubts: readonly Doubt[], product: Product | undefined): readonly SettledDoubt[] =>
    doubts.map((doubt) => {
      const existing = textOfProduct(product, doubt.attribute);
      return { doubt, proved: existing !== undefined && doubt.provedBy(existing) ? existing : undefined };
    });

  const othersWithGtin = (texts: readonly string[], product: number): readonly Sku[] => {
    const gtin = textAt(texts, "gtin");
    if (!isSaid(gtin)) return [];
    const wanted = keyForm("gtin", gtin);
    return keys
      .candidates("gtin", gtin)
      .filter((other) => {
        if (other === product) return false;
        const text = textOfProduct(reader.productById(other), "gtin");
        return text !== undefined && keyForm("gtin", text) === wanted;
      })
      .slice(0, 3)
      .map((other) => asSku(findById.get(other)?.sku ?? ""));
  };

  const fateOf = (
    fate: "added" | "changed" | "unchanged",
    sku: string,
    doubts: readonly SettledDoubt[],
    sameGtin: readonly Sku[],
  ): LandedFate => ({
    fate,
    sku: asSku(sku),
    ...(doubts.length === 0 ? {} : { doubts }),
    ...(sameGtin.length === 0 ? {} : { sameGtin }),
  });

  const add = ({ row, texts, doubts }: IncomingRecord, sku: string): RecordFate => {
    // A product's family is its group's, or its own; its own id is known only once it is stored.
    const product = Number(addProduct.run(sku, -1).lastInsertRowid);
    seen.note(product);
    const group = textAt(texts, "group");
    const said = isSaid(group) ? group : undefined;
    const family = tools.families.of(said, product);
    setFamily.run(family, product);
    // A group that was there before has members which this file may not show.
    if (said !== undefined && Math.floor(family / FAMILIES_PER_PRODUCT) < firstNew) tools.suspect(family);
    watchAxes(texts, said, family);
    const sameGtin = othersWithGtin(texts, product);
    store(product, row, texts);
    return fateOf("added", sku, settleDoubts(doubts, undefined), sameGtin);
  };
  const firstNew = (database.prepare("SELECT coalesce(max(id), 0) FROM product").pluck().get() as number) + 1;

  /** What of a record is news to the layer, or to the product where the plan compares with that. */
  const news = (known: Known, texts: readonly string[]): readonly string[] => {
    if (plan.compare === "merged") {
      const product = reader.productById(known.id);
      return columns.map(({ attribute }, index) => {
        if (attribute === "sku") return "";
        const [text = "", current] = [texts[index], textOfProduct(product, attribute)];
        return text === (current ?? "") || (text === CLEARED && current === undefined) ? "" : text;
      });
    }
    const current = before.of(known.id);
    return columns.map(({ attribute }, index) => {
      // A product is its SKU: no layer changes it.
      if (attribute === "sku") return "";
      const [text = "", said] = [texts[index], current.get(attribute)];
      if (text === "") return plan.replace && said !== undefined ? RETRACTED : "";
      if (text === RETRACTED && said === undefined) return "";
      return text === said ? "" : text;
    });
  };

  const change = (known: Known, { row, texts, doubts }: IncomingRecord): RecordFate => {
    if (seen.note(known.id)) return repeated(texts);
    const fresh = news(known, texts);
    const [gtin, group] = [textAt(fresh, "gtin"), textAt(fresh, "group")];
    if (isSaid(gtin)) {
      const was = reader.lastKnown(known.id);
      const now = { gtin, name: textAt(texts, "name") };
      if (
        was !== undefined &&
        isAnotherProduct({ gtin: textOf(was, "gtin"), name: textOf(was, "name") }, now)
      )
        return { fate: "reused", sku: asSku(known.sku), was: textOf(was, "name") ?? "", now: now.name ?? "" };
    }
    const settled = doubts.length === 0 ? [] : settleDoubts(doubts, reader.productById(known.id));
    if (fresh.every((text) => text === "")) return fateOf("unchanged", known.sku, settled, []);
    const sameGtin = othersWithGtin(fresh, known.id);
    // Only a product that nothing was said of any more comes into the catalogue again.
    const old = plan.tellChanges || before.of(known.id).size === 0 ? reader.productById(known.id) : undefined;
    const returns = old === undefined && before.of(known.id).size === 0;
    store(known.id, row, fresh);
    if (group !== undefined && group !== "") settleFamily(known, reader.productById(known.id)?.group);
    else if (
      known.family % FAMILIES_PER_PRODUCT !== 0 &&
      [...axes, "varies_by"].some((axis) => isSaid(textAt(fresh, axis)))
    )
      tools.suspect(known.family);
    const fate = fateOf(returns ? "added" : "changed", known.sku, settled, sameGtin);
    return plan.tellChanges
      ? { ...fate, changes: changesOf(fresh, old, reader.productById(known.id)) }
      : fate;
  };

  const changesOf = (
    fresh: readonly string[],
    old: Product | undefined,
    now: Product | undefined,
  ): readonly ValueChange[] =>
    columns.flatMap(({ attribute }, index) => {
      if ((fresh[index] ?? "") === "") return [];
      const [was, is] = [textOfProduct(old, attribute) ?? "", textOfProduct(now, attribute) ?? ""];
      return was === is ? [] : [{ attribute, before: was, after: is }];
    });

  const repeated = (texts: readonly string[]): RecordFate => {
    const key = plan.keys.find((name) => isSaid(textAt(texts, name))) ?? "sku";
    return { fate: "repeated", key, value: textAt(texts, key) ?? "" };
  };

  const putGroup = (record: IncomingRecord): RecordFate => {
    const name = textAt(record.texts, "group") ?? "";
    const key = GROUP_MARK + name;
    const known = find.get(key);
    if (known !== undefined) return change(known, record);
    const product = Number(addProduct.run(key, -1).lastInsertRowid);
    seen.note(product);
    setFamily.run(tools.families.of(name, product), product);
    store(product, record.row, record.texts);
    return fateOf("added", name, settleDoubts(record.doubts, undefined), []);
  };

  const putOne = (record: IncomingRecord): RecordFate => {
    if (record.kind === "group") return putGroup(record);
    const found = matched(record.texts);
    if ("id" in found) {
      if (plan.mode !== "add") return change(found, record);
      return seen.note(found.id)
        ? repeated(record.texts)
        : { fate: "unchanged", sku: asSku(found.sku), known: true };
    }
    const sku = textAt(record.texts, "sku");
    if (found.fate === "ambiguous" || plan.mode === "update" || !isSaid(sku)) return found;
    return add(record, sku);
  };

  const readyForReplacing = (): void => {
    if (plan.replace) for (const attribute of before.attributes) addColumn({ attribute, column: "" });
  };
  readyForReplacing();

  /** Rows may bring attributes that no row before them had; the revision's own order of columns only grows. */
  const inOwnOrder = (texts: readonly string[]): readonly string[] => {
    const order = plan.columns.map(addColumn);
    if (order.every((index, position) => index === position)) return texts;
    const own: string[] = [];
    texts.forEach((text, position) => {
      const index = order[position] ?? position;
      while (own.length <= index) own.push("");
      own[index] = text;
    });
    return own;
  };

  return {
    id,
    put: (records) =>
      Promise.resolve(records.map((record) => putOne({ ...record, texts: inOwnOrder(record.texts) }))),
    vanished(drop, tell) {
      const slice = database
        .prepare<[number], number>(`SELECT id FROM record WHERE id > ? ORDER BY id LIMIT 10000`)
        .pluck();
      const gone = new Set<number>();
      for (let from = 0; ;) {
        const ids = slice.all(from);
        for (const recordId of ids) {
          const product = Math.floor(recordId / REVISIONS_PER_PRODUCT);
          if (!before.speaksOf(recordId) || seen.has(product) || gone.has(product)) continue;
          const said = before.of(product);
          const sku = findById.get(product)?.sku ?? "";
          if (said.size === 0 || sku.startsWith(GROUP_MARK)) continue;
          gone.add(product);
          tell(asSku(sku));
          if (drop)
            store(
              product,
              0,
              columns.map(({ attribute }) => (said.has(attribute) ? RETRACTED : "")),
            );
        }
        const last = ids.at(-1);
        if (ids.length < 10_000 || last === undefined) break;
        // Records of one product stay together, and those just written lie behind it.
        from = last;
      }
      return Promise.resolve(gone.size);
    },
    finish(counts: ImportCounts) {
      database
        .prepare("UPDATE revision SET columns = ?, counts = ?, act = ? WHERE id = ?")
        .run(JSON.stringify(columns), JSON.stringify(counts), act ?? id, id);
      if (written > 0) return Promise.resolve(id);
      database.prepare("DELETE FROM revision WHERE id = ?").run(id);
      revisions.delete(id);
      return Promise.resolve(undefined);
    },
  };
};

const textOfProduct = (product: Product | undefined, attribute: string): string | undefined => {
  if (product === undefined) return undefined;
  return attribute === "sku" ? product.sku : textOf(product, attribute);
};
