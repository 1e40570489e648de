import fc from "fast-check";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { runs } from "../kit/runs.js";
import { filesIn } from "../kit/killed.js";
import { copyOf, lexicant, lexicantProcess, read, temporaryFolder, write } from "../kit/run.js";

const columns = "sku,group,name,brand,mpn,gtin,category,price,description,color,images,quantity,status";

const source = `layer: shop\ncurrency: GBP\ncolumns:\n${columns
  .split(",")
  .map((name) => `  ${name}: ${name}`)
  .join("\n")}\n`;

const gtins = ["9524000001016", "9524000001023", "9524000002013", "9524000002020", "", "", "", ""];

/** A row whose values are those of others, again and again: near each other and far apart. */
const goods = fc.record({
  group: fc.constantFrom("", "", "", "G-1", "G-2", "G-3", "G-4", "G-5"),
  name: fc.constantFrom("Copper Trowel", "Trowels, copper", "Oak Dibber", "Bee Brush", "Hive Tool", "Smoker"),
  brand: fc.constantFrom("Tarnbeck", "Fernditch", ""),
  mpn: fc.constantFrom("T-1", "T-2", "T-3", "T-4", "T-5", "T-6", "", "", "", ""),
  gtin: fc.constantFrom(...gtins),
  category: fc.constantFrom("Tools > Hand tools", "Beekeeping > Hives", "Odds and ends", ""),
  price: fc.constantFrom("1.50", "12.00", "150.00", "0.99", ""),
  description: fc.constantFrom("<p>Made to last.</p>", "Call 0800 555 0199", "All of it &amp; more", ""),
  color: fc.constantFrom("red", "mauvish", ""),
  images: fc.constantFrom("https://brindlecote.example/a.jpg", "https://brindlecote.example/b.jpg", ""),
  quantity: fc.constantFrom("0", "3", "many"),
  status: fc.constantFrom("on sale", "on sale", "on sale", "draft"),
});

const shopOf = (rows: readonly Readonly<Record<string, string>>[]): string => {
  const shop = smallShop();
  write(shop, "sources/extra.yaml", source);
  const lines = rows.map((row, at) => [`X-${String(at).padStart(4, "0")}`, ...Object.values(row)].join(","));
  write(shop, "data/extra.csv", [columns, ...lines].join("\n"));
  expect(lexicant(shop, ["import", "data/extra.csv", "--source", "extra"]).exit).toBeLessThan(2);
  // The channel knows listings by the maker's number here: ids that are not the SKUs, and meet.
  const fills = "channels/lanternlist/fills.yaml";
  write(shop, fills, read(shop, fills).replace("  ref: sku\n", "  ref: mpn or sku\n"));
  return shop;
};

const channels = ["lanternlist", "fjordhandel"];

/** All that is said and written by so many threads. */
const doneBy = (shop: string, workers: number) => {
  const own = copyOf(shop);
  const spread = ["--workers", String(workers)];
  const checked = lexicant(own, ["check", ...channels, "--json", ...spread]);
  const built = lexicant(own, ["build", ...channels, ...spread]);
  return {
    ...{ checked: checked.out, exits: [checked.exit, built.exit], built: built.out, files: filesIn(own) },
    ledger: lexicant(own, ["diff", "lanternlist", "--json"]).out,
    readiness: lexicant(own, ["readiness", ...channels, "--by", "brand", "--json", ...spread]).out,
  };
};

describe("work in parts", () => {
  it(
    "when any catalogue is checked and built by one thread or by several, then what they say and write is the same",
    () =>
      fc.assert(
        fc.property(
          fc.array(goods, { minLength: 60, maxLength: 120 }),
          fc.integer({ min: 2, max: 4 }),
          (rows, workers) => {
            const shop = shopOf(rows);
            const alone = doneBy(shop, 1);
            expect(alone.checked).toContain("repeated-id");
            expect(doneBy(shop, workers)).toEqual(alone);
            // Nor does it matter whether the parts were kept: ids meet where they are joined.
            const own = copyOf(shop);
            for (const step of [["--part", "2/2"], ["--part", "1/2"], ["--join"]])
              expect(lexicant(own, ["build", ...channels, ...step]).exit).toBe(0);
            expect(filesIn(own)).toEqual(alone.files);
          },
        ),
        { numRuns: runs(1, 60), endOnFailure: true },
      ),
    120_000,
  );

  it("when a thread ends before its work is done, then the build ends, says so, and nothing of it is there", () => {
    const shop = smallShop();
    const before = filesIn(shop);
    const hook = fileURLToPath(new URL("../kit/end-worker.mjs", import.meta.url));
    const { exit, err } = lexicantProcess(shop, ["build", "--workers", "2"], {
      env: { NODE_OPTIONS: `--import ${hook}` },
    });
    expect([exit, err.replace(/\s+/g, " ")]).toEqual([
      3,
      expect.stringContaining("a thread that did a part of the work ended before it was done"),
    ]);
    expect(filesIn(shop)).toEqual(before);
    expect(lexicant(shop, ["build", "--workers", "2"]).exit).toBe(0);
  });

  it("when the catalogue changes while the threads begin, then nothing is told of two catalogues at once", () => {
    const hook = fileURLToPath(new URL("../kit/change-catalogue.mjs", import.meta.url));
    const { exit, out, err } = lexicantProcess(smallShop(), ["check", "lanternlist", "--workers", "2"], {
      env: { NODE_OPTIONS: `--import ${hook}` },
    });
    expect([exit, out, err]).toEqual([
      3,
      "",
      expect.stringContaining("another command changed the catalogue"),
    ]);
  });

  it("when parts of a build are made one by one, in any order, then joined they are what one build is", () => {
    const shop = smallShop();
    const whole = copyOf(shop);
    expect(lexicant(whole, ["build"]).exit).toBe(0);
    const folder = join(temporaryFolder(), "parts");
    for (const part of ["3/3", "1/3", "2/3"])
      expect(lexicant(shop, ["build", "--part", part, "--parts-folder", folder]).exit).toBe(0);
    expect(filesIn(shop)).toEqual(filesIn(copyOf(smallShop())));
    expect(lexicant(shop, ["build", "--join", "--parts-folder", folder]).exit).toBe(0);
    expect(filesIn(shop)).toEqual(filesIn(whole));
  });

  it("when a part is missing, of another build or torn, then nothing is joined, and the person is told which", () => {
    const shop = smallShop();
    const folder = join(temporaryFolder(), "parts");
    const join_ = () => lexicant(shop, ["build", "lanternlist", "--join", "--parts-folder", folder]);
    const part = (which: string, ...more: readonly string[]) =>
      lexicant(shop, ["build", "lanternlist", "--part", which, "--parts-folder", folder, ...more]);
    part("1/2");
    expect(join_()).toMatchObject({ exit: 2, err: expect.stringContaining("part 2 of 2") as string });
    part("2/2", "--keep-live");
    expect(join_()).toMatchObject({ exit: 2, err: expect.stringContaining("another build") as string });
    part("2/2");
    write(folder, "2-of-2.part", read(folder, "2-of-2.part").slice(0, 2000));
    expect(join_()).toMatchObject({ exit: 2, err: expect.stringContaining("2-of-2.part") as string });
    expect(Object.keys(filesIn(shop)).some((name) => name.startsWith("out/lanternlist/"))).toBe(false);
  });
});
