import { join } from "node:path";
import Database from "better-sqlite3";
import { describe, expect, it } from "vitest";
import { textOf } from "../../src/core/catalogue/product.js";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import type { LiveListing } from "../../src/core/listing/live-listing.js";
import { migrations } from "../../src/store/sqlite/schema.js";
import { familiesOf, newStore, put, shown, storeIn } from "../kit/store.js";
import { temporaryFolder } from "../kit/run.js";

const kinds = (result: Awaited<ReturnType<typeof put>>): readonly string[] =>
  result.fates.map(({ fate }) => fate);

const LATER = "2026-11-25T11:00:00Z";

const priced = (price: string): LiveListing => ({
  ...{ name: "Stool", gtin: undefined, price, category: "g.t", axes: "", group: undefined },
  values: { title: "Stool" },
});

describe("a store of the version before", () => {
  it("when it is opened, then groups and what channels were sent are as they were", async () => {
    const folder = temporaryFolder();
    const database = new Database(join(folder, "store.db"));
    for (const step of migrations.slice(0, 5)) database.exec(step);
    database.pragma("user_version = 5");
    const columns = JSON.stringify(["sku", "group", "name"].map((attribute) => ({ attribute, column: "" })));
    database
      .prepare(
        "INSERT INTO revision (layer, source, file, at, columns, counts, act, names) VALUES ('shop', 's', 'f', '', ?, '{}', 1, 1)",
      )
      .run(columns);
    const own = database.prepare("INSERT INTO product (id, sku, family) VALUES (?, ?, ?)");
    const record = database.prepare("INSERT INTO record (id, row, texts) VALUES (?, 2, ?)");
    for (const [id, sku, texts] of [
      [1, "A", ["A", "G", ""]],
      [2, "\u001dG", ["", "G", "Spades"]],
      [3, "B", ["B", "G", "Spade"]],
    ] as const) {
      own.run(id, sku, 1025);
      record.run(id * 2 ** 20 + 1, texts.join("\u001f"));
    }
    database.exec("INSERT INTO family (name, id) VALUES ('G', 1025)");
    for (const [sku, entry] of [
      ["A", { ...priced("10.00 GBP"), group: "G", values: { title: "Stool", hue: "red\u001egreen" } }],
      ["row", { category: "t", axes: "", group: "G", isGroup: true, values: {} }],
    ] as const)
      database
        .prepare(
          "INSERT INTO ledger (channel, state, sku, entry, purpose, at) VALUES ('quay', 'sent', ?, ?, 'full', '')",
        )
        .run(sku, JSON.stringify(entry));
    database.close();
    const store = await storeIn(folder, [{ layer: "shop" }]);
    expect(await store.groupMembers("G")).toEqual(["A", "B"]);
    expect((await store.familyOf("A"))?.members.map((one) => textOf(one, "name"))).toEqual([
      "Spades",
      "Spade",
    ]);
    const entries = await store.ledgerOf("quay").of({ skus: ["A"], groups: ["G"] });
    expect(entries.get("A")?.listing).toMatchObject({
      ...{ price: "10.00 GBP", group: "G" },
      values: { title: "Stool", hue: "red\u001egreen" },
    });
    expect(entries.get("row")?.listing.isGroup).toBe(true);
    await store.close();
  });
});

describe("a store whose ledger knew the last build alone", () => {
  it("when it is opened, then that build is of its purpose's kind, and can be sent", async () => {
    const folder = temporaryFolder();
    const database = new Database(join(folder, "store.db"));
    for (const step of migrations.slice(0, 7)) database.exec(step);
    database.pragma("user_version = 7");
    const row = database.prepare(
      "INSERT INTO ledger VALUES (?, 'built', 'A', 0, 0, 'Stool', NULL, '1.00 GBP', 'c', '', NULL, '', ?, '')",
    );
    const file = database.prepare("INSERT INTO built_file (channel, number, name) VALUES (?, 4, ?)");
    for (const [channel, purpose] of [
      ["quay", "stock"],
      ["hall", "full"],
    ] as const) {
      row.run(channel, purpose);
      file.run(channel, `${purpose}.csv`);
    }
    database.close();
    const store = await storeIn(folder, [{ layer: "shop" }]);
    for (const [channel, kind] of [
      ["quay", "stock"],
      ["hall", "full"],
    ] as const) {
      const ledger = store.ledgerOf(channel);
      expect(await ledger.builds()).toEqual([{ kind, number: 4, files: [`${kind}.csv`] }]);
      expect(await ledger.markSent({ kind, at: LATER, whole: false, isTrial: false })).toMatchObject({
        listings: 1,
      });
    }
    await store.close();
  });
});

