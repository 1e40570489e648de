import fc from "fast-check";
import type { ChannelLedger, SentWish } from "../../../src/store/ledger.js";
import { describe, expect, it } from "vitest";
import type { LiveListing } from "../../../src/core/listing/live-listing.js";
import { keptListing } from "../../../src/core/listing/live-text.js";
import { newStore, noteAll, put, storeIn } from "../../kit/store.js";
import { temporaryFolder } from "../../kit/run.js";
import { runs } from "../../kit/runs.js";

const priced = (price: string): LiveListing => ({
  ...{ name: "Stool", gtin: undefined, price, category: "g.t", axes: "", group: undefined },
  values: { title: "Stool" },
});

const prices = async (ledger: ChannelLedger, ...skus: readonly string[]) => {
  const entries = await ledger.of({ skus });
  return skus.map((sku) => entries.get(sku)?.listing.price);
};

const built = async (ledger: ChannelLedger, ...entries: readonly (readonly [string, LiveListing])[]) => {
  const notes = await ledger.begin("full", "2026-11-25T10:00:00Z", "full");
  await noteAll(notes, entries);
  await notes.commit(["f.csv"]);
};

const LATER = "2026-11-25T11:00:00Z";

const SENT: SentWish = { kind: "full", at: LATER, whole: false, isTrial: false };

const everyEntry = async (ledger: ChannelLedger) => {
  const found: (readonly [string, LiveListing])[] = [];
  for await (const batch of ledger.entries())
    for (const { sku, listing } of batch) found.push([sku, listing]);
  return found;
};

