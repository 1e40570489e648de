import { existsSync, readdirSync, rmSync } from "node:fs";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { copyOf, jsonLines, lexicant, read, write } from "../kit/run.js";

type Product = Readonly<Record<string, unknown>>;

const shop = smallShop();
const all = jsonLines(lexicant(shop, ["list", "--json"]).out);

const skusOf = (lines: readonly Product[]): readonly string[] => lines.map(({ sku }) => String(sku)).sort();

/** What a channel holds, by its own record of a build. */
const heldOn = (channel: string): ReadonlySet<string> => {
  const lines = jsonLines(lexicant(shop, ["check", channel, "--json"]).out);
  return new Set(
    lines
      .filter(({ type, severity }) => type === "finding" && severity === "error")
      .map(({ product }) => String(product)),
  );
};

const merrowgateHolds = heldOn("merrowgate");

interface Chosen {
  readonly options: readonly string[];
  /** The same in plain words. */
  holds(product: Product): boolean;
}

/** A category's names stand in a row in the product's own, whatever their case. */
const isIn =
  (path: string) =>
  (product: Product): boolean => {
    const own = has(product, "category")
      .toLowerCase()
      .split(/\s*>\s*/);
    const wanted = path.toLowerCase().split(/\s*>\s*/);
    return own.some((_, at) => wanted.every((name, index) => own[at + index] === name));
  };

const has = (product: Product, name: string): string => String(product[name] ?? "");

write(shop, "some.txt", "\ufeffBC-1402\r\nBC-1301-WHITE-M\r\n\r\n");

const choices: readonly Chosen[] = [
  { options: ["--category", "Seeds"], holds: isIn("Seeds") },
  { options: ["--category", "beekeeping > HIVES"], holds: isIn("Beekeeping > Hives") },
  { options: ["--group", "BC-1301"], holds: (one) => one["group"] === "BC-1301" },
  { options: ["--where", 'brand = "Sallowfield"'], holds: (one) => one["brand"] === "Sallowfield" },
  {
    options: ["--sku", "BC-1402, BC-1301-WHITE-M"],
    holds: (one) => ["BC-1402", "BC-1301-WHITE-M"].includes(has(one, "sku")),
  },
  {
    options: ["--sku", "@some.txt"],
    holds: (one) => ["BC-1402", "BC-1301-WHITE-M"].includes(has(one, "sku")),
  },
  { options: ["--lacking", "merrowgate"], holds: (one) => merrowgateHolds.has(has(one, "sku")) },
  {
    options: ["--category", "Beekeeping", "--where", "quantity > 20", "--lacking", "merrowgate"],
    holds: (one) =>
      isIn("Beekeeping")(one) && Number(one["quantity"]) > 20 && merrowgateHolds.has(has(one, "sku")),
  },
];

/** The products that each command speaks of, read from its own answer. */
const commands: Readonly<Record<string, (options: readonly string[]) => readonly string[]>> = {
  list: (options) => skusOf(jsonLines(lexicant(shop, ["list", "--json", ...options]).out)),
  export: (options) =>
    skusOf(
      parse(lexicant(shop, ["export", "-", "--only", "name", ...options]).out, { columns: true, bom: true }),
    ),
  remove: (options) => {
    const [line] = jsonLines(lexicant(shop, ["remove", "--dry-run", "--json", ...options]).out);
    return [...(line?.["skus"] as string[])].sort();
  },
  readiness: (options) =>
    skusOf(
      jsonLines(
        lexicant(shop, ["readiness", "gavelstead", "--by", "product", "--json", ...options]).out,
      ).filter(({ type }) => type === "readiness"),
    ),
  build: (options) => {
    rmSync(`${shop}/chosen-out`, { recursive: true, force: true });
    lexicant(shop, ["build", "gavelstead", "--out-folder", "chosen-out", ...options]);
    const folder = "chosen-out/gavelstead/chosen";
    if (!existsSync(`${shop}/${folder}`)) return [];
    const file =
      readdirSync(`${shop}/${folder}`)
        .filter((name) => name.endsWith(".xml"))
        .sort()
        .at(-1) ?? "";
    return file === ""
      ? []
      : [...read(shop, `${folder}/${file}`).matchAll(/<lot[^>]* number="([^"]+)"|<number>([^<]+)</g)]
          .map(([, a, b]) => a ?? b ?? "")
          .sort();
  },
};

