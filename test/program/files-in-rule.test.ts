import { spawnSync } from "node:child_process";
import { readdirSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { demoShop } from "../kit/demo-shop.js";
import { outOfRule, ruleBook, type Shown } from "../kit/rule-book.js";
import { lexicant, projectRoot, read } from "../kit/run.js";

const shop = demoShop();
lexicant(shop, ["build", "--quiet"]);

type Row = Readonly<Record<string, string>>;

const definition = (channel: string): string => join(projectRoot, "definitions", channel);

const python = <T>(script: string, path: string): T => {
  const { status, stdout, stderr } = spawnSync("/usr/bin/python3", ["-c", script, path], {
    encoding: "utf8",
    maxBuffer: 1 << 28,
  });
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout) as T;
};

/** A row's cells as texts by field; lists apart at their mark. */
const shownOf = (row: Row, lists: Readonly<Record<string, string>> = {}): Shown =>
  Object.fromEntries(
    Object.entries(row)
      .filter(([, cell]) => cell !== "")
      .map(([field, cell]) => [field, lists[field] === undefined ? [cell] : cell.split(lists[field])]),
  );

const rowsOf = (path: string, delimiter: string): readonly Row[] =>
  parse(read(shop, path), { columns: true, delimiter, quote: delimiter === "\t" ? null : '"' }) as Row[];

const listsOf = ({ fields }: ReturnType<typeof ruleBook>, mark: string) =>
  Object.fromEntries([...fields].flatMap(([code, [row]]) => (row?.["list"] === "yes" ? [[code, mark]] : [])));

const renamed = (row: Row, names: Readonly<Record<string, string>>): Row =>
  Object.fromEntries(Object.entries(row).map(([name, cell]) => [names[name] ?? name, cell]));

