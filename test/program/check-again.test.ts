import Database from "better-sqlite3";
import fc from "fast-check";
import { readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { runs } from "../kit/runs.js";
import { filesIn } from "../kit/killed.js";
import { copyOf, lexicant, read, write } from "../kit/run.js";

const kept = join(".lexicant", "kept");
const columns = "sku,group,name,mpn,gtin,category,price,description,color,images,quantity,status,parts".split(
  ",",
);

const source = `layer: shop
currency: GBP
columns:
${columns.map((name) => `  ${name === "parts" ? "bundle_of" : name}: ${name}`).join("\n")}
`;

const COUNT = 60;
const skuOf = (at: number): string => `N-${String(at).padStart(3, "0")}`;

/** What many rows came to would come to all of them: what stands between products is rare. */
const rarely = (usual: string, ...others: readonly string[]): fc.Arbitrary<string> =>
  fc.oneof(
    { weight: 12, arbitrary: fc.constant(usual) },
    { weight: 1, arbitrary: fc.constantFrom(...others) },
  );

/** A row that has much in common with others, wherever they stand. */
const row = fc
  .record({
    group: fc.constantFrom("", "", "Pots", "Twines", "Gloves"),
    name: fc.constantFrom("Clay Pot", "Pot, clay", "Jute Twine", "Glove", "Seed Tray", ""),
    mpn: rarely("own", "M-12", "M-13"),
    gtin: rarely("", "9524000003010", "9524000003027", "9524000004017"),
    category: fc.constantFrom("Tools > Hand tools", "Beekeeping > Hives", "Sundries", ""),
    price: fc.constantFrom("2.50", "19.00", "0.10", "nothing", ""),
    description: fc.constantFrom("Fired twice.", "<b>Ring 0800 555 0123</b>", ""),
    color: fc.constantFrom("red", "greenish", ""),
    images: fc.constantFrom("https://brindlecote.example/c.jpg", "https://brindlecote.example/d.jpg", ""),
    quantity: fc.constantFrom("0", "12", ""),
    status: fc.constantFrom("on sale", "on sale", "draft"),
    parts: rarely("", "2 x N-001", "N-002|N-003", "N-004|N-010"),
  })
  .map((cells) => Object.values(cells).join(","));

type Act =
  | { readonly act: "import"; readonly rows: readonly (readonly [number, string])[] }
  | { readonly act: "undo" | "send" | "place" };

const act: fc.Arbitrary<Act> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc.record({
      act: fc.constant("import" as const),
      // Products that were not there come too.
      rows: fc.uniqueArray(fc.tuple(fc.nat(COUNT + 3), row), {
        minLength: 1,
        maxLength: 5,
        selector: ([at]) => at,
      }),
    }),
  },
  { weight: 2, arbitrary: fc.record({ act: fc.constantFrom("undo" as const, "send" as const) }) },
  { weight: 1, arbitrary: fc.record({ act: fc.constant("place" as const) }) },
);

const imported = (shop: string, rows: readonly (readonly [number, string])[]): void => {
  write(
    shop,
    "data/nursery.csv",
    [
      columns.join(","),
      ...rows.map(([at, cells]) => `${skuOf(at)},${cells.replace("own", `M-${at + 10}`)}`),
    ].join("\n"),
  );
  lexicant(shop, ["import", "data/nursery.csv", "--source", "nursery"]);
};

const done = (shop: string, one: Act): void => {
  if (one.act === "import") imported(shop, one.rows);
  else if (one.act === "undo") lexicant(shop, ["undo"]);
  else if (one.act === "send") {
    lexicant(shop, ["build", "lanternlist", "--confirm-prices", "all"]);
    expect(lexicant(shop, ["sent", "lanternlist"]).exit).toBe(0);
  } else {
    const placements = "channels/lanternlist/placements.csv";
    write(shop, placements, `${read(shop, placements).trimEnd()}\nSundries,garden.tools.hand,,\n`);
  }
};

const told = (shop: string): readonly string[] => {
  // What is told as it comes cannot be told anew; causes are shown when all is known.
  const causes = lexicant(shop, ["check", "lanternlist", "fjordhandel"]);
  const all = lexicant(shop, ["check", "lanternlist", "fjordhandel", "--json"]);
  expect([all.exit, causes.exit]).not.toContain(3);
  return [all.out, causes.out];
};

