import { spawn } from "node:child_process";
import { existsSync, readFileSync, renameSync } from "node:fs";
import { dirname, join } from "node:path";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { copyOf, jsonLines, lexicant, mainFile, read, write } from "../kit/run.js";
import { demoShop } from "../kit/demo-shop.js";

const shop = demoShop();

type Json = Readonly<Record<string, unknown>>;
const check = (...args: readonly string[]) => lexicant(shop, ["check", ...args]);
const summary = (lines: readonly Json[], channel: string): Json =>
  lines.find((line) => line["type"] === "checked-channel" && line["channel"] === channel) ?? {};

describe("the view for people", () => {
  it("when a channel is checked, then causes come in the order of products they hold, with what settles them", () => {
    const { exit, out } = check("merrowgate");
    expect(exit).toBe(1);
    const counts = [...out.matchAll(/^error +(\d+) +(\d*) /gm)].map(([, products]) => Number(products));
    expect(counts).toEqual([...counts].sort((a, b) => b - a));
    expect(out).toMatch(/^error +17 +14 {2}hive_pattern: Hive pattern/m);
    expect(out).toContain("BC-1101-10, BC-1101-12, BC-1102-MOSS and 14 more");
    expect(out).toContain("14 products become ready by one thing: change the fill of hive_pattern");
    expect(Math.max(...out.split("\n").map((line) => line.length))).toBeLessThanOrEqual(110);
  });

  it("when the terminal is narrow, then the table is, too", () => {
    const { out } = lexicant(shop, ["check", "gavelstead"], { env: { COLUMNS: "72" } });
    expect(Math.max(...out.split("\n").map((line) => line.length))).toBeLessThanOrEqual(80);
  });

  it("when it is narrowed to a field, code or category, then only that is shown", () => {
    expect(check("merrowgate", "--field", "hive_pattern").out.match(/^error/gm)).toHaveLength(1);
    const codes = jsonLines(check("merrowgate", "--code", "too-short", "--json").out).filter(
      ({ type }) => type === "finding",
    );
    expect(codes.map(({ code }) => code)).toEqual(codes.map(() => "too-short"));
    expect(codes.length).toBeGreaterThan(0);
    const seeds = jsonLines(check("merrowgate", "--category", "Seeds", "--json").out);
    const theirs = jsonLines(
      check("merrowgate", "--placed-in", "Garden & Outdoor Living > Seeds & Bulbs", "--json").out,
    );
    const whole = jsonLines(check("merrowgate", "--json").out);
    expect(Number(summary(seeds, "merrowgate")["ready"])).toBeLessThan(
      Number(summary(whole, "merrowgate")["ready"]),
    );
    expect(Number(summary(theirs, "merrowgate")["ready"])).toBeGreaterThan(0);
    expect(check("merrowgate", "--placed-in", "Boats")).toMatchObject({
      exit: 2,
      err: expect.stringContaining("is no category of the channel"),
    });
    expect(check("merrowgate", "--field", "hive_patern")).toMatchObject({
      exit: 2,
      err: expect.stringContaining('nearest: "hive_pattern"'),
    });
    expect(check("merrowgate", "--code", "missing").err).toContain("missing-");
  });

  it("when so many held products are allowed, then the exit code says so", () => {
    const held = Number(summary(jsonLines(check("merrowgate", "--json").out), "merrowgate")["held"]);
    expect(check("merrowgate", "--max-errors", String(held)).exit).toBe(0);
    expect(check("merrowgate", "--max-errors", String(held - 1)).exit).toBe(1);
    expect(check("merrowgate", "--max-errors", "few")).toMatchObject({ exit: 2 });
    expect(check("merrowgate", "--csv", "--sarif").err).toContain("--csv and --sarif do not go together");
  });

  it("when findings are silenced, then they are counted and gone; errors stay", () => {
    const own = copyOf(shop);
    const file = "channels/merrowgate/channel.yaml";
    write(
      own,
      file,
      `${read(own, file)}\nsilence:\n  - { code: missing-recommended, because: pictures come in spring }\n  - { field: hive_pattern }\n`,
    );
    const before = jsonLines(check("merrowgate", "--json").out);
    const after = jsonLines(lexicant(own, ["check", "merrowgate", "--json"]).out);
    const [was, now] = [summary(before, "merrowgate"), summary(after, "merrowgate")];
    expect(now["silenced"]).toBe((was["codes"] as Record<string, number>)["missing-recommended"]);
    expect([now["held"], now["errors"]]).toEqual([was["held"], was["errors"]]);
    expect(lexicant(own, ["check", "merrowgate"]).out).toContain(
      `findings silenced by channels/merrowgate/channel.yaml`,
    );
    write(
      own,
      file,
      `${read(shop, file)}\nsilence:\n  - { code: mising-recommended, field: hive }\n  - { because: all }\n`,
    );
    const wrong = lexicant(own, ["check", "merrowgate"]);
    expect(wrong.exit).toBe(2);
    expect(wrong.err).toContain(
      'silence.code: "mising-recommended" is no finding; nearest: "missing-recommended"',
    );
    expect(wrong.err).toContain('silence.field: "hive" is no field of the channel');
    expect(wrong.err).toContain("silence.code: names a code, field, category or product");
  });
});

