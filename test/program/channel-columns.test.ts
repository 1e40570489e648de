// A file with columns for single channels is what as many files would be: one for all, and one for each channel.
import fc from "fast-check";
import { join } from "node:path";
import { newFiles } from "../../src/flow/sync/new-files.js";
import { openWorkspace } from "../../src/workspace/workspace.js";
import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { jsonLines, lexicant, read, write } from "../kit/run.js";
import { runs } from "../kit/runs.js";
import { shown, storeIn } from "../kit/store.js";

const channels = ["lanternlist", "storefront"] as const;
const layers = [{ layer: "shop" }, ...channels.map((channel) => ({ layer: `shop-${channel}`, channel }))];

const header = "sku,group,name,price,L price,L on,L note,S price,S on,S note";

/** Columns of each channel by attribute; a changed rule reads another column, or none. */
const columnsOf = (mark: string, rule: number): readonly string[] => [
  ...(rule === 3 ? [] : [`price: '\`${mark} price\`'`]),
  `listed: '\`${mark} on\`'`,
  ...(rule === 1 ? [] : [`remark: '${rule === 2 ? `upper(\`${mark} note\`)` : `\`${mark} note\``}'`]),
];

const shared = ["columns:", ...["sku", "group", "name", "price"].map((name) => `  ${name}: ${name}`)];

const indented = (lines: readonly string[], by: number): readonly string[] =>
  lines.map((line) => `${" ".repeat(by)}${line}`);

interface Delivery {
  readonly layout: string;
  readonly rules: readonly number[];
  readonly replaces: boolean;
  readonly rows: readonly string[];
}

const settings = ({ layout, replaces }: Delivery): readonly string[] => [
  "currency: GBP",
  'clear_word: "(none)"',
  ...(replaces ? ["replaces: yes"] : []),
  layout,
];

/** The whole in one source. */
function inOne(shop: string, delivery: Delivery): readonly string[] {
  const named = channels.flatMap((channel, at) =>
    // A channel that the source has no columns for any more.
    delivery.rules[at] === 4
      ? []
      : [
          `  ${channel}:`,
          ...indented(columnsOf(channel === "lanternlist" ? "L" : "S", delivery.rules[at] ?? 0), 4),
        ],
  );
  const lines = ["layer: shop", ...settings(delivery), ...shared];
  write(
    shop,
    "sources/all.yaml",
    `${[...lines, ...(named.length === 0 ? [] : ["channels:", ...named])].join("\n")}\n`,
  );
  write(shop, "all.csv", `${[header, ...delivery.rows].join("\n")}\n`);
  return ["all.csv"];
}

/** The same in a source for each layer. */
function apart(shop: string, delivery: Delivery): readonly string[] {
  const lines = ["layer: shop", ...settings(delivery), ...shared];
  write(shop, "sources/all.yaml", `${lines.join("\n")}\n`);
  const files = ["all", ...channels];
  for (const [at, channel] of channels.entries()) {
    const rule = delivery.rules[at] ?? 0;
    const own = rule === 4 ? [] : columnsOf(channel === "lanternlist" ? "L" : "S", rule);
    const all = [`layer: shop-${channel}`, "mode: update", ...settings(delivery)];
    write(
      shop,
      `sources/${channel}.yaml`,
      `${[...all, "columns:", "  sku: sku", ...indented(own, 2)].join("\n")}\n`,
    );
  }
  for (const file of files) write(shop, `${file}.csv`, `${[header, ...delivery.rows].join("\n")}\n`);
  return files.map((file) => `${file}.csv`);
}

const price = fc.constantFrom("", "", "5.00", "6.50", "(none)", "ca. 5");
const on = fc.constantFrom("", "yes", "no", "perhaps");
const note = fc.constantFrom("", "a", "b");
const row = fc
  .tuple(
    fc.constantFrom("A", "B", "C", "D"),
    fc.constantFrom("", "x"),
    price,
    price,
    on,
    note,
    price,
    on,
    note,
  )
  .map(([sku, name, ...rest]) => [sku, "", name || sku, ...rest].join(","));
const delivery: fc.Arbitrary<Delivery> = fc.record({
  layout: fc.constantFrom("groups: { layout: rows }", "further_rows: [images]"),
  rules: fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })),
  replaces: fc.boolean(),
  rows: fc.uniqueArray(row, { selector: (line) => line.charAt(0), minLength: 1 }),
});
const steps = fc.array(
  fc.oneof({ weight: 4, arbitrary: delivery }, { weight: 1, arbitrary: fc.constant("undo" as const) }),
  { minLength: 1, maxLength: 5 },
);

