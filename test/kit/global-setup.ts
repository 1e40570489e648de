import Papa from "papaparse";
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { TestProject } from "vitest/node";
import { lexicantProcess } from "./process.js";

declare module "vitest" {
  interface ProvidedContext {
    /** The demo shop's workspace with all its files imported. Nobody writes to it: tests take copies. */
    readonly demoShop: string;
    /** The same shop with a tenth of its goods, for whatever does not need them all. */
    readonly smallShop: string;
  }
}

const done = (folder: string, ...args: readonly string[]): void => {
  const { exit, err } = lexicantProcess(folder, [...args, "--quiet"]);
  if (exit === null || exit > 1) throw new Error(`lexicant ${args.join(" ")}: ${err}`);
};

/** Families of sizes, of colours, of both, goods that stand alone, seeds and a download: what the tests name. */
const kept =
  /^BC-(?:1101-|1102|1104|1106|1201-|1301-|140[1-4]|1502|1602|1701-|210[1-5]|2202|3103|520[1-3]|5104|9101)/;

/** Makes what all test files share, once. */
export default (project: TestProject): (() => void) => {
  const folder = mkdtempSync(join(tmpdir(), "lexicant-demo-"));
  done(folder, "demo", "shop");
  const [shop, small] = [join(folder, "shop"), join(folder, "small")];
  project.provide("demoShop", shop);
  cpSync(shop, small, { recursive: true });
  for (const made of [".lexicant", "out"]) rmSync(join(small, made), { recursive: true, force: true });
  const goods = join(small, "data", "shop-export.csv");
  const { data } = Papa.parse<readonly string[]>(readFileSync(goods, "utf8").replace(/^\ufeff/, ""));
  const rows = data.filter(([sku = ""], at) => at === 0 || kept.test(sku));
  writeFileSync(goods, `${Papa.unparse(rows.map((row) => [...row]))}\n`);
  const barcodes = new Set(rows.map((row) => row[8]));
  const stock = join(small, "data", "stock-2026-11-24.csv");
  const counted = readFileSync(stock, "utf8").split(/\r?\n/);
  writeFileSync(stock, counted.filter((line, at) => at === 0 || barcodes.has(line.split(";")[0])).join("\n"));
  // What the other files say of goods that are not there is set aside; that of the others stays.
  done(small, "import", ...["shop-export.csv", "stock-2026-11-24.csv"].map((name) => `data/${name}`));
  for (const more of ["fernditch.xml", "tarnbeck-winter-list.xlsx", "lanternlist-words.txt"])
    done(small, "import", `data/${more}`);
  project.provide("smallShop", small);
  return () => rmSync(folder, { recursive: true, force: true });
};
