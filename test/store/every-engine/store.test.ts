// What any engine of the store must do; an engine is put to it by `storeIn` of the kit.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Doubt } from "../../../src/core/catalogue/cell-reader.js";
import { REMOVAL } from "../../../src/store/store.js";
import { temporaryFolder } from "../../kit/run.js";
import { familiesOf, newStore, put, shown, storeIn } from "../../kit/store.js";
import { runs } from "../../kit/runs.js";

const kinds = (result: Awaited<ReturnType<typeof put>>): readonly string[] =>
  result.fates.map(({ fate }) => fate);

describe("layers in the store", () => {
  it("when layers speak of one product, then the higher wins, a blank says nothing and a clear word says none", async () => {
    const store = await newStore("maker", "shop");
    await put(store, "shop", "sku,name,price\nA,Stool,5.00 GBP");
    await put(store, "maker", "sku,name,cost,color\nA,Maker's stool,2.00 GBP,red", { mode: "update" });
    expect(await shown(store, "A", "name,price,cost,color")).toBe("Stool,5.00 GBP,2.00 GBP,red");
    await put(store, "shop", "sku,name,color\nA,,(none)");
    expect(await shown(store, "A", "name,color")).toBe("Stool,-");
    await put(store, "shop", "sku,color\nA,(back)");
    expect(await shown(store, "A", "color")).toBe("red");
  });

  it("when an edit is made and taken back, then what files say shows again", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,price\nA,5.00 GBP");
    await put(store, "edits", "sku,price\nA,9.00 GBP", { kind: "edit", mode: "update" });
    await put(store, "shop", "sku,price\nA,6.00 GBP");
    expect(await shown(store, "A", "price")).toBe("9.00 GBP");
    await put(store, "edits", "sku,price\nA,(back)", { kind: "edit", mode: "update" });
    expect(await shown(store, "A", "price")).toBe("6.00 GBP");
  });

  it("when a channel's layer is named no more, then its words stay that channel's, and lie lowest", async () => {
    const folder = temporaryFolder();
    const before = await storeIn(folder, [{ layer: "shop" }, { layer: "fair", channel: "quay" }]);
    await put(before, "shop", "sku,name,price\nA,Stool,12.00 GBP");
    await put(before, "fair", "sku,price,listed\nA,15.00 GBP,no");
    await before.close();
    const after = await storeIn(folder, [{ layer: "shop" }]);
    expect(await shown(after, "A", "price,listed")).toBe("12.00 GBP,-");
    expect(await shown(after, "A", "price,listed", "quay")).toBe("12.00 GBP,no");
    await after.close();
  });

  it("when a layer is for one channel, then that channel alone sees it", async () => {
    const store = await newStore("shop", "copy@stall");
    await put(store, "shop", "sku,name\nA,Stool\nB,Bench");
    await put(store, "copy", "sku,name\nA,A fine stool", { mode: "update" });
    expect([await shown(store, "A", "name"), await shown(store, "A", "name", "stall")]).toEqual([
      "Stool",
      "A fine stool",
    ]);
    for await (const batch of store.families()) {
      const names = batch.flatMap((family) =>
        family
          .membersOn("stall")
          .map((product) => `${product.sku} ${product.text(product.attributes.slot("name") ?? -1) ?? ""}`),
      );
      expect(names).toEqual(["A A fine stool", "B Bench"]);
    }
  });

  it("when a value is asked for, then its layer, file, row and column are known", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,name\nA,Stool\nB,Bench");
    const product = await store.product("B");
    const origin = product?.origin(product.attributes.slot("name") ?? -1);
    expect(origin === undefined ? origin : store.placeOf(origin, "name")).toEqual({
      layer: "shop",
      file: "shop.csv",
      row: 3,
      column: "Column name",
    });
  });

  it("when any sequence of imports is made, then the merged values are those of a simple model", async () => {
    const cell = fc.constantFrom("", "x", "y", "z", "(none)", "(back)");
    const step = fc.record({
      layer: fc.constantFrom("low", "high"),
      sku: fc.constantFrom("A", "B"),
      name: cell,
      color: cell,
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 8 }), async (steps) => {
        const store = await newStore("low", "high");
        const model = new Map<string, Map<string, string>>();
        for (const { layer, sku, name, color } of steps) {
          await put(store, layer, `sku,name,color\n${sku},${name},${color}`);
          for (const [attribute, text] of [
            ["name", name],
            ["color", color],
          ] as const) {
            const key = `${layer} ${sku}`;
            const said = model.get(key) ?? new Map<string, string>();
            if (text === "(back)") said.delete(attribute);
            else if (text !== "") said.set(attribute, text);
            model.set(key, said);
          }
        }
        for (const sku of ["A", "B"])
          for (const attribute of ["name", "color"]) {
            const text = model.get(`high ${sku}`)?.get(attribute) ?? model.get(`low ${sku}`)?.get(attribute);
            const is = await shown(store, sku, attribute);
            expect(is === "no product" ? "-" : is).toBe(text === undefined || text === "(none)" ? "-" : text);
          }
        await store.close();
      }),
      { numRuns: runs(12, 250) },
    );
  });
});

