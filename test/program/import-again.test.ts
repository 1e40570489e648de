import Database from "better-sqlite3";
import fc from "fast-check";
import { rmSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { smallShop } from "../kit/demo-shop.js";
import { runs } from "../kit/runs.js";
import { copyOf, lexicant, read, write } from "../kit/run.js";

const header = "sku,name,price,color,images,parts";

const sourceOf = (more: string): string =>
  `layer: shop\ncurrency: GBP\nfurther_rows: images\n${more}columns:\n  sku: sku\n  name: name\n  price: price\n  color: color\n  images: images\n  bundle_of: parts\n`;

const sku = fc.constantFrom("K-1", "K-2", "K-3", "K-4", "K-5", "K-6");

/** Mostly one, at times another. */
const mostly = (usual: string, ...others: readonly string[]): fc.Arbitrary<string> =>
  fc.oneof(
    { weight: 9, arbitrary: fc.constant(usual) },
    { weight: 1, arbitrary: fc.constantFrom(...others) },
  );

/** Cells that are tidied, cannot be read, are missing, or, mostly, are just as they are. */
const row = fc
  .tuple(
    sku,
    mostly("Kneeler", " Kneeler ", "Total", ""),
    fc.oneof(mostly("5.00", "many"), fc.constant("6.50")),
    mostly("green", "", "(none)"),
    mostly("https://brindlecote.example/k.jpg", "", "a,b"),
    mostly("", "K-1|K-9"),
  )
  .map((cells) => cells.map((cell) => (cell.includes(",") ? `"${cell}"` : cell)).join(","));

/** Further pictures of whatever stands above. */
const further = fc
  .tuple(fc.constantFrom("", "K-1", "K-2"), fc.constantFrom("1", "2"))
  .map(([own, number]) => `${own},,,,https://brindlecote.example/f${number}.jpg,`);

const rows = fc.array(fc.oneof({ weight: 6, arbitrary: row }, { weight: 1, arbitrary: further }), {
  minLength: 3,
  maxLength: 8,
});

type Step =
  | { readonly step: "deliver" | "replace"; readonly rows: readonly string[] }
  | { readonly step: "one row"; readonly at: number; readonly by: readonly string[] }
  | { readonly step: "again" | "undo" | "other" | "rules" };

const step: fc.Arbitrary<Step> = fc.oneof(
  { weight: 3, arbitrary: fc.record({ step: fc.constant("deliver" as const), rows }) },
  { weight: 1, arbitrary: fc.record({ step: fc.constant("replace" as const), rows }) },
  // Of the rows of before, one is another, comes twice, or goes.
  {
    weight: 4,
    arbitrary: fc.record({
      step: fc.constant("one row" as const),
      at: fc.nat(7),
      by: fc.array(fc.oneof(row, further), { maxLength: 2 }),
    }),
  },
  { weight: 4, arbitrary: fc.record({ step: fc.constant("again" as const) }) },
  {
    weight: 3,
    arbitrary: fc.record({ step: fc.constantFrom("undo" as const, "other" as const, "rules" as const) }),
  },
);

const whole = (sku: string): string => `${sku},Kneeler,6.50,green,https://brindlecote.example/k.jpg,`;
const added = (sku: string): string => `${sku},,,,https://brindlecote.example/f2.jpg,`;
const again: Step = { step: "again" };

/** What once went wrong: rows that add to others, beside rows that pass. */
const once: [string[], Step[]][] = [
  // A row that had a further one below it stands alone.
  [
    [whole("K-2")],
    [
      { step: "deliver", rows: [whole("K-4"), whole("K-3"), whole("K-3"), whole("K-2"), added("")] },
      again,
      { step: "one row", at: 4, by: [] },
    ],
  ],
  // The same row twice, below news.
  [
    [whole("K-3"), added("K-2"), added("K-2")],
    [again, { step: "one row", at: 0, by: [whole("K-5")] }, { step: "one row", at: 0, by: [whole("K-6")] }],
  ],
  // A row whose key stood above, with one between that passed.
  [
    [added("K-1"), whole("K-2"), whole("K-3"), whole("K-4")],
    [
      again,
      { step: "deliver", rows: [whole("K-1"), whole("K-2"), added("K-1"), whole("K-4"), whole("K-5")] },
      again,
    ],
  ],
];

/** All that the catalogue holds, but the times. */
const held = (shop: string): unknown => {
  const store = new Database(join(shop, ".lexicant", "store.db"), { readonly: true });
  const all = (sql: string): unknown => store.prepare(sql).all();
  const found = [
    all(
      "SELECT id, kind, layer, source, file, columns, counts, undone_by, undoes, names, drops, same FROM revision",
    ),
    all("SELECT * FROM record"),
    all("SELECT * FROM product"),
    all("SELECT * FROM key_value"),
  ];
  store.close();
  return found;
};

describe("a delivery whose rows came before", () => {
  it("when anything was delivered, undone or decided between, then it does and tells what it does where nothing is known", () =>
    fc.assert(
      fc.property(rows, fc.array(step, { minLength: 5, maxLength: 8 }), (first, steps) => {
        const shop = smallShop();
        write(shop, "sources/kit.yaml", sourceOf(""));
        write(shop, "sources/other.yaml", "layer: shop\ncolumns:\n  sku: sku\n  color: color\n");
        const other = copyOf(shop);
        let [last, turn]: [readonly string[], number] = [first, 0];
        const done = (one: Step): void => {
          if ("rows" in one) last = one.rows;
          if (one.step === "one row") last = last.toSpliced(one.at % last.length, 1, ...one.by);
          if (last.length === 0) last = first;
          const said = [shop, other].map((own) => {
            if (own === other) rmSync(join(own, ".lexicant", "kept"), { recursive: true, force: true });
            if (one.step === "undo") return lexicant(own, ["undo"]).exit;
            if (one.step === "rules") {
              write(own, "sources/kit.yaml", sourceOf(`# ${turn}\nlist_separator: "${"|;"[turn % 2]}"\n`));
              return undefined;
            }
            const [file, text, source] =
              one.step === "other"
                ? ["data/other.csv", `sku,color\nK-${(turn % 6) + 1},blue`, "other"]
                : ["data/kit.csv", [header, ...last].join("\n"), "kit"];
            write(own, file, text);
            const more = one.step === "replace" ? ["--replace", "--drop-vanished"] : [];
            const { exit, out, err } = lexicant(own, ["import", file, "--source", source, "--json", ...more]);
            return [exit, out, err];
          });
          turn++;
          expect(said[0]).toEqual(said[1]);
          expect(held(shop)).toEqual(held(other));
        };
        for (const one of [{ step: "again" } as const, ...steps]) done(one);
      }),
      { numRuns: runs(4, 100), endOnFailure: true, examples: once },
    ));

  it("when nothing touched a product since, then its row is not read again; when something did, then it is", () => {
    const shop = smallShop();
    write(shop, "sources/kit.yaml", sourceOf(""));
    write(shop, "data/kit.csv", [header, "K-1,Kneeler,5.00,,,", "K-2,Kneeling mat,7.00,,,"].join("\n"));
    const imported = () => lexicant(shop, ["import", "data/kit.csv", "--source", "kit", "--json"]).out;
    imported();
    expect(imported()).toContain('"unchanged":2');
    // Behind the program's back: no revision says so, and whoever reads the row would see that it is news.
    const store = new Database(join(shop, ".lexicant", "store.db"));
    store.exec("UPDATE record SET texts = replace(texts, '5.00 GBP', '4.00 GBP')");
    store.close();
    expect(imported()).toContain('"unchanged":2');
    // Nor under the name of another day, however many checks were kept meanwhile.
    for (const channel of ["lanternlist", "fjordhandel", "merrowgate", "gavelstead", "chatterquay"]) {
      lexicant(shop, ["check", channel]);
      lexicant(shop, ["check", channel, "lanternlist"]);
    }
    write(shop, "data/kit-2026-11-28.csv", read(shop, "data/kit.csv"));
    expect(lexicant(shop, ["import", "data/kit-2026-11-28.csv", "--source", "kit", "--json"]).out).toContain(
      '"unchanged":2',
    );
    rmSync(join(shop, ".lexicant", "kept"), { recursive: true });
    expect(imported()).toContain('"changed":1');
  });
});