describe("what a channel was given", () => {
  it("when a build is committed and sent, then its prices are those sent, and others stay as they were", async () => {
    const store = await newStore("shop");
    const ledger = store.ledgerOf("quay");
    expect([await ledger.isEmpty(), await ledger.nextNumber()]).toEqual([true, 1]);
    await built(ledger, ["A", priced("10.00 GBP")], ["B", priced("20.00 GBP")]);
    expect(await prices(ledger, "A")).toEqual([undefined]);
    expect((await ledger.of({ skus: ["A"], state: "built" })).get("A")?.listing.price).toBe("10.00 GBP");
    expect(await ledger.markSent(SENT)).toMatchObject({ listings: 2, ended: 0 });
    await built(ledger, ["A", priced("11.00 GBP")]);
    expect(await prices(ledger, "A", "B", "C")).toEqual(["10.00 GBP", "20.00 GBP", undefined]);
    expect(await ledger.markSent(SENT)).toMatchObject({ listings: 1, ended: 0 });
    expect(await prices(ledger, "A", "B")).toEqual(["11.00 GBP", "20.00 GBP"]);
    expect(await prices(store.ledgerOf("hall"), "A")).toEqual([undefined]);
    expect([await ledger.isEmpty(), await ledger.nextNumber()]).toEqual([false, 3]);
    expect(await ledger.builds()).toEqual([{ kind: "full", number: 2, files: ["f.csv"] }]);
    await store.close();
  });

  it("when a build is broken off, then the build before it is the one that is marked sent", async () => {
    const folder = temporaryFolder();
    const store = await storeIn(folder, [{ layer: "shop" }]);
    await built(store.ledgerOf("quay"), ["A", priced("10.00 GBP")]);
    const broken = await store.ledgerOf("quay").begin("full", LATER, "full");
    await noteAll(broken, [["A", priced("99.00 GBP")]]);
    await store.close();
    const again = await storeIn(folder, [{ layer: "shop" }]);
    const given = await again.ledgerOf("quay").begin("full", LATER, "full");
    await noteAll(given, [["A", priced("98.00 GBP")]]);
    await given.discard();
    expect(await again.ledgerOf("quay").markSent(SENT)).toMatchObject({ listings: 1 });
    expect(await prices(again.ledgerOf("quay"), "A")).toEqual(["10.00 GBP"]);
    await again.close();
  });

  it("when prices are noted while the catalogue is read, then neither stops the other", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,price\nA,10.00 GBP\nB,20.00 GBP\n");
    const ledger = store.ledgerOf("quay");
    const notes = await ledger.begin("full", LATER, "full");
    let seen = 0;
    for await (const families of store.families())
      for (const { members } of families)
        for (const { sku } of members) {
          for (let copy = 0; copy < 6000; copy++)
            await notes.note(seen * 6000 + copy, [keptListing(`${sku}-${copy}`, priced("1.00 GBP"))]);
          seen++;
        }
    await notes.commit(["f.csv"]);
    expect([seen, (await ledger.markSent(SENT)).listings]).toEqual([2, 12_000]);
    const all = await everyEntry(ledger);
    expect([all.length, new Set(all.map(([sku]) => sku)).size]).toEqual([12_000, 12_000]);
    await store.close();
  });

  it("when any listing is noted, then it comes back as it was, by its SKU and in its turn", async () => {
    const text = fc.string({ unit: "grapheme" });
    // A product's blank text is none at all.
    const maybe = fc.option(
      text.filter((one) => one !== ""),
      { nil: undefined },
    );
    const code = fc.stringMatching(/^[a-z]{1,8}$/);
    const listing: fc.Arbitrary<LiveListing> = fc.record(
      {
        ...{ name: maybe, gtin: maybe, price: maybe, category: text, axes: text, group: maybe },
        isGroup: fc.constant(true as const),
        withdrawn: fc.constant(true as const),
        values: fc.dictionary(code, text),
      },
      { requiredKeys: ["name", "gtin", "price", "category", "axes", "group", "values"] },
    );
    await fc.assert(
      fc.asyncProperty(fc.dictionary(text, listing, { maxKeys: 5 }), async (listings) => {
        const store = await newStore("shop");
        const ledger = store.ledgerOf("quay");
        await built(ledger, ...Object.entries(listings));
        await ledger.markSent(SENT);
        const found = await everyEntry(ledger);
        // Two signs of the store's own are no part of any text; NUL ends none.
        const clean = (value: unknown): unknown =>
          JSON.parse(JSON.stringify(value).replace(/\\u001[cd]/g, " "));
        const expected = Object.entries(listings).filter(([sku]) => sku !== "");
        expect(Object.fromEntries(found.map(([sku, one]) => [sku, clean(one)]))).toEqual(
          Object.fromEntries(expected.map(([sku, one]) => [sku, clean(one)])),
        );
        await store.close();
      }),
      { numRuns: runs(15, 300) },
    );
  });

  it("when a group is asked for, then its own row comes, with those of groups that it was split into", async () => {
    const store = await newStore("shop");
    const ledger = store.ledgerOf("quay");
    const row = (group: string, isGroup: boolean): LiveListing => ({
      ...priced("1.00 GBP"),
      group,
      ...(isGroup ? { isGroup } : {}),
    });
    await built(
      ledger,
      ...["G", "G-red", "G2", "GREEN", "g"].map((group) => [`row ${group}`, row(group, true)] as const),
      ["member", row("G", false)],
    );
    await ledger.markSent(SENT);
    expect([...(await ledger.of({ skus: [], groups: ["G"] })).keys()].sort()).toEqual(["row G", "row G-red"]);
    expect([...(await ledger.of({ skus: ["member"], groups: ["g"] })).keys()]).toEqual(["member", "row g"]);
    await store.close();
  });
});

describe("what web addresses answered", () => {
  it("when an answer is older than asked for, then it is not given; a newer one takes its place", async () => {
    const store = await newStore("shop");
    const answers = store.linkAnswers();
    const [a, b] = ["https://a.example/", "https://b.example/"];
    await answers.keep(new Map([[a, "old"]]), "2026-03-01T08:00:00Z");
    expect([...(await answers.of([a, b], "2026-03-01T00:00:00Z"))]).toEqual([[a, "old"]]);
    expect([...(await answers.of([a], "2026-03-02T00:00:00Z"))]).toEqual([]);
    await answers.keep(new Map([[a, "new"]]), "2026-03-02T08:00:00Z");
    expect([...(await answers.of([a], "2026-03-02T00:00:00Z"))]).toEqual([[a, "new"]]);
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