describe("rows and the products they mean", () => {
  it("when a row is new, known, the same, or comes twice, then each is told apart", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,name\nA,Stool\nB,Bench");
    expect(kinds(await put(store, "shop", "sku,name\nA,Stool\nB,Long bench\nC,Table\nC,Table two"))).toEqual([
      "unchanged",
      "changed",
      "added",
      "repeated",
    ]);
    expect((await put(store, "shop", "sku,name\nA,Stool")).revision).toBeUndefined();
    expect(await store.history()).toHaveLength(2);
  });

  it("when a source only updates or only adds, then the other rows are left alone", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,name\nA,Stool");
    expect(kinds(await put(store, "shop", "sku,name\nA,Stool!\nZ,Zither", { mode: "update" }))).toEqual([
      "changed",
      "unmatched",
    ]);
    const added = await put(store, "shop", "sku,name\nA,Stool?\nB,Bench", { mode: "add" });
    expect(added.fates[0]).toMatchObject({ fate: "unchanged", known: true });
    expect([await shown(store, "A", "name"), await shown(store, "B", "name")]).toEqual(["Stool!", "Bench"]);
  });

  it("when rows are matched by barcode, then any length finds it, and the key is no news", async () => {
    const store = await newStore("shop", "stock");
    await put(store, "shop", "sku,gtin\nA,9524000001016\nB,95240005");
    const stock = await put(store, "stock", "gtin,quantity\n09524000001016,3\n95240005,4\n9524000001023,5", {
      keys: ["gtin"],
      mode: "update",
    });
    expect(kinds(stock)).toEqual(["changed", "changed", "unmatched"]);
    expect(await shown(store, "A", "gtin,quantity")).toBe("9524000001016,3");
    await put(store, "shop", "sku,gtin\nA,9524000001030");
    expect(
      kinds(
        await put(store, "stock", "gtin,quantity\n9524000001016,9\n9524000001030,8", {
          keys: ["gtin"],
          mode: "update",
        }),
      ),
    ).toEqual(["unmatched", "changed"]);
    expect(await shown(store, "A", "gtin,quantity")).toBe("9524000001030,8");
  });

  it("when a key belongs to several products, or two keys to different ones, then nothing is decided", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,mpn,gtin\nA,P-1,9524000001016\nB,P-1,9524000001023\nC,P-2,9524000001030");
    const prices = await put(
      store,
      "shop",
      "mpn,gtin,price\nP-1,,1.00 GBP\nP-2,,2.00 GBP\nP-2,9524000001016,3.00 GBP",
      { keys: ["mpn", "gtin"], mode: "update" },
    );
    expect(prices.fates).toMatchObject([
      { fate: "ambiguous", key: "mpn", value: "P-1", skus: ["A", "B"] },
      { fate: "changed", sku: "C" },
      {
        fate: "disagree",
        keys: [
          { key: "mpn", value: "P-2", sku: "C" },
          { key: "gtin", value: "9524000001016", sku: "A" },
        ],
      },
    ]);
  });

  it("when the first key finds nothing, then the next is tried", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,mpn\nA,P-1");
    const row = "gtin,mpn,price\n9524000001016,P-1,1.00 GBP";
    const found = { keys: ["gtin", "mpn"], mode: "update" } as const;
    const first = await put(store, "shop", row, found);
    expect(first.fates).toMatchObject([
      { fate: "changed", keysApart: [{ key: "gtin", value: "9524000001016", has: "", by: "mpn" }] },
    ]);
    expect([await shown(store, "A", "price"), await shown(store, "A", "gtin")]).toEqual(["1.00 GBP", "-"]);
    await put(store, "shop", row, { ...found, writesKeys: true });
    expect(await shown(store, "A", "gtin")).toBe("9524000001016");
  });

  it("when a key lost the zeros before it, then the one product that fits is found, and told", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,mpn,gtin\n00123,0077,9524000001016\nB,0088,\nC,00088,");
    const update = (rows: string, ...keys: readonly string[]) =>
      put(store, "list", rows, { keys, mode: "update" });
    const { fates } = await update("sku,name\n123,Stool", "sku");
    expect(fates).toMatchObject([
      { fate: "changed", sku: "00123", keyMended: { key: "sku", value: "123", now: "00123" } },
    ]);
    // Two products fit: neither is meant more than the other.
    const listed = await update("mpn,cost\n77,1.00 GBP\n88,2.00 GBP", "mpn");
    expect(kinds(listed)).toEqual(["changed", "ambiguous"]);
    expect(listed.fates[1]).toMatchObject({ key: "mpn", value: "88", skus: ["B", "C"], butForZeros: true });
  });

  it("when a row is found by one key, then another that a spreadsheet damaged replaces nothing", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,mpn,gtin\nA,00077,9524000001016");
    await put(store, "list", "gtin,mpn,cost\n9524000001016,77,1.00 GBP", {
      keys: ["gtin", "mpn"],
      mode: "update",
    });
    expect([await shown(store, "A", "mpn"), await shown(store, "A", "cost")]).toEqual(["00077", "1.00 GBP"]);
  });

  it("when two products get one barcode, then the later row names the other", async () => {
    const store = await newStore("shop");
    const { fates } = await put(store, "shop", "sku,gtin\nA,9524000001016\nB,9524000001016");
    expect(fates).toMatchObject([{ fate: "added" }, { fate: "added", sameGtin: ["A"] }]);
  });

  it("when a known SKU comes as another product, then it is refused; a retired one stays known", async () => {
    const store = await newStore("shop");
    const { revision = 0 } = await put(store, "shop", "sku,name,gtin\nA,Cedar hive,9524000001016");
    const other = "sku,name,gtin\nA,Rubber boots,9524000001023";
    expect((await put(store, "shop", other)).fates).toMatchObject([
      { fate: "reused", sku: "A", was: "Cedar hive", now: "Rubber boots" },
    ]);
    const transaction = await store.begin();
    await transaction.undo([revision], "2026-11-25T09:00:00.000Z");
    await transaction.commit();
    expect(await shown(store, "A", "name")).toBe("no product");
    expect(kinds(await put(store, "shop", other))).toEqual(["reused"]);
    expect(kinds(await put(store, "shop", "sku,name,gtin\nA,Cedar hive,9524000001016"))).toEqual(["added"]);
  });

  it("when a damaged value fits what the catalogue has, then it is proved; else it is not taken", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,size\nA,10-12\nB,XL");
    const doubt: Doubt = {
      attribute: "size",
      column: "Size",
      written: "10-Dec",
      damage: "date",
      candidates: ["10-12"],
    };
    const { fates } = await put(store, "shop", "sku,name\nA,Glove\nB,Glove", { doubts: [doubt] });
    expect(fates).toMatchObject([{ doubts: [{ proved: "10-12" }] }, { doubts: [{ proved: undefined }] }]);
  });

  it("when a sheet of the catalogue itself comes back, then only what differs from the merged product is an edit", async () => {
    const store = await newStore("maker", "shop");
    await put(store, "shop", "sku,name\nA,Stool");
    await put(store, "maker", "sku,color\nA,red", { mode: "update" });
    const sheet = await put(store, "edits", "sku,name,color,size\nA,Stool,blue,", {
      compare: "merged",
      tellChanges: true,
    });
    expect(sheet.fates).toMatchObject([
      { fate: "changed", changes: [{ attribute: "color", before: "red", after: "blue" }] },
    ]);
    expect((await store.opinions("A")).filter(({ place }) => place.layer === "edits")).toHaveLength(1);
  });
});

