import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { jsonLines, lexicant, projectRoot, read, write } from "../kit/run.js";

const page = readFileSync(join(projectRoot, "docs/definitions.md"), "utf8");

/** The page's worked example: each file under its name, and its commands as words. */
const example = () => {
  const folder = mkdtempSync(join(tmpdir(), "lexicant-definition-"));
  for (const [, file = "", text = ""] of page.matchAll(/^`([\w/.-]+)`\n\n```\w+\n([\s\S]*?)```/gm))
    write(folder, file, text);
  const [, commands = ""] = /```sh\n([\s\S]*?)```/.exec(page) ?? [];
  return {
    folder,
    commands: commands
      .trim()
      .split("\n")
      .map((line) =>
        [...line.matchAll(/(?:[^\s"]|"[^"]*")+/g)].map(([word]) => word.replaceAll('"', "")).slice(1),
      ),
  };
};

describe("a channel of one's own", () => {
  it("when the page's worked example is followed, then it does what the page says", () => {
    const { folder, commands } = example();
    expect(commands.map(([name]) => name)).toEqual(["init", "fields", "import", "place", "build", "check"]);
    const runs = commands.map((words) => lexicant(folder, words));
    expect(runs.map(({ exit }) => exit)).toEqual([0, 0, 0, 0, 0, 1]);
    expect(runs[1]?.out).toContain("required when amount(price) > 40");
    expect(read(folder, "out/pennywort/pennywort.tsv")).toBe(
      "notice\tcorner\ttitle\tstate\twear\tpounds\tkilos\nB-1\tOut of doors > Seeds\tRunner Beans\tnew\t\t2.60\t0.1\n",
    );
    expect(runs[5]?.out.replace(/\s+/g, " ")).toContain('Weight (such as "1.4 kg") is missing and required');
    expect(runs[5]?.out).toContain("what is used says how worn it is");
  });

  it("when a definition has faults in several of its files, then one run tells them all by file and place", () => {
    const { folder } = example();
    write(folder, "definitions/pennywort/values/state.csv", "value,label,synonyms\n");
    write(
      folder,
      "definitions/pennywort/categories.csv",
      "code,parent,name,search_words,closed\ngreen,,Green,,\ngreen,,Twice,,\nbee,nowhere,Bees,,\n",
    );
    const text = read(folder, "definitions/pennywort/definition.yaml");
    write(folder, "definitions/pennywort/definition.yaml", text.replace("wear is given", "waer is given"));
    const { exit, err } = lexicant(folder, ["init", ".", "--channel", "pennywort"]);
    expect(exit).toBe(2);
    for (const part of [
      'two categories have the code "green"',
      'the parent "nowhere" of "bee" does not exist',
      'the value list "state" has no values',
      'there is no field "waer"; nearest: "wear"',
      '"green.dig" is no category of the channel',
    ])
      expect(err.replace(/\s+/g, " ")).toContain(part);
  });

  it("when channels are taken into use later, then the manifest's comments stay, and decisions are not overwritten", () => {
    const { folder } = example();
    lexicant(folder, ["init", ".", "--channel", "pennywort"]);
    write(folder, "channels/pennywort/fills.yaml", "all:\n  notice: sku\n");
    const again = lexicant(folder, ["init", "--channel", "pennywort", "--channel", "fjordhandel"]);
    expect(again.exit).toBe(0);
    expect(again.out).toMatch(/^Pennywort is in use: \d+ fields have a fill/);
    expect(again.out).toContain("Next: lexicant place fjordhandel, then lexicant fills fjordhandel");
    expect(read(folder, "channels/pennywort/fills.yaml")).toBe("all:\n  notice: sku\n");
    expect(read(folder, "lexicant.yaml")).toContain("# From lowest to highest");
    expect(read(folder, "channels/fjordhandel/fills.yaml")).toContain("  # title_de: ");
    const used = jsonLines(lexicant(folder, ["channels", "--json"]).out).filter(
      (line) => line["inUse"] === true,
    );
    expect(used.map((line) => line["channel"])).toEqual(["fjordhandel", "pennywort"]);
  });

  it("when a shipped channel has two products of it, then they are checked and built", () => {
    const { folder } = example();
    lexicant(folder, ["init", ".", "--channel", "fjordhandel"]);
    lexicant(folder, ["import", "goods.csv", "--accept"]);
    lexicant(folder, ["place", "fjordhandel", "--set", "Vegetable Seeds=garden.hand_tools.spades"]);
    expect(lexicant(folder, ["check", "fjordhandel"]).out).toContain("Title, German");
    expect(lexicant(folder, ["build", "fjordhandel"]).out).toMatch(
      /^Fjordhandel 7\.1, full: no listing is for this file/,
    );
  });

  it("when layouts say for what and within which bounds they are, then each build has the files of its purpose", () => {
    const { folder, commands } = example();
    const file = "definitions/pennywort/definition.yaml";
    write(
      folder,
      file,
      read(folder, file)
        .replace(
          "purposes: [full]",
          "purposes: [full, { purpose: stock, blank: leave, must: [notice], may: [notice, price] }]",
        )
        .replace(
          "    file: pennywort.tsv\n",
          "    file: pennywort.tsv\n    purposes: [full]\n    file_limits: { rows: 1 }\n",
        )
        .concat(
          "  - layout: counts\n    format: csv\n    file: counts.csv\n    purposes: [stock]\n    columns: [notice]\n",
        ),
    );
    const text = read(folder, "goods.csv").replace(
      "A-2,Hand Trowel,12.00 GBP,Tools > Digging,0.4 kg,open box",
      "B-2,Broad Beans,3.10 GBP,Vegetable Seeds,0.1 kg,new",
    );
    write(folder, "goods.csv", text);
    for (const words of commands.filter(([name]) => name !== "check" && name !== "fields"))
      expect([words, lexicant(folder, words).exit]).toEqual([words, 0]);
    const filesOf = (...words: readonly string[]): readonly string[] => {
      const [line] = jsonLines(lexicant(folder, ["build", "pennywort", "--json", ...words]).out);
      return (line?.["files"] as { name: string }[]).map(({ name }) => name);
    };
    expect(filesOf()).toEqual(["pennywort.tsv", "pennywort-2.tsv"]);
    expect(lexicant(folder, ["sent", "pennywort"]).exit).toBe(0);
    expect(filesOf("--purpose", "stock")).toEqual(["counts-stock.csv"]);
    expect(read(folder, "out/pennywort/counts-stock.csv").trim().split(/\r?\n/)).toEqual([
      "notice",
      "B-2",
      "B-1",
    ]);
  });
});