describe("what stands in the channels' files, held against the channels' tables by a reader of its own", () => {
  it("when Lanternlist's table is read, then no cell is out of rule", () => {
    const rules = ruleBook(definition("lanternlist"), "path");
    const rows = rowsOf("out/lanternlist/lanternlist.tsv", "\t");
    const names = { further_picture: "further_pictures", parcel_kg: "parcel_weight" };
    const wrong = rows.flatMap((all) => {
      const {
        amount = "",
        currency = "",
        offer_amount = "",
        offer_currency = "",
        ...row
      } = renamed(all, names);
      const prices = {
        price: `${amount} ${currency}`.trim(),
        offer_price: `${offer_amount} ${offer_currency}`.trim(),
      };
      const shown = shownOf({ ...row, ...prices }, { further_pictures: ",", sowing_time: "," });
      return outOfRule(rules, shown, "shelf", { isInGroup: row["family"] !== "" });
    });
    expect([rows.length > 200, wrong]).toEqual([true, []]);
  });

  it("when Chatterquay's sheet is read, then no cell is out of rule", () => {
    const rules = ruleBook(definition("chatterquay"), "path");
    const rows = rowsOf("out/chatterquay/chatterquay.csv", ",");
    const leaders = new Set(rows.map((row) => row["led_by"]).filter((ref) => ref !== ""));
    const wrong = rows.flatMap((row) =>
      outOfRule(rules, shownOf(row, { more_photos: " " }), "corner", {
        isInGroup: row["led_by"] !== "" || leaders.has(row["post_no"] ?? ""),
      }).filter((one) => !one.startsWith("led_by:") || row["led_by"] !== ""),
    );
    expect([rows.length > 200, wrong]).toEqual([true, []]);
  });

  it("when Fjordhandel's rows are read, then no member, with what its family says, is out of rule", () => {
    const rules = ruleBook(definition("fjordhandel"), "code");
    const rows = rowsOf("out/fjordhandel/fjordhandel.csv", ";");
    const lists = listsOf(rules, "|");
    let family: Row = {};
    const wrong = rows.flatMap(({ row_kind, ...own }) => {
      // Amounts are written with a comma here.
      const row = Object.fromEntries(
        Object.entries(own).map(([name, cell]) => [
          name,
          cell.replace(/^(-?\d+),(\d+)( [a-z]+)?$/, "$1.$2$3"),
        ]),
      );
      if (row_kind === "family") {
        family = row;
        return outOfRule(rules, shownOf(row, lists), "shelf_code", { isPart: true });
      }
      const isInGroup = row["family_no"] !== "" && row["family_no"] === family["family_no"];
      const said = Object.fromEntries(
        Object.entries(row).map(([name, cell]) => [
          name,
          cell === "" && isInGroup ? (family[name] ?? "") : cell,
        ]),
      );
      return outOfRule(rules, shownOf(said, lists), "shelf_code", { isInGroup });
    });
    expect([rows.length > 200, wrong]).toEqual([true, []]);
  });

  it("when Merrowgate's workbooks are read by another program, then no cell is out of rule", () => {
    const rules = ruleBook(definition("merrowgate"), "path");
    const codes = Object.fromEntries([...rules.fields].map(([code, [row]]) => [row?.["label"] ?? "", code]));
    const script =
      "import openpyxl,sys,json\nr=list(openpyxl.load_workbook(sys.argv[1])['Items'].iter_rows(values_only=True))\nprint(json.dumps(r,default=str))";
    const lists = listsOf(rules, "|");
    const files = readdirSync(join(shop, "out", "merrowgate")).filter((name) => name.endsWith(".xlsx"));
    let count = 0;
    const wrong = files.flatMap((name) => {
      const rows = python<(string | number | null)[][]>(script, join(shop, "out", "merrowgate", name));
      const head = rows.findIndex((row) => row.includes("Item reference"));
      return rows.slice(head + 1).flatMap((cells) => {
        const row = Object.fromEntries(
          cells.map((cell, at) => [codes[String(rows[head]?.[at])] ?? "", String(cell ?? "")]),
        );
        if (row["item_ref"] === "") return [];
        count += 1;
        return outOfRule(rules, shownOf(row, lists), "branch", { isInGroup: row["range_ref"] !== "" });
      });
    });
    expect([count > 200, wrong]).toEqual([true, []]);
  });

  it("when Gavelstead's document is read by another program, then no lot, with what its batch says, is out of rule", () => {
    const rules = ruleBook(definition("gavelstead"), "path");
    const script = `
import sys, json, xml.etree.ElementTree as E
def own(e):
    out = {}
    for c in e:
        n = c.tag.split('}')[1]
        if n in ('lot', 'batch'): continue
        out[n] = [x.text or '' for x in c] if len(c) else [c.text or '']
    return out
lots = []
def lot(e, batch): lots.append([own(e), batch])
for e in E.parse(sys.argv[1]).getroot():
    n = e.tag.split('}')[1]
    if n == 'lot': lot(e, None)
    elif n == 'batch':
        b = dict(own(e), batch=[e.get('reference')])
        for c in e:
            if c.tag.endswith('}lot'): lot(c, b)
print(json.dumps(lots))`;
    const lots = python<[Record<string, string[]>, Record<string, string[]> | null][]>(
      script,
      join(shop, "out/gavelstead/gavelstead-1.xml"),
    );
    const wrong = lots.flatMap(([{ number = [], ...lot }, batch]) =>
      outOfRule(rules, { ...batch, ...lot, lot_number: number }, "table", { isInGroup: batch !== null }),
    );
    expect([lots.length > 200, wrong]).toEqual([true, []]);
  });

  it("when a cell is spoilt, then the reader says so: it is no rubber stamp", () => {
    const rules = ruleBook(definition("chatterquay"), "path");
    const [row = {}] = rowsOf("out/chatterquay/chatterquay.csv", ",");
    const spoilt = (change: Row): readonly string[] =>
      outOfRule(rules, shownOf({ ...row, ...change }, { more_photos: " " }), "corner").map(
        (one) => one.split(":")[0] ?? "",
      );
    expect(spoilt({})).toEqual([]);
    expect(spoilt({ said_short: "x".repeat(500) })).toEqual(["said_short"]);
    expect(spoilt({ barcode: "9524000001017" })).toEqual(["barcode"]);
    expect(spoilt({ costs: "" })).toEqual(["costs"]);
    expect(spoilt({ shape: "shiny" })).toEqual(["shape"]);
    expect(spoilt({ corner: "Bees" })).toContain("corner");
  });
});