describe("faults of the database", () => {
  it("when its tables are broken under it, then every answer is a refusal of ours, none comes out raw", async () => {
    const folder = temporaryFolder();
    const store = await storeIn(folder, [{ layer: "shop" }]);
    await put(store, "shop", "sku,group,name,gtin\nA,G,one,9520000000011\nB,G,two,9520000000011\n");
    const ledger = store.ledgerOf("quay");
    const answers = store.linkAnswers();
    const other = new Database(join(folder, "store.db"));
    for (const table of [
      "product",
      "record",
      "ledger",
      "book",
      "built",
      "revision",
      "built_file",
      "link_answer",
      "key_value",
    ])
      other.exec(`DROP TABLE ${table}`);
    other.close();
    const drained = async (all: AsyncGenerator<unknown>) => {
      while ((await all.next()).done !== true);
    };
    const calls: Readonly<Record<string, () => Promise<unknown>>> = {
      families: () => drained(store.families()),
      product: () => store.product("A"),
      familyOf: () => store.familyOf("A"),
      groupMembers: () => store.groupMembers("G"),
      skusNear: () => store.skusNear("A"),
      history: () => store.history(),
      opinions: () => store.opinions("A"),
      sharedBarcodes: () => store.sharedBarcodes(),
      skuTwins: () => store.skuTwins(),
      isEmpty: () => store.isEmpty(),
      begin: () => store.begin(),
      "ledger of": () => ledger.of({ skus: ["A"] }),
      "ledger entries": () => drained(ledger.entries()),
      "ledger empty": () => ledger.isEmpty(),
      "ledger number": () => ledger.nextNumber(),
      "ledger begin": () => ledger.begin("full", LATER, "full"),
      "ledger sent": () => ledger.markSent({ kind: "full", at: LATER, whole: false, isTrial: false }),
      answers: () => answers.of(["https://a.example/"], ""),
      keep: () => answers.keep(new Map([["https://a.example/", "x"]]), LATER),
    };
    for (const [name, call] of Object.entries(calls))
      await expect(call(), name).rejects.toBeInstanceOf(Refusal);
  });
});

describe("the store's file", () => {
  it("when a store of version 1 is opened, then it is brought forward with all it holds", async () => {
    const folder = temporaryFolder();
    const old = new Database(join(folder, "store.db"));
    old.exec(`
      CREATE TABLE revision (id INTEGER PRIMARY KEY, layer TEXT NOT NULL, source TEXT NOT NULL, file TEXT NOT NULL, at TEXT NOT NULL, columns TEXT NOT NULL, counts TEXT NOT NULL);
      CREATE TABLE attribute (slot INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE);
      CREATE TABLE family (name TEXT PRIMARY KEY, id INTEGER NOT NULL);
      CREATE TABLE product (id INTEGER PRIMARY KEY, sku TEXT NOT NULL UNIQUE, family INTEGER NOT NULL);
      CREATE INDEX product_family ON product (family, id);
      CREATE TABLE record (id INTEGER PRIMARY KEY, row INTEGER NOT NULL, texts TEXT NOT NULL);
      INSERT INTO attribute VALUES (0, 'sku'), (1, 'group'), (2, 'gtin'), (3, 'own_mark');
      INSERT INTO revision VALUES (1, 'shop', 'shop', 'shop.csv', '2026-11-01', '[{"attribute":"sku","column":"A"},{"attribute":"group","column":"B"},{"attribute":"gtin","column":"C"},{"attribute":"own_mark","column":"D"}]', '{"added":3}');
      INSERT INTO family VALUES ('G', 1);
      INSERT INTO product VALUES (1, 'A', 1), (2, 'B', 1), (3, 'C', 3);
      INSERT INTO record VALUES (1048577, 2, 'A\u001fG\u001f9524000001016\u001fx'), (2097153, 3, 'B\u001fG\u001f\u001f'), (3145729, 4, 'C\u001f\u001f9524000001023\u001fy');
    `);
    old.pragma("user_version = 1");
    old.close();
    const store = await storeIn(folder, [{ layer: "shop" }]);
    expect(await familiesOf(store)).toEqual(["G: A B", "-: C"]);
    expect(await shown(store, "C", "gtin,own_mark")).toBe("9524000001023,y");
    expect(
      kinds(await put(store, "shop", "gtin,quantity\n9524000001016,4", { keys: ["gtin"], mode: "update" })),
    ).toEqual(["changed"]);
    expect((await store.history()).map(({ kind, act }) => [kind, act])).toEqual([
      ["import", 2],
      ["import", 1],
    ]);
    await store.close();
  });

  it("when a store is newer, no database, or in use, then that is told and nothing is changed", async () => {
    const refused = async (folder: string): Promise<string> => {
      try {
        await storeIn(folder, []);
        return "opened";
      } catch (error) {
        return error instanceof Refusal ? error.message : String(error);
      }
    };
    const [newer, junk] = [temporaryFolder(), temporaryFolder()];
    const database = new Database(join(newer, "store.db"));
    database.pragma("user_version = 99");
    database.close();
    expect(await refused(newer)).toBe("store-newer");
    const { writeFileSync } = await import("node:fs");
    writeFileSync(
      join(junk, "store.db"),
      "this is no database at all, but a text that is long enough to be read as one",
    );
    expect(await refused(junk)).toBe("store-damaged");
    const busy = temporaryFolder();
    const [first, second] = [await storeIn(busy, []), await storeIn(busy, [])];
    const transaction = await first.begin();
    await expect(second.begin()).rejects.toMatchObject({ message: "store-busy", exit: 3 });
    await transaction.rollback();
  });

  it("when a transaction is rolled back or fails, then nothing of it is seen, not even its attributes' values", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,name\nA,Stool");
    const transaction = await store.begin();
    const writer = await transaction.revision({
      kind: "import",
      layer: "shop",
      source: "shop",
      file: "x.csv",
      at: "2026-11-25",
      keys: ["sku"],
      mode: "both",
      compare: "layer",
      replace: false,
      tellChanges: false,
      columns: ["sku", "name", "brand_new"].map((attribute) => ({ attribute, column: attribute })),
    });
    await writer.put([{ kind: "product", row: 2, texts: ["A", "Changed", "z"], doubts: [] }]);
    await transaction.rollback();
    expect(await shown(store, "A", "name")).toBe("Stool");
    expect(await store.history()).toHaveLength(1);
    expect(kinds(await put(store, "shop", "sku,name\nA,Changed"))).toEqual(["changed"]);
  });
});
