import { appendFileSync, chmodSync, cpSync, existsSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { createHash } from "node:crypto";
import { dirname, join } from "node:path";
import Database from "better-sqlite3";
import { describe, expect, it } from "vitest";
import { demoShop } from "../kit/demo-shop.js";
import { asStranger, hasStranger } from "../kit/stranger.js";
import { goodsCsv, withGoodsSource } from "../kit/goods.js";
import { jsonLines, lexicant, projectRoot, read, temporaryFolder, write } from "../kit/run.js";

const shop = demoShop();

/** All files of a workspace with their bytes in one number, the store's shared memory apart. */
const stateOf = (folder: string): string => {
  const hash = createHash("sha256");
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true }).sort((a, b) =>
    a.name < b.name ? -1 : 1,
  ))
    if (entry.isFile() && !/-(?:shm|wal)$/.test(entry.name) && !entry.parentPath.includes("settings"))
      hash.update(entry.name).update(read(entry.parentPath, entry.name));
  return hash.digest("hex");
};

const noTrace = (text: string): void => {
  expect(text).not.toMatch(/\n\s+at .*\(|node:internal|\.js:\d+/);
};

describe("files that cannot be imported", () => {
  it.each([
    ["there is no file", "none.csv", undefined, 2, 'there is no file "none.csv"'],
    ["it is empty", "a.csv", "", 2, '"a.csv" is empty; a table has a header row and rows below it'],
    [
      "it has a header alone",
      "a.csv",
      "Article no,Title\n",
      2,
      '"a.csv" has a header of 2 columns and no rows below it',
    ],
    [
      "two columns have one name",
      "a.csv",
      "Article no,Title,Title\n1,2,3\n",
      2,
      'two columns are named "Title" (B and C)',
    ],
    [
      "a quote is never closed",
      "a.csv",
      'Article no,Title\n1,fine\n2,"open\n3,x\n',
      2,
      "a quoted cell opens at line 3 and is never closed",
    ],
    [
      "its bytes are of another encoding than its others",
      "a.csv",
      Buffer.concat([Buffer.from("Article no,Title\n1,für\n"), Buffer.from("2,caf\xe9\n", "latin1")]),
      2,
      "line 3 holds the byte 0xE9, which is not UTF-8",
    ],
    ["it holds NUL bytes", "a.csv", "Article no,Title\n1,a\u0000b\n", 2, "binary data with NUL bytes"],
    [
      "it is a workbook by name alone",
      "a.xlsx",
      "Article no,Title\n1,Stool\n",
      2,
      "is named as a workbook and holds plain text",
    ],
    ["it is a folder", "data", undefined, 3, "it is a folder"],
    [
      "no column could be its SKU",
      "a.csv",
      "Remark\nthe same\nthe same\n",
      2,
      "no column gives the sku; nearest:",
    ],
  ])(
    "when %s, then it ends with one clear message and nothing is changed",
    (_, name, content, exit, message) => {
      if (content !== undefined) write(shop, name, content);
      const before = stateOf(shop);
      const ran = lexicant(shop, ["import", name, "--accept"]);
      expect([ran.exit, ran.err.replace(/\s+/g, " ")]).toEqual([exit, expect.stringContaining(message)]);
      expect(ran.err.match(/^error/gm)).toHaveLength(1);
      noTrace(ran.err);
      expect(stateOf(shop)).toBe(before);
      if (content !== undefined) rmSync(join(shop, name));
    },
  );

  it("when the same is asked for in JSON, then the message is a line with code and place", () => {
    write(shop, "a.csv", 'Article no,Title\n2,"open\n');
    const { out, exit } = lexicant(shop, ["import", "a.csv", "--accept", "--json"]);
    rmSync(join(shop, "a.csv"));
    expect(exit).toBe(2);
    expect(jsonLines(out)).toMatchObject([
      { type: "finding", code: "broken-quote", severity: "error", place: { file: "a.csv" } },
    ]);
  });

  it("when a line never ends, then it is refused before memory is full", () => {
    const path = write(shop, "endless.csv", "Article no,Title\n");
    for (let part = 0; part < 40; part++) appendFileSync(path, Buffer.alloc(1 << 20, "x"));
    const { exit, err } = lexicant(shop, ["import", "endless.csv", "--source", "shop-export"], {
      env: { NODE_OPTIONS: "--max-old-space-size=120" },
    });
    rmSync(path);
    expect([exit, err]).toEqual([2, expect.stringContaining("a row is longer than 4194304 characters")]);
  });

  it("when the disk is full, then it is told and what was there is whole", () => {
    const small = temporaryFolder();
    lexicant(small, ["init", "."]);
    withGoodsSource(small);
    write(small, "goods.csv", goodsCsv(3));
    lexicant(small, ["import", "goods.csv"]);
    write(small, "goods.csv", goodsCsv(9000));
    // The shell's limit on a file's size stands in for a disk without room.
    const script = `ulimit -f 400; exec "$0" "$@"`;
    const { exit, err } = lexicant(small, ["import", "goods.csv"], { shell: script });
    expect([exit, err]).toEqual([
      3,
      expect.stringMatching(/cannot write "\.lexicant\/store\.db": .*nothing was\s+changed/s),
    ]);
    expect(jsonLines(lexicant(small, ["list", "--json"]).out)).toHaveLength(3);
  });
});

describe("decisions that cannot be read", () => {
  const spoilt = (file: string, change: (text: string) => string, args: readonly string[] = ["check"]) => {
    const text = read(shop, file);
    writeFileSync(join(shop, file), change(text));
    try {
      return lexicant(shop, args);
    } finally {
      writeFileSync(join(shop, file), text);
    }
  };

  it.each([
    [
      "an attribute in a fill is misspelt",
      "channels/lanternlist/fills.yaml",
      (text: string) => text.replace("tint: color", "tint: colour"),
      /there is no attribute "colour"; nearest: "color"\s+colour\s+\^+\s+at channels\/lanternlist\/fills\.yaml:\d+:\d+/,
    ],
    [
      "a field is misspelt",
      "channels/lanternlist/fills.yaml",
      (text: string) => text.replace("  tint:", "  tnt:"),
      /"tnt" is no field of the channel; nearest: "tint"/,
    ],
    [
      "a file is not YAML",
      "channels/lanternlist/fills.yaml",
      (text: string) => text.replace('headline: "{name}', 'headline: "{name'),
      /fills\.yaml:\d+/,
    ],
    [
      "a text is never closed",
      "channels/lanternlist/channel.yaml",
      (text: string) => `${text}\nx: "open`,
      /the file is not YAML: .*\s+at channels\/lanternlist\/channel\.yaml:\d+:\d+/s,
    ],
    [
      "a placement names no category",
      "channels/lanternlist/placements.csv",
      (text: string) => `${text}Larder,,garden.beez,Maud,1,\n`,
      /"garden\.beez" is no category of the channel; nearest: "garden\.bees"[^]*placements\.csv, row \d+/,
    ],
    [
      "a setting is misspelt",
      "lexicant.yaml",
      (text: string) => text.replace("currency:", "curency:"),
      /"curency" is no setting here; nearest: "currency"[^]*lexicant\.yaml:4/,
    ],
    [
      "a layer is written wrong",
      "lexicant.yaml",
      (text: string) => text.replace("  - shop\n", "  - Shop Export\n"),
      /layers: lists layers from lowest to highest/,
    ],
  ])("when %s, then file, line, fault and remedy are told", (_, file, change, message) => {
    const { exit, err, out } = spoilt(file, change);
    expect([exit, out]).toEqual([2, ""]);
    expect(err).toMatch(message);
    noTrace(err);
  });

  it("when several things are wrong, then all are told in one run", () => {
    const { err } = spoilt("channels/lanternlist/fills.yaml", (text) =>
      text.replace("tint: color", "tint: colour").replace("fit: size", "fit: sise"),
    );
    expect(err.match(/^error/gm)).toHaveLength(2);
  });

  it("when a channel is unknown or not in use, then the known ones are named", () => {
    expect(lexicant(shop, ["check", "lanternlst"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('nearest: "lanternlist"'),
    });
    const empty = temporaryFolder();
    lexicant(empty, ["init", "."]);
    expect(lexicant(empty, ["check", "lanternlist"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("is not in use in this workspace"),
    });
  });

  it("when a definition has a field without kind, then its row is told", () => {
    const folder = join(shop, "definitions", "stall");
    cpSync(join(projectRoot, "definitions/lanternlist"), folder, { recursive: true });
    write(folder, "definition.yaml", read(folder, "definition.yaml").replaceAll("lanternlist", "stall"));
    const fields = read(folder, "fields.csv").split("\n");
    const header = (fields[0] ?? "").split(",");
    const cells = (fields[1] ?? "").split(",");
    cells[header.indexOf("kind")] = "";
    write(folder, "fields.csv", [fields[0], cells.join(","), ...fields.slice(2)].join("\n"));
    const { exit, err } = lexicant(shop, ["channels"]);
    rmSync(join(shop, "definitions"), { recursive: true });
    expect([exit, err]).toEqual([
      2,
      expect.stringMatching(/has no kind in its first row[^]*definitions\/stall\/fields\.csv, row 2/),
    ]);
  });
});

describe("a world that does not let us", () => {
  it("when the output folder cannot be written, then nothing half-written is left", () => {
    write(shop, "taken", "a file where a folder is wanted");
    const { exit, err } = lexicant(shop, ["build", "--out-folder", "taken"]);
    expect([exit, err]).toEqual([3, expect.stringMatching(/cannot write .*taken/)]);
    noTrace(err);
    rmSync(join(shop, "taken"));
    const readOnly = join(shop, "read-only");
    write(readOnly, "keep.txt", "kept");
    chmodSync(readOnly, 0o500);
    // Root may write anywhere; for all others the folder is closed.
    if (process.getuid?.() !== 0) {
      expect(lexicant(shop, ["build", "--out-folder", "read-only"])).toMatchObject({ exit: 3 });
      expect(readdirSync(readOnly)).toEqual(["keep.txt"]);
    }
    chmodSync(readOnly, 0o700);
  });

  it("when a build has more files than may be open at once, then it comes to its end", () => {
    const own = demoShop();
    const definition = "definitions/lanternlist/definition.yaml";
    cpSync(join(projectRoot, "definitions", "lanternlist"), join(own, "definitions", "lanternlist"), {
      recursive: true,
    });
    appendFileSync(join(own, definition), "file_limits:\n  rows: 1\n");
    const { exit, err } = lexicant(own, ["build", "lanternlist"], { shell: 'ulimit -n 100; exec "$0" "$@"' });
    expect([exit, err]).toEqual([0, ""]);
    expect(readdirSync(join(own, "out", "lanternlist")).length).toBeGreaterThan(200);
  });

  it.skipIf(!hasStranger())(
    "when a file or folder may not be read, then that is told, by its own path, and it never counts as missing",
    () => {
      const folder = dirname(shop);
      const told = (path: string, ...line: readonly string[]): string => {
        const { exit, err } = asStranger(shop, line, {
          open: [folder, shop, join(shop, ".lexicant")],
          closed: { [join(shop, path)]: 0o000 },
        });
        expect({ path, exit, err }).toMatchObject({ exit: 3 });
        noTrace(err);
        expect(err).not.toContain(folder);
        return err.replace(/\s+/g, " ");
      };
      expect(told("channels/lanternlist", "check", "lanternlist")).toContain(
        'cannot read "channels/lanternlist/channel.yaml": permission is denied',
      );
      expect(told("sources", "sources")).toContain('cannot read "sources": permission is denied');
      expect(told("lexicant.yaml", "list")).toContain('cannot read "lexicant.yaml": permission is denied');
      expect(told("channels/lanternlist/placements.csv", "check", "lanternlist")).toContain(
        'cannot read "channels/lanternlist/placements.csv": permission is denied',
      );
    },
  );

  it("when the store is newer than the program, then it is left alone", () => {
    const folder = temporaryFolder();
    lexicant(folder, ["init", "."]);
    lexicant(folder, ["list"]);
    const database = new Database(join(folder, ".lexicant/store.db"));
    database.pragma("user_version = 40");
    database.close();
    expect(lexicant(folder, ["list"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining(
        "was written by a newer Lexicant (store version 40, this one knows up to 12)",
      ),
    });
  });

  it("when there is no workspace, or one already, then the way on is told", () => {
    const folder = temporaryFolder();
    expect(lexicant(folder, ["check"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('run "lexicant init" there'),
    });
    expect(lexicant(shop, ["init", "."])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("is a workspace already"),
    });
    write(folder, "mine.txt", "kept");
    expect(lexicant(folder, ["demo", "."])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("is not empty"),
    });
    expect(existsSync(join(folder, "mine.txt"))).toBe(true);
  });

  it.each([
    [["lsit"], "there is no command"],
    [["list", "--limit", "many"], "--limit is a whole number"],
    [["import"], "name the files to read"],
    [["list", "--where", "price >"], "--where:1:"],
    [["list", "--where", "price > weight"], "is compared with"],
    [["show", "bc-1301-white-m"], 'nearest: "BC-1301-WHITE-M"'],
    [["undo", "99"], 'there is no revision "99"; the latest is 5'],
    [["set", "BC-1402", "prise=4"], 'nearest: "price"'],
    [["set", "BC-1402", "sku=X"], "a SKU is never changed"],
    [["export", "x.csv", "--only", "sku,prise"], 'nearest: "price"'],
    [
      ["import", "data/stock-2026-11-24.csv", "--source", "stok", "--encoding", "ebcdic"],
      "--encoding is one of utf-8",
    ],
  ])("when %j is called, then it ends with code 2 and says what is wrong", (args, message) => {
    const { exit, err, out } = lexicant(shop, args);
    expect([exit, out, err.replace(/\s+/g, " ")]).toEqual([2, "", expect.stringContaining(message)]);
    noTrace(err);
  });
});
