import { spawn } from "node:child_process";
import { chmodSync, mkdirSync, readdirSync, writeFileSync } from "node:fs";
import { hostname } from "node:os";
import { dirname, join } from "node:path";
import { afterEach, describe, expect, it } from "vitest";
import { takeWriterLock } from "../../src/store/open-store.js";
import type { WriterLock } from "../../src/store/store.js";
import { smallShop, emptyShop } from "../kit/demo-shop.js";
import { asStranger, hasStranger } from "../kit/stranger.js";
import { copyOf, jsonLines, lexicant, lexicantBeside, read, write } from "../kit/run.js";

const all = (shop: string, lines: readonly (readonly string[])[]) =>
  Promise.all(lines.map((line) => lexicantBeside(shop, line)));

const openCodes = (shop: string, channel: string, count: number): readonly string[] =>
  jsonLines(lexicant(shop, ["categories", channel, "--json", "--limit", "200"]).out)
    .filter(({ open }) => open === true)
    .slice(0, count)
    .map(({ code }) => String(code));

describe("several commands at once", () => {
  it("when six place at once, then all six rows are kept", async () => {
    const shop = smallShop();
    const skus = jsonLines(lexicant(shop, ["list", "--json", "--limit", "6"]).out).map(({ sku }) =>
      String(sku),
    );
    const codes = openCodes(shop, "merrowgate", 6);
    const ran = await all(
      shop,
      skus.map((sku, index) => ["place", "merrowgate", "--set", `${sku}=${codes[index] ?? ""}`, "--quiet"]),
    );
    expect(ran.map(({ exit, err }) => (exit === 0 ? "" : err))).toEqual(["", "", "", "", "", ""]);
    const rows = read(shop, "channels/merrowgate/placements.csv").split("\n");
    for (const sku of skus)
      expect(
        rows.filter((row) => row.includes(`,${sku},`)),
        sku,
      ).toHaveLength(1);
  });

  it("when channels are added, sources accepted and values set at once, then nothing is lost", async () => {
    const shop = emptyShop();
    write(shop, "data/first.csv", "SKU,Name\nA-1,One\n");
    lexicant(shop, ["import", "data/first.csv", "--accept"]);
    for (const name of ["second", "third"]) write(shop, `data/${name}.csv`, `SKU,Name\n${name}-1,${name}\n`);
    const ran = await all(shop, [
      ["channels", "add", "merrowgate"],
      ["import", "data/second.csv", "--accept"],
      ["channels", "add", "lanternlist"],
      ["import", "data/third.csv", "--accept"],
      ["channels", "add", "chatterquay"],
      ["set", "A-1", "brand=Tarnbeck"],
    ]);
    expect(ran.map(({ exit, err }) => (exit === 0 ? "" : err))).toEqual(["", "", "", "", "", ""]);
    const manifest = read(shop, "lexicant.yaml");
    for (const name of ["first", "second", "third", "merrowgate", "lanternlist", "chatterquay"])
      expect(manifest, name).toContain(name);
    expect(lexicant(shop, ["list", "--json"]).out.trim().split("\n")).toHaveLength(3);
    expect(jsonLines(lexicant(shop, ["history", "--json"]).out)).toHaveLength(4);
  });

  it("when two build one channel, then each has a number of its own, and the ledger is whole", async () => {
    const shop = smallShop();
    const alone = copyOf(shop);
    lexicant(alone, ["build", "gavelstead"]);
    const ran = await all(shop, [
      ["build", "gavelstead", "--json"],
      ["build", "gavelstead", "--json"],
    ]);
    const names = ran.map(({ out }) => JSON.stringify(jsonLines(out).map(({ files }) => files)));
    expect(new Set(names).size).toBe(2);
    const listings = (folder: string) =>
      jsonLines(lexicant(folder, ["sent", "gavelstead", "--dry-run", "--json"]).out).map(
        (sent) => sent["listings"],
      );
    expect(listings(shop)).toEqual(listings(alone));
  });
});