const manifest = (own: boolean): string =>
  `shop: B\nlanguage: en\ncurrency: GBP\nlayers:\n  - shop\n${own ? "" : channels.map((channel) => `  - { layer: shop-${channel}, channel: ${channel} }\n`).join("")}channels: [${channels.join(", ")}]\n`;

async function seen(shop: string): Promise<readonly string[]> {
  const store = await storeIn(join(shop, ".lexicant"), layers);
  const found: string[] = [];
  for (const sku of ["A", "B", "C", "D"])
    for (const channel of [undefined, ...channels])
      found.push(`${sku} ${channel ?? ""} ${await shown(store, sku, "name,price,listed,remark", channel)}`);
  await store.close();
  return found;
}

describe("a file with columns for single channels", () => {
  it("when it comes again and again, changed, by other rules, undone, then each channel sees what files of their own give", async () => {
    await fc.assert(
      fc.asyncProperty(steps, async (all) => {
        const [one, several] = [emptyShop(), emptyShop()];
        write(one, "lexicant.yaml", manifest(true));
        write(several, "lexicant.yaml", manifest(false));
        for (const step of all) {
          if (step === "undo") for (const shop of [one, several]) lexicant(shop, ["undo"]);
          else {
            lexicant(one, ["import", ...inOne(one, step)]);
            lexicant(several, ["import", ...apart(several, step)]);
          }
          expect(await seen(one)).toEqual(await seen(several));
        }
      }),
      { numRuns: runs(12, 400) },
    );
  }, 240_000);

  it("when it has a source, then its layers stand in the manifest, one undo takes all of it, and nothing is read twice", () => {
    const shop = emptyShop();
    write(shop, "lexicant.yaml", manifest(true));
    const rows = ["A,,Smoker,31.00,33.00,,,29.00,no,worn", "B,,Veil,12.50,2x,,,,,"];
    inOne(shop, { layout: "", rules: [0, 0], replaces: false, rows });
    const [finding, imported] = jsonLines(lexicant(shop, ["import", "all.csv", "--json"]).out);
    expect(finding).toMatchObject({ code: "unreadable-value", place: { column: "L price", row: 3 } });
    expect(imported).toMatchObject({
      added: 2,
      channels: [
        { channel: "lanternlist", layer: "shop-lanternlist", changed: 2, revision: 2 },
        { channel: "storefront", layer: "shop-storefront", changed: 1, revision: 3 },
      ],
    });
    expect(read(shop, "lexicant.yaml")).toContain("{ layer: shop-storefront, channel: storefront }");
    const again = lexicant(shop, ["import", "--again"]);
    expect(again.out.match(/unchanged \+/g)).toHaveLength(1);
    expect(lexicant(shop, ["undo"]).out).toContain("revision 1, all.csv");
    expect(lexicant(shop, ["list"]).out).not.toContain("Smoker");
  });

  it("when a delivery is news to one channel alone, or to all but it, then it counts as read, and is read again as it is now", async () => {
    const shop = emptyShop();
    write(shop, "lexicant.yaml", manifest(true));
    const isRead = async (): Promise<boolean> => {
      const workspace = await openWorkspace(shop);
      const store = await storeIn(join(shop, ".lexicant"), layers);
      const files = await newFiles(workspace, store);
      await store.close();
      return files.length === 0;
    };
    for (const row of [
      "A,,Smoker,31.00,33.00,,,29.00,no,worn",
      "A,,Smoker,31.00,34.00,,,29.00,no,worn",
      "A,,Smoker,32.00,34.00,,,29.00,no,worn",
    ]) {
      inOne(shop, { layout: "", rules: [0, 0], replaces: false, rows: [row] });
      write(shop, "data/all.csv", `${header}\n${row}\n`);
      expect(await isRead()).toBe(false);
      expect(lexicant(shop, ["import", "data/all.csv"]).exit).toBe(0);
      expect(await isRead()).toBe(true);
      expect(lexicant(shop, ["import", "--again"]).exit).toBe(0);
    }
  });

  it("when groups have rows of their own, then what holds for their members reaches the channel, and products alone are counted", async () => {
    const shop = emptyShop();
    write(shop, "lexicant.yaml", manifest(true));
    const layout = "groups: { layout: own-row, when: sku is blank }";
    const rows = [",G,Gloves,,,,warm,,,", "A,G,Gloves S,5.00,6.00,,,,,", "B,G,Gloves M,5.00,,,,,,"];
    inOne(shop, { layout, rules: [0, 0], replaces: false, rows });
    const { out } = lexicant(shop, ["import", "all.csv", "--json"]);
    expect(jsonLines(out).at(-1)).toMatchObject({
      added: 2,
      channels: [
        { channel: "lanternlist", changed: 1, unchanged: 1 },
        { channel: "storefront", changed: 0, unchanged: 2 },
      ],
    });
    expect((await seen(shop)).filter((line) => /^[AB] lanternlist/.test(line))).toEqual([
      "A lanternlist Gloves S,6.00 GBP,-,warm",
      "B lanternlist Gloves M,5.00 GBP,-,warm",
    ]);
  });

  it("when keys of a row had lost their zeros, then that is told once, however many channels hear of it", () => {
    const shop = emptyShop();
    write(shop, "lexicant.yaml", manifest(true));
    inOne(shop, {
      layout: "",
      rules: [0, 0],
      replaces: false,
      rows: ["0041,,Smoker,31.00,33.00,,,29.00,no,worn"],
    });
    lexicant(shop, ["import", "all.csv"]);
    inOne(shop, {
      layout: "mode: update",
      rules: [0, 0],
      replaces: false,
      rows: ["41,,Smoker,31.00,34.00,,,28.00,no,worn"],
    });
    const told = jsonLines(lexicant(shop, ["import", "all.csv", "--json"]).out);
    expect(told.filter(({ code }) => code === "repaired-value")).toHaveLength(1);
    expect(told.at(-1)).toMatchObject({ unchanged: 1, channels: [{ changed: 1 }, { changed: 1 }] });
  });

  it.each([
    ["  lanternlst:\n    price: L price\n", '"lanternlst" is not in use in this workspace'],
    ["  lanternlist:\n    sku: sku\n", "the same for all"],
    ["  lanternlist:\n    price: Gone\n", '"Gone"'],
  ])("when it says %j, then that is told at its place, and nothing comes", (block, told) => {
    const shop = emptyShop();
    write(shop, "lexicant.yaml", manifest(true));
    write(shop, "sources/all.yaml", `layer: shop\ncolumns:\n  sku: sku\nchannels:\n${block}`);
    write(shop, "all.csv", `${header}\nA,,Smoker,31.00,33.00,,,29.00,no,worn\n`);
    const ran = lexicant(shop, ["import", "all.csv"]);
    expect([ran.exit, `${ran.out}${ran.err}`]).toEqual([2, expect.stringContaining(told)]);
    expect(ran.err).toMatch(/sources\/all\.yaml:\d/);
  });

  it("when a layer of the name is all channels' own, then nothing goes into it", () => {
    const shop = emptyShop();
    write(shop, "lexicant.yaml", manifest(true).replace("  - shop\n", "  - shop\n  - shop-storefront\n"));
    inOne(shop, {
      layout: "",
      rules: [0, 0],
      replaces: false,
      rows: ["A,,Smoker,31.00,33.00,,,29.00,no,worn"],
    });
    expect(lexicant(shop, ["import", "all.csv"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("for all channels") as unknown,
    });
  });
});
