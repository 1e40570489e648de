import { existsSync, lstatSync, mkdirSync, readdirSync, rmSync, symlinkSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { smallShop, emptyShop } from "../kit/demo-shop.js";
import { killedAt, killedEverywhere, stateOf } from "../kit/killed.js";
import { oneIn } from "../kit/runs.js";
import { jsonLines, lexicant, read, temporaryFolder, write } from "../kit/run.js";

/** A shop whose builds come in parts, and whose next build is shorter than the last. */
const shrinkingShop = (): string => {
  const shop = smallShop();
  expect(lexicant(shop, ["build", "lanternlist", "chatterquay"]).exit).toBe(0);
  // Parts of an earlier, longer build.
  for (const part of [2, 3]) write(shop, `out/chatterquay/chatterquay-${part}.csv`, "old part\n");
  lexicant(shop, ["set", "BC-1402", "name=Smoker brush"]);
  return shop;
};

const newFile = "SKU,Name,Price\nNW-1,Bee brush,4.50\nNW-2,Hive tool,x\n,nameless,3\n";

describe("a command that is killed at any step", () => {
  it("when builds of two channels are killed, then files, records, ledgers and old parts are all of before or all of after", () => {
    const shop = shrinkingShop();
    const { torn, kills, before, after } = killedEverywhere(
      shop,
      ["build", "lanternlist", "chatterquay", "--quiet"],
      ["lanternlist", "chatterquay"],
      oneIn(11, 3),
    );
    expect(torn).toEqual([]);
    expect([kills > 5, before > 2, after > 0]).toEqual([true, true, true]);
    expect(existsSync(join(shop, "out/chatterquay/chatterquay-2.csv"))).toBe(true);
    lexicant(shop, ["build", "chatterquay"]);
    expect(readdirSync(join(shop, "out/chatterquay")).sort()).toEqual([
      "build.json",
      "chatterquay.csv",
      "chatterquay.jsonl",
    ]);
  }, 120_000);

  it("when an import with a new source is killed, then source, layer, rejected rows and products come together", () => {
    const shop = emptyShop();
    write(shop, "data/newcomers.csv", newFile);
    const { torn, before, after } = killedEverywhere(
      shop,
      ["import", "data/newcomers.csv", "--accept"],
      [],
      oneIn(26, 5),
    );
    expect(torn).toEqual([]);
    expect([before > 0, after > 0]).toEqual([true, true]);
  }, 120_000);

  it("when it is undone and that is killed, then source and layer go with the products or all stay", () => {
    const shop = emptyShop();
    write(shop, "data/newcomers.csv", newFile);
    lexicant(shop, ["import", "data/newcomers.csv", "--accept"]);
    const { torn, before, after } = killedEverywhere(shop, ["undo"], [], oneIn(26, 7));
    expect(torn).toEqual([]);
    expect([before > 0, after > 0]).toEqual([true, true]);
  }, 120_000);

  it("when the demo is killed on its way, then there is no half of it, and the next one clears what it left", () => {
    const folder = temporaryFolder();
    expect(killedAt(folder, ["demo", "b"], 60)).toBe(true);
    expect(readdirSync(folder)).toEqual([expect.stringMatching(/^b\.\d+\.new$/)]);
    expect(lexicant(folder, ["demo", "b", "--empty"]).exit).toBe(0);
    expect(readdirSync(folder)).toEqual(["b"]);
  });

  it("when whoever comes next only reads, then it finishes what was decided and tells it, once", () => {
    const shop = smallShop();
    const mark = "0123456789abcdef";
    write(shop, `out/quay/.landing-${mark}/goods.csv`, "new");
    write(shop, "out/quay/goods.csv", "old");
    write(shop, "out/quay/goods-2.csv", "old part");
    const folders = [{ folder: "out/quay", comes: ["goods.csv"], goes: ["goods-2.csv"] }];
    write(
      shop,
      ".lexicant/landing.json",
      JSON.stringify({ mark, command: "build", at: "2026-11-26T08:00:00Z", decided: true, folders }),
    );
    const { err, exit } = lexicant(shop, ["channels"]);
    expect(exit).toBe(0);
    expect(err).toBe(
      '"lexicant build" of 2026-11-26 08:00 UTC was broken off while its files were put in place; they all are now\n',
    );
    expect([readdirSync(join(shop, "out/quay")), read(shop, "out/quay/goods.csv")]).toEqual([
      ["goods.csv"],
      "new",
    ]);
    expect(lexicant(shop, ["channels"]).err).toBe("");
  });
});

describe("undo knows what an import decided", () => {
  const imported = (): string => {
    const shop = emptyShop();
    write(shop, "data/newcomers.csv", newFile);
    lexicant(shop, ["import", "data/newcomers.csv", "--accept"]);
    expect(read(shop, "lexicant.yaml")).toContain("newcomers");
    return shop;
  };

  it("when it is undone, then the source and its layer go; when that is undone, they come back as they were", () => {
    const shop = imported();
    const state = stateOf(shop, []) as { files: unknown };
    expect(lexicant(shop, ["undo"]).out).toContain(
      "sources/newcomers.yaml and the layer newcomers, which came with it, are gone too",
    );
    expect(existsSync(join(shop, "sources/newcomers.yaml"))).toBe(false);
    expect(read(shop, "lexicant.yaml")).not.toContain("newcomers");
    expect(lexicant(shop, ["undo", "2"]).out).toContain("sources/newcomers.yaml came back with it");
    expect((stateOf(shop, []) as { files: unknown }).files).toEqual(state.files);
    expect(lexicant(shop, ["list"]).out).toContain("NW-1");
  });

  it("when the person changed the source since, or other imports stand on it, then it stays", () => {
    const shop = imported();
    const text = read(shop, "sources/newcomers.yaml");
    write(shop, "sources/newcomers.yaml", `${text}# mine\n`);
    expect(lexicant(shop, ["undo"]).out).toContain("sources/newcomers.yaml stays: it was changed since");
    expect(read(shop, "sources/newcomers.yaml")).toContain("# mine");
    const other = imported();
    write(other, "data/newcomers-2.csv", "SKU,Name,Price\nNW-9,Smoker,9\n");
    lexicant(other, ["import", "data/newcomers-2.csv"]);
    expect(lexicant(other, ["undo", "1", "--alone"]).out).toContain("stays: later imports were read by it");
  });
});

describe("a record that somebody else wrote", () => {
  const staged = "0123456789abcdef";
  const record = (folder: unknown, more: Readonly<Record<string, unknown>> = {}) =>
    JSON.stringify({
      mark: staged,
      command: "build",
      at: "2026-11-26T08:00:00Z",
      decided: true,
      folders: [folder],
      ...more,
    });

  it.each([
    ["climbs out by a name", record({ folder: "out", comes: ["../../taken.txt"], goes: [] })],
    ["climbs out by its folder", record({ folder: "../beside", comes: ["taken.txt"], goes: [] })],
    ["removes by a path", record({ folder: "out", comes: [], goes: ["../lexicant.yaml"] })],
    ["is half a record", '{"mark":"0123456789abcdef","folders":['],
    ["is a list", "[1,2]"],
    ["has another mark", record({ folder: "out", comes: [], goes: [] }, { mark: "../../x" })],
    ["has names of the language", '{"__proto__":{"decided":true},"constructor":1}'],
  ])("when it %s, then nothing is moved by it, it is set aside, and work goes on", (_, text) => {
    const shop = emptyShop();
    write(shop, `out/.landing-${staged}/taken.txt`, "taken");
    write(join(shop, ".."), `beside/.landing-${staged}/taken.txt`, "taken");
    write(shop, ".lexicant/landing.json", text);
    const { exit, err } = lexicant(shop, ["list"]);
    expect([exit, err]).toEqual([0, expect.stringContaining("cannot be read as the record of a command")]);
    expect(existsSync(join(shop, "..", "taken.txt"))).toBe(false);
    expect(existsSync(join(shop, "..", "beside", "taken.txt"))).toBe(false);
    expect(existsSync(join(shop, "lexicant.yaml"))).toBe(true);
    expect(readdirSync(join(shop, ".lexicant", "set-aside"))).toEqual(["landing.json"]);
    expect(lexicant(shop, ["list"]).err).toBe("");
  });

  it("when its staging folder is a link to elsewhere, then nothing there is touched", () => {
    const shop = emptyShop();
    const elsewhere = temporaryFolder();
    write(elsewhere, "precious.txt", "precious");
    mkdirSync(join(shop, "out"), { recursive: true });
    symlinkSync(elsewhere, join(shop, "out", `.landing-${staged}`));
    write(shop, ".lexicant/landing.json", record({ folder: "out", comes: ["precious.txt"], goes: [] }));
    lexicant(shop, ["list"]);
    expect(read(elsewhere, "precious.txt")).toBe("precious");
  });
});

describe("links", () => {
  it("when a file of the workspace or of a channel is a link, then what it points at is written, and it stays a link", () => {
    const shop = smallShop();
    const elsewhere = temporaryFolder();
    const moved = (path: string): void => {
      write(elsewhere, path.replaceAll("/", "-"), read(shop, path));
      symlink(shop, path, join(elsewhere, path.replaceAll("/", "-")));
    };
    const symlink = (folder: string, path: string, target: string): void => {
      const file = join(folder, path);
      rmSync(file);
      symlinkSync(target, file);
    };
    lexicant(shop, ["build", "lanternlist"]);
    moved("channels/merrowgate/placements.csv");
    moved("out/lanternlist/lanternlist.tsv");
    const before = read(elsewhere, "out-lanternlist-lanternlist.tsv");
    const [, ref = ""] = before.split("\n")[1]?.split("\t") ?? [];
    expect(lexicant(shop, ["set", ref, "name=Another name"]).exit).toBe(0);
    expect(lexicant(shop, ["build", "lanternlist"]).exit).toBe(0);
    const open = jsonLines(lexicant(shop, ["categories", "merrowgate", "--json", "--limit", "60"]).out);
    const { code } = open.find(({ open: isOpen }) => isOpen === true) ?? {};
    expect(lexicant(shop, ["place", "merrowgate", "--set", `BC-1402=${String(code)}`]).exit).toBe(0);
    for (const path of ["channels/merrowgate/placements.csv", "out/lanternlist/lanternlist.tsv"])
      expect(lstatSync(join(shop, path)).isSymbolicLink(), path).toBe(true);
    expect(read(elsewhere, "out-lanternlist-lanternlist.tsv")).not.toBe(before);
    expect(readdirSync(elsewhere).filter((name) => name.startsWith("."))).toEqual([]);
  });
});
