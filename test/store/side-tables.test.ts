import { describe, expect, it } from "vitest";
import type { LiveListing } from "../../src/core/listing/live-listing.js";
import { newStore, put, storeIn } from "../kit/store.js";
import { temporaryFolder } from "../kit/run.js";

const priced = (price: string): LiveListing => ({
  ...{ name: "Stool", gtin: undefined, price, category: "g.t", axes: "", group: undefined },
  values: { title: "Stool" },
});

describe("what a channel was given", () => {
  it("when a build is committed and sent, then its prices are those sent, and others stay as they were", async () => {
    const store = await newStore("shop");
    const prices = store.ledgerOf("quay");
    const first = prices.begin("full", "2026-11-25T10:00:00Z");
    first.note("A", priced("10.00 GBP"));
    first.note("B", priced("20.00 GBP"));
    first.commit(["f.csv"]);
    expect(prices.sent("A")?.price).toBeUndefined();
    expect(prices.markSent("2026-11-25T11:00:00Z")).toBe(2);
    const second = prices.begin("full", "2026-11-25T10:00:00Z");
    second.note("A", priced("11.00 GBP"));
    second.commit(["f.csv"]);
    expect([prices.sent("A")?.price, prices.sent("B")?.price]).toEqual(["10.00 GBP", "20.00 GBP"]);
    expect(prices.markSent("2026-11-25T11:00:00Z")).toBe(1);
    expect([prices.sent("A")?.price, prices.sent("B")?.price]).toEqual(["11.00 GBP", "20.00 GBP"]);
    expect(store.ledgerOf("hall").sent("A")).toBeUndefined();
    await store.close();
  });

  it("when a build is broken off, then the build before it is the one that is marked sent", async () => {
    const folder = temporaryFolder();
    const store = await storeIn(folder, [{ layer: "shop" }]);
    const whole = store.ledgerOf("quay").begin("full", "2026-11-25T10:00:00Z");
    whole.note("A", priced("10.00 GBP"));
    whole.commit(["f.csv"]);
    store.ledgerOf("quay").begin("full", "2026-11-25T10:00:00Z").note("A", priced("99.00 GBP"));
    await store.close();
    const again = await storeIn(folder, [{ layer: "shop" }]);
    again.ledgerOf("quay").begin("full", "2026-11-25T10:00:00Z");
    expect(again.ledgerOf("quay").markSent("2026-11-25T11:00:00Z")).toBe(1);
    expect(again.ledgerOf("quay").sent("A")?.price).toBe("10.00 GBP");
    await again.close();
  });

  it("when prices are noted while the catalogue is read, then neither stops the other", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,price\nA,10.00 GBP\nB,20.00 GBP\n");
    const notes = store.ledgerOf("quay").begin("full", "2026-11-25T10:00:00Z");
    let seen = 0;
    for await (const families of store.families())
      for (const { members } of families)
        for (const { sku } of members) {
          for (let copy = 0; copy < 6000; copy++) notes.note(`${sku}-${copy}`, priced("1.00 GBP"));
          seen++;
        }
    notes.commit(["f.csv"]);
    expect([seen, store.ledgerOf("quay").markSent("2026-11-25T11:00:00Z")]).toEqual([2, 12_000]);
    await store.close();
  });
});

describe("what web addresses answered", () => {
  it("when an answer is older than asked for, then it is not given; a newer one takes its place", async () => {
    const store = await newStore("shop");
    const answers = store.linkAnswers();
    answers.keep(new Map([["https://a.example/", "old"]]), "2026-03-01T08:00:00Z");
    expect(answers.get("https://a.example/", "2026-03-01T00:00:00Z")).toBe("old");
    expect(answers.get("https://a.example/", "2026-03-02T00:00:00Z")).toBeUndefined();
    answers.keep(new Map([["https://a.example/", "new"]]), "2026-03-02T08:00:00Z");
    expect(answers.get("https://a.example/", "2026-03-02T00:00:00Z")).toBe("new");
    expect(answers.get("https://b.example/", "")).toBeUndefined();
    await store.close();
  });
});

describe("a product's family", () => {
  it("when a product is named, then it comes with all members of its group; an unknown one with none", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,group,name\nA,G,one\nB,G,two\nC,,three\n");
    expect((await store.familyOf("B"))?.members.map(({ sku }) => sku)).toEqual(["A", "B"]);
    expect((await store.familyOf("C"))?.members.map(({ sku }) => sku)).toEqual(["C"]);
    expect(await store.familyOf("D")).toBeUndefined();
    await store.close();
  });
});