describe("a layer that is replaced", () => {
  it("when a new delivery comes, then what it does not say again is gone, and what vanished is told and stays", async () => {
    const store = await newStore("maker", "shop");
    await put(store, "shop", "sku,name\nA,Stool\nB,Bench\nC,Table");
    await put(store, "maker", "sku,cost,color\nA,1.00 GBP,red\nB,2.00 GBP,blue", { mode: "update" });
    const again = await put(store, "maker", "sku,cost\nA,1.50 GBP", { mode: "update", replace: true });
    expect(again.vanished).toEqual(["B"]);
    expect([await shown(store, "A", "cost,color"), await shown(store, "B", "cost,color")]).toEqual([
      "1.50 GBP,-",
      "2.00 GBP,blue",
    ]);
  });

  it("when vanished products are to be dropped, then the layer says nothing of them any more", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,name\nA,Stool\nB,Bench");
    await put(store, "edits", "sku,color\nB,red", { kind: "edit", mode: "update" });
    const again = await put(store, "shop", "sku,name\nA,Stool", { replace: true, drop: true });
    expect(again.vanished).toEqual(["B"]);
    expect([await shown(store, "A", "name"), await shown(store, "B", "name,color")]).toEqual([
      "Stool",
      "no product",
    ]);
    expect((await put(store, "shop", "sku,name\nA,Stool", { replace: true })).revision).toBeUndefined();
  });
});

