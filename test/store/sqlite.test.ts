import { join } from "node:path";
import Database from "better-sqlite3";
import { describe, expect, it } from "vitest";
import { textOf } from "../../src/core/catalogue/product.js";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import type { LiveListing } from "../../src/core/listing/live-listing.js";
import { migrations } from "../../src/store/sqlite/schema.js";
import { put, storeIn } from "../kit/store.js";
import { temporaryFolder } from "../kit/run.js";

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

describe("faults of the database", () => {
  it("when its tables are broken under it, then every answer is a refusal of ours, none comes out raw", async () => {
    const folder = temporaryFolder();
    const store = await storeIn(folder, [{ layer: "shop" }]);
    await put(store, "shop", "sku,group,name,gtin\nA,G,one,9520000000011\nB,G,two,9520000000011\n");
    const ledger = store.ledgerOf("quay");
    const answers = store.linkAnswers();
    const other = new Database(join(folder, "store.db"));
    for (const table of ["product", "record", "ledger", "revision", "built_file", "link_answer", "key_value"])
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
      "ledger begin": () => ledger.begin("full", LATER),
      "ledger sent": () => ledger.markSent(LATER),
      answers: () => answers.of(["https://a.example/"], ""),
      keep: () => answers.keep(new Map([["https://a.example/", "x"]]), LATER),
    };
    for (const [name, call] of Object.entries(calls))
      await expect(call(), name).rejects.toBeInstanceOf(Refusal);
  });
});