describe("beside a command that writes", () => {
  let lock: WriterLock | undefined;

  afterEach(() => lock?.release());

  const busyShop = async (): Promise<string> => {
    const shop = smallShop();
    lock = await takeWriterLock(join(shop, ".lexicant", "writer.lock"));
    expect(lock).toBeDefined();
    writeFileSync(
      join(shop, ".lexicant", "writer.json"),
      JSON.stringify({
        command: "import",
        person: "anna",
        process: 4711,
        host: hostname(),
        since: "2026-11-26T10:12:00Z",
      }),
    );
    return shop;
  };

  it("when it is asked, then whatever only reads answers at once", async () => {
    const shop = await busyShop();
    for (const line of [
      ["list", "--limit", "1"],
      ["show", "BC-1402"],
      ["check", "lanternlist"],
      ["history"],
      ["diff", "lanternlist"],
      ["place", "merrowgate", "--list"],
      ["build", "lanternlist", "--dry-run"],
      ["sent", "lanternlist", "--dry-run"],
      ["unset", "lanternlist", "--dry-run"],
      ["channels"],
      ["export", "-"],
    ])
      expect(lexicant(shop, line).exit, line.join(" ")).toBeLessThan(2);
  });

  it("when another wants to write, then it says for whom it waits, and gives up in words", async () => {
    const shop = await busyShop();
    const ran = lexicant(shop, ["set", "BC-1402", "name=x"], { env: { LEXICANT_WAIT: "1" } });
    expect(ran.exit).toBe(3);
    const owner = /"lexicant import" of anna \(process 4711.*, since 10:12:00 UTC\)/;
    const said = ran.err.replace(/\s+/g, " ");
    expect(said).toMatch(new RegExp(`Waiting for ${owner.source} to end`));
    expect(said).toMatch(
      new RegExp(`${owner.source} still writes to this workspace after 1 s; nothing was changed`),
    );
    expect(lexicant(shop, ["set", "BC-1402", "name=x"], { env: { LEXICANT_WAIT: "soon" } }).exit).toBe(2);
  });

  it("when the note of who writes is broken or hostile, then it is only text", async () => {
    const shop = await busyShop();
    for (const note of ["{", "[]", '{"command":"\\u001b[2J","process":{},"since":5}'])
      for (const wait of ["0"]) {
        write(shop, ".lexicant/writer.json", note);
        const { exit, err } = lexicant(shop, ["set", "BC-1402", "name=x"], { env: { LEXICANT_WAIT: wait } });
        expect([exit, err.includes("\u001b")]).toEqual([3, false]);
      }
  });
});

/** Another program's ceaseless care for some files: each is put in place anew, whole, over and over. */
const replacing = (shop: string, names: readonly string[]) =>
  spawn(
    process.execPath,
    [
      "-e",
      `const { readFileSync, renameSync, writeFileSync } = require("node:fs");
       const files = process.argv.slice(1).map((name) => [name, readFileSync(name)]);
       for (let time = 1; ; time++)
         for (const [name, text] of files) {
           writeFileSync(name + ".beside", Buffer.concat([text, Buffer.from("\\n".repeat(time % 7))]));
           renameSync(name + ".beside", name);
         }`,
      ...names,
    ],
    { cwd: shop, stdio: "ignore" },
  );

describe("files that are put in place anew while they are read", () => {
  it("when every table and setting of a workspace is, then whoever reads them takes each as it was, and is not refused", async () => {
    const shop = smallShop();
    const names = readdirSync(shop, { recursive: true, encoding: "utf8" }).filter(
      (name) =>
        /^(?:channels|tables|sources|catalogue)\b.*\.(?:csv|yaml)$/.test(name) || name === "lexicant.yaml",
    );
    expect(names.length).toBeGreaterThan(5);
    const lines = [
      ["place", "merrowgate", "--list"],
      ["check", "merrowgate", "--json"],
    ];
    const alone = lines.map((line) => lexicant(shop, line));
    const other = replacing(shop, names);
    try {
      for (const [index, line] of lines.entries())
        expect(await lexicantBeside(shop, line), line.join(" ")).toEqual(alone[index]);
    } finally {
      other.kill("SIGKILL");
    }
  }, 60_000);
});

const readOnly = (shop: string, args: readonly string[], env: Readonly<Record<string, string>> = {}) =>
  asStranger(shop, args, {
    open: [dirname(shop)],
    closed: { [shop]: 0o555, [join(shop, ".lexicant")]: 0o555 },
    env,
  });

describe.skipIf(!hasStranger())("a workspace that may only be read", () => {
  it("when it is read, then every answer is there and nothing is left behind", () => {
    const shop = smallShop();
    const temporary = join(dirname(shop), "temporary");
    mkdirSync(temporary);
    chmodSync(temporary, 0o777);
    for (const line of [["list", "--quiet"], ["check", "lanternlist"], ["show", "BC-1402"], ["history"]]) {
      const { exit, out, err } = readOnly(shop, line, { TMPDIR: temporary });
      expect({ exit, err, out }, line.join(" ")).toEqual(lexicant(shop, line));
    }
    expect(readdirSync(temporary)).toEqual([]);
  });

  it("when something is to be written, then it is refused in words", () => {
    const shop = smallShop();
    const { exit, err } = readOnly(shop, ["set", "BC-1402", "name=x"]);
    expect([exit, err]).toEqual([3, expect.stringMatching(/cannot write "\.lexicant/)]);
    expect(err).not.toMatch(/fault in Lexicant|SQLITE/);
  });
});