/** What of the catalogue Gavelstead has anything to do with, and what is ready there. */
const seenOn = new Set(commands["readiness"]?.([]));
const readyOn = new Set(
  jsonLines(lexicant(shop, ["readiness", "gavelstead", "--by", "product", "--json"]).out)
    .filter(({ type, ready }) => type === "readiness" && ready === 1)
    .map(({ sku }) => String(sku)),
);

describe("the choice of products", () => {
  it.each(choices.map((choice) => [choice.options.join(" "), choice] as const))(
    "when it is %s, then every command means the same products",
    (_, { options, holds }) => {
      const meant = skusOf(all.filter(holds));
      expect(meant.length).toBeGreaterThan(0);
      for (const name of ["list", "export", "remove"])
        expect([name, commands[name]?.(options)]).toEqual([name, meant]);
      expect(commands["readiness"]?.(options)).toEqual(meant.filter((sku) => seenOn.has(sku)));
      expect(commands["build"]?.(options)).toEqual(meant.filter((sku) => readyOn.has(sku)));
    },
  );

  it("when SKUs come on standard input, then they are those", () => {
    const { out } = lexicant(shop, ["list", "--sku", "@-", "--json"], { input: "BC-1402\nBC-1404\n" });
    expect(skusOf(jsonLines(out))).toEqual(["BC-1402", "BC-1404"]);
  });

  it.each([
    ["list"],
    ["check", "lanternlist"],
    ["gaps", "lanternlist"],
    ["readiness"],
    ["diff", "lanternlist"],
    ["build", "lanternlist"],
    ["export", "new.csv"],
    ["remove", "--yes"],
  ])(
    "when %s %s is asked for what is nobody's or nothing, then that is told and nothing is written",
    (...words) => {
      const own = copyOf(shop);
      const command = words.filter((word) => typeof word === "string");
      const asked = (...options: readonly string[]) => lexicant(own, [...command, ...options]);
      expect(asked("--category", "Hivess")).toMatchObject({
        exit: 2,
        out: "",
        err: expect.stringContaining('nearest: "Hives"'),
      });
      expect(asked("--group", "BC-13O1")).toMatchObject({
        exit: 2,
        out: "",
        err: expect.stringContaining("BC-1301"),
      });
      expect(asked("--sku", "BC-14O2")).toMatchObject({
        exit: 2,
        out: "",
        err: expect.stringContaining("BC-1402"),
      });
      expect(asked("--lacking", "merowgate")).toMatchObject({ exit: 2, out: "" });
      expect(asked("--category", "Hives", "--where", "quantity > 1000000")).toMatchObject({
        ...{ exit: 1, out: "" },
        err: expect.stringContaining("no product is meant"),
      });
      expect([
        existsSync(`${own}/new.csv`),
        existsSync(`${own}/out/gaps`),
        existsSync(`${own}/out/lanternlist/chosen/build.json`),
      ]).toEqual([false, false, false]);
      expect(lexicant(own, ["list", "--limit", "1"]).err).toContain(`${all.length} products`);
    },
  );

  it("when only what changed is meant, then it is what the channel does not have as it is now", () => {
    const own = copyOf(shop);
    lexicant(own, ["build", "lanternlist"]);
    lexicant(own, ["sent", "lanternlist"]);
    write(
      own,
      "lexicant.yaml",
      read(own, "lexicant.yaml").replace(/channels: \[.*\]/, "channels: [lanternlist]"),
    );
    const held = [
      ...new Set(
        jsonLines(lexicant(own, ["check", "lanternlist", "--json"]).out)
          .filter(({ type, severity }) => type === "finding" && severity === "error")
          .map(({ product }) => String(product)),
      ),
    ];
    const changed = (): readonly string[] =>
      skusOf(jsonLines(lexicant(own, ["list", "--changed", "--json"]).out));
    expect(changed()).toEqual([...held].sort());
    lexicant(own, ["set", "BC-1402", "price=9.90 GBP"]);
    expect(changed()).toEqual([...held, "BC-1402"].sort());
    const { exit, out } = lexicant(own, ["build", "lanternlist", "--changed"]);
    expect([exit, out]).toEqual([0, expect.stringContaining("1 listing written to out/lanternlist/chosen")]);
    lexicant(own, ["set", "BC-1402", "price="]);
    const none = lexicant(own, ["build", "lanternlist", "--changed"]);
    expect([none.exit, none.out]).toEqual([0, expect.stringContaining("no listing is for this file")]);
  });
});

