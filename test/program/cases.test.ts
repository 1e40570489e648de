import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, extname, join } from "node:path";
import { readXlsx } from "hucre/xlsx";
import { describe, expect, it } from "vitest";
import { purposeNames } from "../../src/core/channel/purpose-names.js";
import { sayFacts } from "../kit/facts.js";
import { jsonLines, lexicant, projectRoot, temporaryFolder } from "../kit/run.js";

const cases = join(projectRoot, "test/cases/channels");
const isUpdate = process.env["UPDATE_CASES"] === "1";

/** A built file as text: a workbook as the rows of its sheets. */
const textOf = async (path: string): Promise<string> => {
  const bytes = readFileSync(path);
  if (extname(path) !== ".xlsx") return bytes.toString("utf8");
  const { sheets } = await readXlsx(bytes);
  return sheets
    .filter(({ name }) => name !== "Values")
    .map(({ name, rows }) =>
      [`[${name}]`, ...rows.map((row) => row.map((cell) => String(cell ?? "")).join("\t"))].join("\n"),
    )
    .join("\n");
};

/** Holds a text against the one that is kept, or keeps it where that is asked for. */
const hold = (name: string, text: string): void => {
  const path = join(cases, name);
  if (isUpdate) {
    mkdirSync(dirname(path), { recursive: true });
    writeFileSync(path, text);
  }
  expect(text, name).toBe(existsSync(path) ? readFileSync(path, "utf8") : "nothing is kept under this name");
};

const shopOf = (): string => {
  const folder = temporaryFolder();
  expect(lexicant(folder, ["demo", "shop", "--empty"]).exit).toBe(0);
  const shop = join(folder, "shop");
  expect(lexicant(shop, ["import", join(cases, "goods.csv"), "--source", "shop-export"]).exit).toBeLessThan(
    2,
  );
  // What others send of these goods; most of their rows speak of others.
  for (const name of ["tarnbeck-winter-list.xlsx", "fernditch.xml", "lanternlist-words.txt"])
    expect(lexicant(shop, ["import", join(shop, "data", name)]).exit).toBeLessThan(2);
  return shop;
};

const channels = jsonLines(lexicant(temporaryFolder(), ["channels", "--json"]).out).map(
  ({ channel, purposes }) => ({ channel: channel as string, purposes: purposes as readonly string[] }),
);

describe("a whole example for each shipped channel", () => {
  it("when channels are counted, then there are some, and all purposes stand in one of them", () => {
    expect(channels.length).toBeGreaterThan(4);
    const all = new Set(channels.flatMap(({ purposes }) => purposes));
    expect([...all].sort()).toEqual([...purposeNames].sort());
  });

  it.each(channels)(
    "when goods go to $channel and change, then its files are those kept",
    async ({ channel, purposes }) => {
      if (isUpdate) rmSync(join(cases, channel), { recursive: true, force: true });
      const shop = shopOf();
      if (!readFileSync(join(shop, "lexicant.yaml"), "utf8").includes(channel)) {
        expect(lexicant(shop, ["init", "--channel", channel]).exit).toBe(0);
        sayFacts(shop, channel);
        expect(lexicant(shop, ["place", channel, "--accept-above", "10"]).exit).toBe(0);
      }
      // By codes and facts: how they are worded is tested elsewhere.
      const findings = jsonLines(lexicant(shop, ["check", channel, "--json"]).out).filter(
        ({ type }) => type === "finding",
      );
      // The small shop keeps the placements of the whole demo shop, most of which are about goods that it does not have.
      const told = findings
        .filter(({ code }) => code !== "idle-placement")
        .map(({ severity, code, product, field, facts }) =>
          JSON.stringify({ severity, code, product, field, facts }),
        );
      hold(`${channel}/findings.jsonl`, `${told.join("\n")}\n`);
      const build = async (purpose: string, step: string): Promise<void> => {
        const out = join(shop, "built", step);
        const ran = lexicant(shop, [
          ...["build", channel, "--purpose", purpose, "--out-folder", out],
          ...(purpose === "withdraw" ? ["--yes"] : []),
        ]);
        expect(ran.exit, ran.err).toBeLessThan(2);
        for (const name of readdirSync(join(out, channel)))
          hold(
            `${channel}/${step}/${name.replace(/\.xlsx$/, ".xlsx.txt")}`,
            await textOf(join(out, channel, name)),
          );
      };
      await build("full", "full");
      expect(lexicant(shop, ["sent", channel]).exit).toBe(0);
      expect(
        lexicant(shop, ["import", join(cases, "later.csv"), "--source", "shop-export"]).exit,
      ).toBeLessThan(2);
      expect(lexicant(shop, ["set", "BC-1402", "keep_off=all"]).exit).toBe(0);
      for (const purpose of purposes) await build(purpose, purpose === "full" ? "full-later" : purpose);
    },
  );
});