describe("groups", () => {
  it("when a group has a record of its own, then members inherit from it within its layer", async () => {
    const store = await newStore("shop", "copy");
    await put(store, "shop", "sku,group,name,color\n@,G,Glove,\nG-1,G,,red\nG-2,G,Left glove,blue");
    await put(store, "copy", "sku,group,name,color\n@,G,Fine glove,", { mode: "update" });
    expect([await shown(store, "G-1", "name,color"), await shown(store, "G-2", "name")]).toEqual([
      "Fine glove,red",
      "Fine glove",
    ]);
    expect(await familiesOf(store)).toEqual(["G: G-1 G-2"]);
    expect(await store.groupMembers("G")).toEqual(["G-1", "G-2"]);
  });

  it("when members move between groups and out of them, then families follow, also when that is undone", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,group\nA,G\nB,G\nC,\nD,H");
    expect(await familiesOf(store)).toEqual(["G: A B", "-: C", "H: D"]);
    const { revision = 0 } = await put(store, "shop", "sku,group\nA,(none)\nC,G\nD,G");
    expect(await familiesOf(store)).toEqual(["-: A", "G: B C D"]);
    const transaction = await store.begin();
    const undo = await transaction.undo([revision], "2026-11-25T09:00:00.000Z");
    await transaction.commit();
    expect([...(await familiesOf(store))].sort()).toEqual(["-: C", "G: A B", "H: D"]);
    const again = await store.begin();
    await again.undo([undo], "2026-11-25T09:01:00.000Z");
    await again.commit();
    expect(await familiesOf(store)).toEqual(["-: A", "G: B C D"]);
  });

  it("when a new group begins at a product that another group began at, then the two stay apart", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,group\nA,G\nB,G");
    await put(store, "shop", "sku,group\nA,H");
    await put(store, "shop", "sku,group\nA,J\nC,H");
    expect(await familiesOf(store)).toEqual(["G: B", "H: C", "J: A"]);
  });

  it("when an act touched groups, then those with one member or with twins are looked at again", async () => {
    const store = await newStore("shop");
    const transaction = await store.begin();
    const writer = await transaction.revision({
      kind: "import",
      layer: "shop",
      source: "shop",
      file: "shop.csv",
      at: "2026-11-25",
      keys: ["sku"],
      mode: "both",
      compare: "layer",
      replace: false,
      tellChanges: false,
      columns: ["sku", "group", "color"].map((attribute) => ({ attribute, column: attribute })),
    });
    const rows = ["A-1,A,red", "A-2,A,blue", "B-1,B,red", "C-1,C,red", "C-2,C,red", "bc-7,,", "BC-07,,"];
    await writer.put(
      rows.map((row, index) => ({ kind: "product", row: index, texts: row.split(","), doubts: [] })),
    );
    const touched: string[] = [];
    for await (const batch of transaction.touchedFamilies())
      touched.push(...batch.map(({ group }) => group ?? ""));
    expect(touched).toEqual(["B", "C"]);
    expect(await transaction.skuTwins()).toEqual([["BC-07", "bc-7"]]);
    expect([
      await transaction.isKnown("A-1"),
      await transaction.isKnown("A"),
      await transaction.hasGroupRecord("A"),
    ]).toEqual([true, false, false]);
    await transaction.rollback();
    expect(await store.isEmpty()).toBe(true);
  });
});

