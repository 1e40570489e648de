import { execFileSync } from "node:child_process";
import { cpSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { hostileFiles } from "../kit/hostile.js";
import { isLong, sized } from "../kit/runs.js";
import { programThread } from "../kit/program-thread.js";
import { lexicant, projectRoot, read, write, type Ran } from "../kit/run.js";

/** Whatever needs more memory than this, or more time, gives no answer: the test falls. */
const held = programThread(
  isLong ? { seconds: 40, heapMegabytes: 400 } : { seconds: 20, heapMegabytes: 256 },
);

const bounded = (shop: string, args: readonly string[]): Ran => held.run(shop, args);

describe("files that are made to hang or burst a program", () => {
  it.each(hostileFiles.map((one) => [one.name, one] as const))(
    "when it is %s, then it ends soon, in little memory, in a sentence",
    (_, { file, make, says, exit, isBomb }) => {
      const shop = emptyShop();
      write(shop, file, make());
      const line = ["import", file, "--accept"];
      const ran = isBomb === true ? bounded(shop, line) : lexicant(shop, line);
      const said = (ran.out + ran.err).replace(/\s+/g, " ");
      expect([0, 1, 2, 3], said.slice(0, 300)).toContain(ran.exit);
      expect(said).not.toMatch(/fault in Lexicant|call stack|heap|at .*\.js:/i);
      expect(said).toMatch(says);
      if (exit !== undefined) expect(ran.exit, said).toBe(exit);
    },
    60_000,
  );
});

/** A shop whose catalogue has one product, to hold against what its own files demand. */
const shopWith = (files: Readonly<Record<string, string>>): string => {
  const shop = emptyShop("--channel", "merrowgate");
  write(shop, "data/goods.csv", "sku,name,price\nH-1,Smoker,12.50\n");
  lexicant(shop, ["import", "data/goods.csv", "--accept"]);
  for (const [name, text] of Object.entries(files)) write(shop, name, text);
  return shop;
};

const many = (count: number, line: (at: number) => string): string =>
  Array.from({ length: count }, (_, at) => line(at)).join("");

const ends = (ran: ReturnType<typeof bounded>, says: RegExp): void => {
  const said = (ran.out + ran.err).replace(/\s+/g, " ");
  expect([0, 1, 2, 3], said.slice(0, 300)).toContain(ran.exit);
  expect(said).not.toMatch(/fault in Lexicant|call stack|heap|at .*\.js:/i);
  expect(said).toMatch(says);
};

describe("a workspace that is made to hang or burst a program", () => {
  it("when a look-up table has very many rows, then it is read and used", () => {
    const shop = shopWith({
      "tables/big.csv": `sku,note\n${many(sized(200_000), (at) => `H-${at},n${at}\n`)}`,
    });
    ends(bounded(shop, ["try", `from_table("big", "note", sku)`, "--sku", "H-1"]), /n1\b/);
  }, 60_000);

  it("when fills name very many products, then they are read, and the one that is there is filled", () => {
    const block = `products:\n${many(sized(10_000), (at) => `  H-${at}:\n    item_title: "t${at}"\n`)}`;
    const placements = "our_category,channel_category\nSmokers,BCDD\n";
    const shop = shopWith({
      "channels/merrowgate/fills.yaml": block,
      "channels/merrowgate/placements.csv": placements,
    });
    lexicant(shop, ["set", "H-1", "category=Smokers"]);
    ends(bounded(shop, ["explain", "H-1", "merrowgate", "item_title"]), /\bt1\b/);
  }, 60_000);

  it("when a source's pattern of file names is all stars, then a long name is held against it at once", () => {
    const shop = shopWith({});
    const source = read(shop, "sources/goods.yaml");
    write(shop, "sources/other.yaml", `files: ["${"*a".repeat(60)}*b"]\n${source}`);
    const name = `${"a".repeat(200)}.csv`;
    write(shop, name, "sku,name,price\nH-2,Veil,1\n");
    ends(bounded(shop, ["import", name, "--accept"]), /added|rejected|error/);
  }, 60_000);

  it.each([
    ["a pipe that nobody writes to", "mkfifo pipe.csv", "pipe.csv"],
    ["a device without an end", "ln -s /dev/zero zero.csv", "zero.csv"],
    ["a folder", "mkdir folder.csv", "folder.csv"],
  ])(
    "when a file is %s, then it is refused",
    (_, prepare, file) => {
      const shop = shopWith({});
      execFileSync("bash", ["-c", prepare], { cwd: shop });
      ends(
        bounded(shop, ["import", file, "--accept"]),
        /cannot read ".*": it is (?:a pipe|a device|a folder|no file)/,
      );
      execFileSync("bash", ["-c", "rm -rf sources/pipe.yaml; mkfifo sources/pipe.yaml"], { cwd: shop });
      ends(bounded(shop, ["sources"]), /cannot read "sources\/pipe.yaml"/);
    },
    60_000,
  );

  it.each([
    ["go round in a circle", many(3, (at) => `C${at},C${(at + 1) % 3},Name ${at}\n`)],
    ["are a long chain", many(sized(60_000), (at) => `C${at},${at === 0 ? "" : `C${at - 1}`},Name ${at}\n`)],
  ])(
    "when a definition's categories %s, then it is told",
    (_, rows) => {
      const shop = shopWith({});
      cpSync(join(projectRoot, "definitions", "merrowgate"), join(shop, "definitions", "merrowgate"), {
        recursive: true,
      });
      const path = "definitions/merrowgate/categories.csv";
      const [head = ""] = read(shop, path).split("\n");
      const columns = head.split(",");
      const lines = rows
        .split("\n")
        .filter(Boolean)
        .map((row) => {
          const [code = "", parent = "", name = ""] = row.split(",");
          const cells: Readonly<Record<string, string>> = { code, parent, name };
          return columns.map((column) => cells[column.trim()] ?? "").join(",");
        });
      write(shop, path, `${head}\n${lines.join("\n")}\n`);
      ends(bounded(shop, ["check", "merrowgate"]), /error/);
    },
    60_000,
  );

  it("when replacements grow upon each other, then the text is refused before memory is", () => {
    const shop = shopWith({});
    let expression = '"aaaaaaaaaaaaaaaa"';
    for (let at = 0; at < 12; at++) expression = `replace(${expression}, "a", "aaaaaaaaaaaaaaaa")`;
    ends(bounded(shop, ["try", expression, "--sku", "H-1"]), /longer|too long|more than/);
  }, 60_000);
});