describe("findings for programs", () => {
  const findings = jsonLines(check("merrowgate", "--json").out).filter(({ type }) => type === "finding");

  it("when they are asked for as CSV, then another reader finds each with its places", () => {
    const { exit, out } = check("merrowgate", "--csv");
    expect(exit).toBe(1);
    const rows: Record<string, string>[] = parse(out, { columns: true });
    expect(rows.map(({ severity, code, sku, message }) => [severity, code, sku, message])).toEqual(
      findings.map(({ severity, code, product, message }) => [severity, code, product ?? "", message]),
    );
    const damaged = rows.find(({ sku, code }) => sku === "BC-5401-ZINC" && code === "unread-source");
    expect(damaged).toMatchObject({
      channel: "merrowgate",
      field: "barcode",
      file: "shop-export.csv",
      column: "Barcode",
      fill_file: "channels/merrowgate/fills.yaml",
    });
  });

  it("when they are asked for as SARIF, then each marks the very line that its value stands on", () => {
    const log = JSON.parse(check("merrowgate", "--sarif").out) as {
      version: string;
      runs: {
        tool: { driver: { name: string; rules: { id: string }[] } };
        results: {
          ruleId: string;
          ruleIndex: number;
          level: string;
          message: { text: string };
          locations?: {
            physicalLocation: { artifactLocation: { uri: string }; region: { startLine: number } };
          }[];
        }[];
      }[];
    };
    const [run] = log.runs;
    expect([log.version, run?.results.length]).toEqual(["2.1.0", findings.length]);
    for (const { ruleId, ruleIndex, level } of run?.results ?? []) {
      expect(run?.tool.driver.rules[ruleIndex]?.id).toBe(ruleId);
      expect(["error", "warning", "note"]).toContain(level);
    }
    const located = (run?.results ?? []).flatMap(({ message, locations = [] }) =>
      locations.map(({ physicalLocation: { artifactLocation, region } }) => ({
        sku: message.text.split(" on ")[0] ?? "",
        uri: decodeURI(artifactLocation.uri),
        line: region.startLine,
      })),
    );
    expect(located.every(({ uri }) => existsSync(join(shop, uri)))).toBe(true);
    const inExport = located.filter(({ uri }) => uri === "data/shop-export.csv");
    expect(inExport.length).toBeGreaterThan(20);
    const lines = readFileSync(join(shop, "data/shop-export.csv"), "utf8").split("\n");
    for (const { sku, line } of inExport) expect(lines[line - 1]).toMatch(new RegExp(`^"?${sku}\\b`));
  });

  it("when a cause is told in JSON, then it names the act, and counts what it holds alone", () => {
    const causes = jsonLines(check("merrowgate", "--json").out).filter(({ type }) => type === "cause");
    expect(causes[0]).toMatchObject({
      code: "missing-required",
      field: "hive_pattern",
      products: 17,
      alone: 14,
      act: { act: "fill", channel: "merrowgate", field: "hive_pattern" },
    });
  });
});