describe("what a correction leaves", () => {
  const update = { mode: "update", source: "list" } as const;
  const rules = (columns: Readonly<Record<string, string>>) => ({ rules: { columns, rest: "" } });

  it("when a number without its zeros lies over the same with them, then the zeros stay, whichever came first", async () => {
    const store = await newStore("shop", "list");
    await put(store, "list", "sku,mpn\nA,4422");
    expect(await shown(store, "A", "mpn")).toBe("4422");
    await put(store, "shop", "sku,mpn,name\nA,004422,Stool\nB,004423,Bench");
    expect(await shown(store, "A", "mpn")).toBe("004422");
    const { fates } = await put(store, "list", "sku,mpn\nB,4423", update);
    expect(fates).toMatchObject([
      { fate: "unchanged", zerosKept: [{ key: "mpn", value: "4423", now: "004423" }] },
    ]);
    expect(await shown(store, "B", "mpn")).toBe("004423");
    // What a person writes is meant so.
    await put(store, "edits", "sku,mpn\nA,4422", { kind: "edit", mode: "update" });
    expect(await shown(store, "A", "mpn")).toBe("4422");
  });

  it("when a column becomes a key, then what the list wrote from it before goes, and a value it never wrote stays", async () => {
    const store = await newStore("shop", "list");
    await put(store, "shop", "sku,mpn,gtin\nA,P-1,9524000001016\nB,P-2,9524000001023");
    const row = "gtin,mpn,cost\n9524000001016,P-1X,1.00 GBP";
    await put(store, "list", row, { ...update, keys: ["gtin"], ...rules({ mpn: "part", cost: "c" }) });
    expect(await shown(store, "A", "mpn")).toBe("P-1X");
    await put(store, "list", row, { ...update, keys: ["gtin", "mpn"], ...rules({ cost: "c" }) });
    expect([await shown(store, "A", "mpn,cost"), await shown(store, "B", "mpn")]).toEqual([
      "P-1,1.00 GBP",
      "P-2",
    ]);
  });

  it("when a rule changed twice, then a blank cell takes back nothing that the present rule gave", async () => {
    const store = await newStore("shop");
    const put1 = (cell: string, rule: string) =>
      put(store, "shop", `sku,name,color\nA,Stool,${cell}`, rules({ name: "n", color: rule }));
    await put1("red", "first");
    await put1("green", "second");
    await put1("", "second");
    expect(await shown(store, "A", "color")).toBe("green");
    await put1("", "third");
    expect(await shown(store, "A", "color")).toBe("-");
  });

  it("when keys are written where a product has none, then what it has stays and is told", async () => {
    const store = await newStore("shop", "list");
    await put(store, "shop", "sku,mpn,gtin\nA,P-1,\nB,P-2,9524000001023");
    const { fates } = await put(store, "list", "mpn,gtin\nP-1,9524000001016\nP-2,9524000001030", {
      ...update,
      keys: ["mpn", "gtin"],
      writesKeys: "where-blank",
    });
    expect(fates).toMatchObject([
      { fate: "changed", sku: "A" },
      { fate: "unchanged", sku: "B", keysApart: [{ key: "gtin", has: "9524000001023" }] },
    ]);
    expect(fates[0]).not.toHaveProperty("keysApart");
    expect([await shown(store, "A", "gtin"), await shown(store, "B", "gtin")]).toEqual([
      "9524000001016",
      "9524000001023",
    ]);
  });

  it("when a product was removed, then files that name it bring it back only once that is undone", async () => {
    const store = await newStore("shop");
    await put(store, "shop", "sku,name\nA,Stool\nB,Bench");
    const transaction = await store.begin();
    const writer = await transaction.revision({
      ...{ kind: "edit", layer: "shop", source: "", file: REMOVAL, at: "2026-11-25T08:00:00.000Z" },
      ...{ columns: [], keys: ["sku"], mode: "update", compare: "layer", replace: false, tellChanges: false },
    });
    await writer.drop(["A"]);
    const removal = await writer.finish({ read: 1, added: 0, changed: 1, unchanged: 0, rejected: 0 });
    await transaction.commit();
    const again = await put(store, "shop", "sku,name\nA,Stool with a back\nB,Bench\na,Stool");
    expect(again.fates).toMatchObject([
      { fate: "removed", sku: "A", revision: removal },
      { fate: "unchanged" },
      { fate: "added" },
    ]);
    expect([await shown(store, "A", "name"), await store.skuTwins(), await store.skusNear("A")]).toEqual([
      "no product",
      [],
      ["a", "B", "a"],
    ]);
    const undoing = await store.begin();
    await undoing.undo([removal ?? 0], "2026-11-25T08:00:00.000Z");
    await undoing.commit();
    expect(await shown(store, "A", "name")).toBe("Stool");
    expect(await store.skuTwins()).toEqual([["a", "A"]]);
  });
});