describe("a build of products by choice", () => {
  it("when only a group's own row has changed, then it counts as changed, and is in the file alone", () => {
    const own = copyOf(shop);
    lexicant(own, ["build", "fjordhandel"]);
    lexicant(own, ["sent", "fjordhandel"]);
    const group = all.find(({ sku }) => sku === "BC-1301-WHITE-M")?.["group"] as string;
    write(
      own,
      "sources/own.yaml",
      "layer: shop\nkey: sku\nmode: update\ncolumns:\n  sku: A\n  description: B\n",
    );
    const members = all.filter((one) => one["group"] === group);
    write(
      own,
      "own.csv",
      `A,B\n${members.map(({ sku }) => `${String(sku)},A suit of another description for all that wear it`).join("\n")}\n`,
    );
    expect(lexicant(own, ["import", "own.csv", "--source", "own"]).exit).toBe(0);
    const { exit, out } = lexicant(own, ["build", "fjordhandel", "--changed"]);
    expect([exit, out]).toEqual([0, expect.stringContaining("written to out/fjordhandel/chosen")]);
    const rows = parse(read(own, "out/fjordhandel/chosen/fjordhandel-chosen.csv"), {
      columns: true,
      delimiter: ";",
    }) as Record<string, string>[];
    expect(rows.map(({ row_kind, family_no }) => [row_kind, family_no])).toEqual([["family", group]]);
    expect(rows[0]?.["text_en"]).toContain("another description");
  });

  it("when it is written, then the whole file stays as it was, and each can be noted as sent", () => {
    const own = copyOf(shop);
    lexicant(own, ["build", "lanternlist"]);
    const whole = read(own, "out/lanternlist/lanternlist.tsv");
    const { out } = lexicant(own, ["build", "lanternlist", "--category", "Hives"]);
    expect(out.replace(/\s+/g, " ")).toContain("sending this one ends all other listings there");
    expect(read(own, "out/lanternlist/lanternlist.tsv")).toBe(whole);
    const few = read(own, "out/lanternlist/chosen/lanternlist-chosen.tsv").trim().split("\n").length - 1;
    expect(lexicant(own, ["sent", "lanternlist", "out/lanternlist/lanternlist.tsv"]).exit).toBe(0);
    expect(lexicant(own, ["diff", "lanternlist"]).out).toContain("a full build holds what was sent");
    const dry = lexicant(own, ["sent", "lanternlist", "lanternlist-chosen.tsv", "--dry-run"]).out;
    expect(dry).toContain("they end there");
    expect(lexicant(own, ["diff", "lanternlist"]).out).toContain("a full build holds what was sent");
    lexicant(own, ["sent", "lanternlist", "lanternlist-chosen.tsv"]);
    // What the channel has now is what the few rows say: a whole file would bring all others anew.
    const all = whole.trim().split("\n").length - 1;
    expect(lexicant(own, ["diff", "lanternlist"]).out).toContain(
      `0 changed, ${all - few} new, 0 not in it any more`,
    );
    expect(lexicant(own, ["history", "--limit", "1"]).out).toContain("sent to lanternlist (chosen)");
    expect(lexicant(own, ["undo"]).out).toContain("lanternlist was sent a build");
    expect(lexicant(own, ["diff", "lanternlist"]).out).toContain("a full build holds what was sent");
  });

  it("when listings are withdrawn by choice, then those end and no other", () => {
    const own = copyOf(shop);
    lexicant(own, ["build", "gavelstead"]);
    lexicant(own, ["sent", "gavelstead"]);
    const live = (): ReadonlyMap<string, Product> =>
      new Map(
        jsonLines(lexicant(own, ["ledger", "gavelstead", "--json"]).out).map((line) => [
          String(line["sku"]),
          line["listing"] as Product,
        ]),
      );
    const before = live();
    const hives = skusOf(all.filter((one) => isIn("Seeds")(one))).filter((sku) => before.has(sku));
    expect(
      lexicant(own, ["build", "gavelstead", "--purpose", "withdraw", "--category", "Seeds", "--yes"]).exit,
    ).toBe(0);
    lexicant(own, ["sent", "gavelstead"]);
    const ended = [...live()]
      .filter(([, listing]) => listing["withdrawn"] === true && listing["isGroup"] !== true)
      .map(([sku]) => sku);
    expect(ended.sort()).toEqual(hives);
    // The rows of groups go with their last member, and stay where any stays.
    for (const [, listing] of live())
      if (listing["isGroup"] === true) {
        const members = [...live().values()].filter(
          (one) => one["group"] === listing["group"] && one["isGroup"] !== true,
        );
        expect(listing["withdrawn"] === true).toBe(members.every((one) => one["withdrawn"] === true));
      }
  });
});