/** A copy of which nothing was kept. */
const withoutKept = (shop: string): string => {
  const copy = copyOf(shop);
  rmSync(join(copy, kept), { recursive: true, force: true });
  return copy;
};

const toldAnew = (shop: string): readonly string[] => told(withoutKept(shop));

/** What a build of changed listings says and writes. */
const changedIn = (shop: string): unknown => {
  const { exit, out } = lexicant(shop, ["build", "lanternlist", "--changed"]);
  expect(exit).toBeLessThan(2);
  const files = Object.entries(filesIn(shop)).filter(([name]) => name.startsWith("out/"));
  return { exit, out, files };
};

const nursery = (rows: readonly string[], reference = "mpn or sku"): string => {
  const shop = smallShop();
  write(shop, "sources/nursery.yaml", source);
  imported(shop, [...rows.entries()]);
  // By the maker's number listings have ids that are not the SKUs.
  const fills = "channels/lanternlist/fills.yaml";
  write(shop, fills, read(shop, fills).replace("  ref: sku\n", `  ref: ${reference}\n`));
  // What it takes depends on the stock, that of bundles on their parts', and on the price that it was sent last.
  const policy = "channels/lanternlist/channel.yaml";
  const own = read(shop, policy).replace('status = "on sale"', 'status = "on sale" and quantity > 0');
  write(shop, policy, `${own}\nprices:\n  greatest_change: 20\n`);
  return shop;
};