describe("how ready the shop is", () => {
  it("when it is asked by channel, then shares are told and the acts that help most come first", () => {
    const { exit, out } = lexicant(shop, ["readiness"]);
    expect(exit).toBe(0);
    expect(out).toMatch(/^merrowgate +\d+ +\d+ +\d+% +9\d\.\d% +\d+(\.\d)?%$/m);
    const acts = jsonLines(lexicant(shop, ["readiness", "--json"]).out).filter(({ type }) => type === "act");
    const alone = acts.map(({ alone: count }) => Number(count));
    expect(alone).toEqual([...alone].sort((a, b) => b - a));
    expect(acts[0]?.["says"]).toContain("hive_kind");
    const images = acts.find(({ says }) => String(says).includes("first_image or images"));
    expect((images?.["channels"] as string[]).length).toBeGreaterThan(1);
  });

  it("when one act is done, then as many become ready as it said", () => {
    const own = copyOf(shop);
    const [best] = jsonLines(lexicant(own, ["readiness", "gavelstead", "--json"]).out).filter(
      ({ type }) => type === "act",
    );
    expect(best).toMatchObject({ act: { act: "fill", field: "hive_kind" } });
    const ready = (): number =>
      Number(jsonLines(lexicant(own, ["readiness", "gavelstead", "--json"]).out)[0]?.["ready"]);
    const before = ready();
    const file = "channels/gavelstead/fills.yaml";
    write(own, file, read(own, file).replace(/^( *hive_kind: ).*$/m, "$1'\"National\"'"));
    expect(ready() - before).toBe(best?.["alone"]);
  });

  it("when products below a percent are asked for, then each has less; wrong options are told", () => {
    const rows = jsonLines(
      lexicant(shop, ["readiness", "fjordhandel", "--by", "product", "--below", "80", "--json"]).out,
    ).filter(({ type }) => type === "readiness");
    expect(rows.length).toBeGreaterThan(0);
    expect(rows.every(({ percent, sku }) => Number(percent) < 80 && typeof sku === "string")).toBe(true);
    expect(lexicant(shop, ["readiness", "--by", "colour"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("channel, category, brand, product"),
    });
  });
});

describe("against what was sent", () => {
  it("when a build was sent and the catalogue goes on, then what the next one does to the listings is told", () => {
    const own = copyOf(shop);
    expect(lexicant(own, ["check", "lanternlist", "--code", "category-moved"]).out).toContain(
      "Nothing of that kind",
    );
    lexicant(own, ["build", "lanternlist"]);
    expect(lexicant(own, ["sent", "lanternlist"]).out).toMatch(/^\d+ listings of Lanternlist noted as sent/);
    expect(lexicant(own, ["check", "lanternlist", "--code", "category-moved"]).out).toContain(
      "Nothing of that kind",
    );
    lexicant(own, ["set", "BC-1402", "category=Tools > Digging"]);
    expect(lexicant(own, ["check", "lanternlist", "--sku", "BC-1402"]).out).toContain(
      "the channel will take it for a new listing",
    );
  });
});

describe("checking beside an editor", () => {
  it("when one thing changes, then it checks once and rests; renames count, and it ends with its workspace", async () => {
    const own = copyOf(shop);
    const child = spawn(process.execPath, [mainFile, "check", "lanternlist", "--watch"], {
      cwd: dirname(own),
      env: { ...process.env, NO_COLOR: "1", LEXICANT_TODAY: "2026-11-25", LEXICANT_WORKSPACE: own },
    });
    let [out, err] = ["", ""];
    child.stdout.on("data", (chunk: Buffer) => (out += chunk.toString()));
    child.stderr.on("data", (chunk: Buffer) => (err += chunk.toString()));
    const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));
    const checks = (): number => out.split("Waiting for changes").length - 1;
    const until = async (count: number): Promise<void> => {
      for (let waited = 0; checks() < count; waited++) {
        if (waited > 300) throw new Error(`no check ${count}\n${out}`);
        await pause(100);
      }
    };
    await until(1);
    await pause(700);
    expect(lexicant(own, ["set", "BC-1402", "name=Another name"]).exit).toBe(0);
    await until(2);
    // An editor that writes beside and renames.
    const file = "channels/lanternlist/channel.yaml";
    write(own, `${file}.part`, read(own, file).replace(/^select:.*$/m, 'select: sku = "BC-1402"'));
    renameSync(join(own, `${file}.part`), join(own, file));
    await until(3);
    expect(out.slice(out.lastIndexOf("Lanternlist"))).toContain("1 ready");
    await pause(2500);
    expect(checks()).toBeLessThanOrEqual(4);
    const ended = new Promise((resolve) => child.on("close", resolve));
    renameSync(own, `${own}-moved`);
    expect(await ended).toBe(3);
    expect(err).toContain("the workspace is gone");
  });

  it("when a decision file changes, then the check comes again by itself; a faulty one is told and waited for", async () => {
    const own = copyOf(shop);
    const child = spawn(process.execPath, [mainFile, "check", "lanternlist", "--watch"], {
      cwd: own,
      env: { ...process.env, NO_COLOR: "1", LEXICANT_TODAY: "2026-11-25" },
    });
    let out = "";
    child.stdout.on("data", (chunk: Buffer) => (out += chunk.toString()));
    const until = async (words: RegExp): Promise<void> => {
      for (let waited = 0; !words.test(out); waited++) {
        if (waited > 300) throw new Error(`never came: ${words}\n${out}`);
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
      out = out.slice(out.search(words));
    };
    await until(/264 ready/);
    await until(/Waiting for changes/);
    // The watcher needs a moment until it sees the files.
    await new Promise((resolve) => setTimeout(resolve, 700));
    const file = "channels/lanternlist/channel.yaml";
    const text = read(own, file);
    out = "";
    write(own, file, text.replace(/^select:.*$/m, 'select: sku = "BC-1402"'));
    await until(/1 ready/);
    await until(/Waiting for changes/);
    out = "";
    write(own, file, text.replace(/^select:.*$/m, 'select: skuu = "BC-1402"'));
    await until(/there is no attribute "skuu"/);
    await until(/Waiting for changes/);
    out = "";
    write(own, file, text);
    await until(/264 ready/);
    out = "";
    write(own, "data/stock-2026-11-24.csv", "EAN;Stock\n");
    await until(/lexicant import data\/stock-2026-11-24\.csv/);
    const ended = new Promise((resolve) => child.on("close", resolve));
    child.kill("SIGINT");
    expect(await ended).toBe(1);
  });
});