const keptFiles = (shop: string): readonly string[] =>
  readdirSync(join(shop, kept), { withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map(({ name }) => join(shop, kept, name));

describe("a check of what changed", () => {
  it("when anything was imported, undone, sent or decided since, then it tells what a check of all tells", () =>
    fc.assert(
      fc.property(
        fc.array(row, { minLength: COUNT, maxLength: COUNT }),
        fc.array(act, { minLength: 3, maxLength: 5 }),
        fc.constantFrom("mpn or sku", "sku"),
        (rows, acts, reference) => {
          const shop = nursery(rows, reference);
          told(shop);
          for (const one of acts) {
            done(shop, one);
            expect(told(shop)).toEqual(toldAnew(shop));
          }
        },
      ),
      { numRuns: runs(1, 60), endOnFailure: true },
    ));

  it("when a build of changed listings comes after anything, then its files and record are those of a build of all", () =>
    fc.assert(
      fc.property(
        fc.array(row, { minLength: COUNT, maxLength: COUNT }),
        fc.array(act, { minLength: 2, maxLength: 3 }),
        (rows, acts) => {
          const shop = nursery(rows);
          done(shop, { act: "send" });
          for (const one of [...acts, { act: "send" } as const]) {
            const copy = withoutKept(shop);
            expect(changedIn(shop)).toEqual(changedIn(copy));
            done(shop, one);
            expect(changedIn(shop)).toEqual(changedIn(withoutKept(shop)));
          }
        },
      ),
      { numRuns: runs(1, 20), endOnFailure: true },
    ));

  it("when another product changed, what a channel has, or an id that another has too, then what depends on it is looked at", () => {
    const usual = {
      category: "Tools > Hand tools",
      price: "19.00",
      quantity: "12",
      status: "on sale",
      mpn: "own",
    };
    const rowOf = (cells: Readonly<Record<string, string>>): string =>
      columns
        .slice(1)
        .map((name) => ({ ...usual, ...cells })[name] ?? "")
        .join(",");
    const named = (at: number, more: Readonly<Record<string, string>> = {}): string =>
      rowOf({ name: `Tool of kind ${at}`, description: `Made for work ${at}.`, ...more });
    const rows = Array.from({ length: COUNT }, (_, at) => named(at));
    rows[30] = named(30, { gtin: "9524000987655" });
    rows[20] = named(20, { quantity: "", parts: "2 x N-001" });
    rows[21] = named(21, { quantity: "", parts: "N-020" });
    const shop = nursery(rows);
    const settled = (): string => {
      const now = told(shop);
      expect(now).toEqual(toldAnew(shop));
      return now[0] ?? "";
    };
    const found = (code: string, sku: string): boolean =>
      settled()
        .split("\n")
        .some((line) => line.includes(`"${code}"`) && line.includes(`"${sku}"`));
    const leftOut = (): number => Number(/(\d+) products: it does not meet/.exec(told(shop)[1] ?? "")?.[1]);
    done(shop, { act: "send" });
    settled();
    const before = leftOut();
    imported(shop, [[1, named(1, { quantity: "1" })]]);
    settled();
    // The bundle, and the bundle of that.
    expect(leftOut()).toBe(before + 2);
    imported(shop, [[5, named(5, { mpn: "M-22" })]]);
    expect(found("repeated-id", "N-012")).toBe(true);
    done(shop, { act: "undo" });
    expect(found("repeated-id", "N-012")).toBe(false);
    imported(shop, [[6, named(6, { gtin: "9524000987655" })]]);
    expect(found("shared-barcode", "N-030")).toBe(true);
    done(shop, { act: "undo" });
    expect(found("shared-barcode", "N-030")).toBe(false);
    write(shop, "data/price.csv", "sku,price\nBC-1101-10,2.50\n");
    write(shop, "sources/price.yaml", "layer: shop\ncolumns:\n  sku: sku\n  price: price\n");
    lexicant(shop, ["import", "data/price.csv", "--source", "price"]);
    expect(found("price-jump", "BC-1101-10")).toBe(true);
    done(shop, { act: "send" });
    expect(found("price-jump", "BC-1101-10")).toBe(false);
    done(shop, { act: "undo" });
    expect(found("price-jump", "BC-1101-10")).toBe(true);
  });

  it("when listings have ids of their own for the first time, then those that meet are told, whenever that shows", () => {
    const rowOf = (at: number, mpn: string): string =>
      `,Tool of kind ${at},${mpn},,Tools > Hand tools,19.00,Made for work ${at}.,,,12,on sale,`;
    const shop = nursery(
      Array.from({ length: COUNT }, (_, at) => rowOf(at, "")),
      "mpn or sku",
    );
    const before = told(shop);
    imported(shop, [
      [3, rowOf(3, "M-7")],
      [50, rowOf(50, "M-7")],
    ]);
    const [found = "", causes] = told(shop);
    expect(found).toContain("repeated-id");
    expect([found, causes]).toEqual(toldAnew(shop));
    // The other of the two is told by what changed in this one.
    imported(shop, [[50, rowOf(50, "M-8")]]);
    expect(told(shop)).toEqual(toldAnew(shop));
    for (let undos = 0; undos < 2; undos++) done(shop, { act: "undo" });
    expect(told(shop)).toEqual(before);
  });

  it("when nothing changed a product, then it is not looked at again; when something did, then it is", () => {
    const shop = smallShop();
    const before = told(shop);
    // Behind the program's back: no revision says so.
    const store = new Database(join(shop, ".lexicant", "store.db"));
    store.exec("UPDATE record SET texts = replace(texts, 'Bee Brush', 'Bee Brush <script>')");
    store.close();
    expect(toldAnew(shop)).not.toEqual(before);
    expect(told(shop)).toEqual(before);
    write(shop, "channels/lanternlist/channel.yaml", `${read(shop, "channels/lanternlist/channel.yaml")}\n`);
    expect(told(shop)).toEqual(toldAnew(shop));
  });

  it("when what was kept is torn, or nothing can be kept, then all is looked at, and told as ever", () => {
    const shop = smallShop();
    const before = told(shop);
    for (const file of keptFiles(shop)) {
      const bytes = readFileSync(file);
      bytes[bytes.length >> 1] = (bytes[bytes.length >> 1] ?? 0) ^ 0xff;
      writeFileSync(file, bytes);
    }
    expect(told(shop)).toEqual(before);
    for (const file of keptFiles(shop)) writeFileSync(file, readFileSync(file).subarray(0, 3000));
    expect(told(shop)).toEqual(before);
    rmSync(join(shop, kept), { recursive: true });
    writeFileSync(join(shop, kept), "no folder");
    expect(told(shop)).toEqual(before);
  });

  it("when checks of many choices of channels were made, then few are kept", () => {
    const shop = smallShop();
    const names = ["lanternlist", "fjordhandel", "merrowgate", "gavelstead"];
    for (const first of names)
      for (const second of names) if (first < second) lexicant(shop, ["check", first, second]);
    for (const name of names) lexicant(shop, ["check", name]);
    expect(keptFiles(shop)).toHaveLength(6);
  });
});
