import { cpSync, existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { emptyShop, demoShop } from "../kit/demo-shop.js";
import { filesIn, killedEverywhere } from "../kit/killed.js";
import { isLong, oneIn } from "../kit/runs.js";
import { jsonLines, lexicant, temporaryFolder, write } from "../kit/run.js";

/** The bench's templates: generators with the truth beside them. */
const benched = async (name: string): Promise<Readonly<Record<string, unknown>>> =>
  (await import(new URL(`../../bench/templates/${name}.mjs`, import.meta.url).href)) as Readonly<
    Record<string, unknown>
  >;

type Rows = readonly (readonly string[])[];

interface Truth {
  readonly name: string;
  readonly files: readonly string[];
  readonly categories?: number;
  readonly fields: readonly {
    readonly code?: string;
    readonly label?: string;
    readonly need?: string;
    readonly values?: readonly string[];
  }[];
}

type Make = (folder: string) => Promise<Truth>;

type Makes = Readonly<Record<string, Make>>;

interface Reissue {
  readonly before: readonly string[];
  readonly after: readonly string[];
  readonly truth: readonly Readonly<Record<string, unknown>>[];
}

const { styles } = (await benched("styles")) as { styles: Makes };
const { more } = (await benched("styles-more")) as { more: Makes };
const { reissue, isPlanted } = (await benched("reissue")) as {
  reissue(folder: string, seed: number): Promise<Reissue>;
  isPlanted(planted: Readonly<Record<string, unknown>>, told: unknown): boolean;
};

const all: readonly (readonly [string, Make])[] = Object.entries({ ...styles, ...more });

/** A workbook of sheets with rows, made by somebody else's writer. */
const workbook = async (
  path: string,
  sheets: Readonly<Record<string, Rows>>,
  change: (book: ExcelJS.Workbook) => void | Promise<void> = () => undefined,
): Promise<void> => {
  const book = new ExcelJS.Workbook();
  for (const [name, rows] of Object.entries(sheets))
    book.addWorksheet(name).addRows(rows.map((row) => [...row]));
  await change(book);
  await book.xlsx.writeFile(path);
};

const head: Rows = [
  ["SKU", "Title", "Price", "Colour", "Stock"],
  ["Required", "Required", "Required", "Optional", "Required"],
  [
    "Max. 20 characters",
    "Max. 80 characters",
    "Number with 2 decimals",
    "Max. 30 characters",
    "Whole number from 0 to 999",
  ],
];

const withLength = (length: number): Rows =>
  head.map((row, at) =>
    at === 2 ? row.map((text, column) => (column === 1 ? `Max. ${length} characters` : text)) : row,
  );

const learned = async (rows: Rows = head): Promise<string> => {
  const shop = emptyShop();
  await workbook(join(shop, "goods.xlsx"), { Goods: rows });
  expect(lexicant(shop, ["channels", "learn", "acorn", "goods.xlsx"])).toMatchObject({ exit: 0, err: "" });
  return shop;
};

const table = (shop: string, ...names: readonly string[]): string =>
  readFileSync(join(shop, "definitions", "acorn", ...names), "utf8");

describe("a definition from what a channel publishes", () => {
  it.each(all)(
    "when %s hands out its papers, then its fields, needs and lists are learned, and the definition can be used",
    async (name, make) => {
      const shop = emptyShop();
      const truth = await make(join(shop, "papers"));
      const ran = lexicant(shop, [
        "channels",
        "learn",
        name,
        ...truth.files.map((file) => join("papers", file)),
        "--json",
      ]);
      expect([ran.exit, ran.err]).toEqual([0, ""]);
      const guesses = jsonLines(ran.out).filter(({ type }) => type === "guess");
      const labels = new Set(
        guesses
          .filter(({ fact }) => fact === "label")
          .flatMap(({ guess, field }) => [String(guess).toLowerCase(), String(field)]),
      );
      const needs = new Map(
        guesses
          .filter(({ fact }) => fact === "need")
          .map(({ label, guess }) => [String(label).toLowerCase(), guess]),
      );
      const lists = new Map(
        guesses
          .filter(({ fact }) => fact === "values")
          .map(({ label, guess }) => [String(label).toLowerCase(), String(guess)]),
      );
      const named = truth.fields.filter(({ label }) => label !== undefined && label !== "");
      for (const { label = "", need, values } of named) {
        const key = label.toLowerCase();
        if (!labels.has(key)) continue;
        if (need !== undefined && needs.has(key)) expect([label, needs.get(key)]).toEqual([label, need]);
        if (values !== undefined && lists.has(key))
          expect([label, lists.get(key)?.split(":")[0]]).toEqual([label, String(values.length)]);
      }
      expect(guesses.filter(({ fact }) => fact === "label").length).toBeGreaterThanOrEqual(
        truth.fields.length * 0.95,
      );
      expect(lexicant(shop, ["channels", "add", name])).toMatchObject({ exit: 0, err: "" });
      expect(lexicant(shop, ["check", name]).exit).toBe(0);
      expect(
        jsonLines(lexicant(shop, ["channels", "--json"]).out).find(({ channel }) => channel === name),
      ).toMatchObject({
        inUse: true,
        ...(truth.categories === undefined ? {} : { categories: truth.categories }),
      });
    },
  );

  it("when a file that was taken comes with its report and an export, then their layouts are learned", async () => {
    const shop = emptyShop();
    const { files } = await styles["pebblecombe"]!(join(shop, "papers"));
    lexicant(shop, ["channels", "learn", "acorn", ...files.map((file) => join("papers", file))]);
    expect(table(shop, "definition.yaml")).toMatch(
      /results:\n {2}format: csv\n {2}ref: pc_sku\n {2}state: outcome\n {2}code: reason_no\n {2}message: reason\n {2}row: line\n {2}id: shelf_id\n {2}accepted:\n {4}- taken\n/,
    );
    expect(table(shop, "definition.yaml")).toMatch(
      /live:\n {4}from: live-2027-03.csv\n {4}format: csv\n {4}id: shelf_id/,
    );
  });

  it("when two templates share columns, then what they share holds everywhere, and each fills its own workbook", async () => {
    const shop = emptyShop();
    write(
      shop,
      "goods.csv",
      "SKU,Name,Price,Colour,Stock,Category,Blade,Size\nA-1,Spade,12.50 GBP,Green,4,Tools,long,\nB-1,Smock,30.00 GBP,Grey,2,Clothes,,M\n",
    );
    expect(lexicant(shop, ["import", "goods.csv", "--accept"]).exit).toBe(0);
    await workbook(join(shop, "acorn tools.xlsx"), {
      Tools: [
        [...head[0]!, "Blade"],
        [...head[1]!, "Required"],
        [...head[2]!, "Max. 9 characters"],
      ],
    });
    await workbook(join(shop, "acorn clothes.xlsx"), {
      Clothes: [
        [...head[0]!, "Size"],
        ["Required", "Required", "Required", "Required", "Required", "Required"],
        [...withLength(60)[2]!, "Max. 4 characters"],
      ],
    });
    const { out, exit } = lexicant(shop, [
      "channels",
      "learn",
      "acorn",
      "acorn tools.xlsx",
      "acorn clothes.xlsx",
    ]);
    expect(exit).toBe(0);
    expect(out).toContain('"Title": max length differs between tools and clothes');
    expect(table(shop, "fields.csv")).toMatch(/^blade,tools,Blade,/m);
    expect(table(shop, "fields.csv")).toMatch(/^title,clothes,[^\n]*,60/m);
    lexicant(shop, ["channels", "add", "acorn"]);
    lexicant(shop, ["place", "acorn", "--set", "Tools=tools", "--set", "Clothes=clothes"]);
    expect(lexicant(shop, ["build", "acorn"]).exit).toBe(0);
    const built = join(shop, "out", "acorn");
    const cells = async (file: string, sheet: string): Promise<readonly unknown[]> => {
      const book = new ExcelJS.Workbook();
      await book.xlsx.readFile(join(built, file));
      return (book.getWorksheet(sheet)!.getRow(4).values as unknown[]).slice(1);
    };
    expect(await cells("acorn-tools.xlsx", "Tools")).toEqual([
      "A-1",
      "Spade, Green",
      "12.50",
      "Green",
      "4",
      "long",
    ]);
    expect(await cells("acorn-clothes.xlsx", "Clothes")).toEqual([
      "B-1",
      "Smock, Grey, M",
      "30.00",
      "Grey",
      "2",
      "M",
    ]);
  });

  it("when a CSV has odd headings, then the file is written again just so", async () => {
    const shop = emptyShop();
    const preface =
      'Acorn, edition 3;;;\r\nArtikelnummer*;Titel*;Preis*;"Größe ""EU"""\r\nnr;titel;preis;gr\r\n';
    writeFileSync(join(shop, "vorlage.csv"), Buffer.from(`${preface}A-9;Spaten;"12,50";M\r\n`, "latin1"));
    expect(lexicant(shop, ["channels", "learn", "acorn", "vorlage.csv", "--language", "de"]).exit).toBe(0);
    write(shop, "goods.csv", "SKU,Name,Price,Size,Category\nA-1,Gartenbank,99.50 GBP,L,Garden\n");
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    lexicant(shop, ["channels", "add", "acorn"]);
    expect(lexicant(shop, ["build", "acorn"]).exit).toBe(0);
    expect(readFileSync(join(shop, "out", "acorn", "acorn.csv"), "latin1")).toBe(
      `${preface}A-1;Gartenbank, L;99,50;L\r\n`,
    );
  });
});

describe("what a person corrects", () => {
  it("when the review comes back as a workbook, then its corrections hold, also when the papers are read again", async () => {
    const shop = await learned();
    expect(lexicant(shop, ["channels", "learn", "acorn", "--review", "review.xlsx"]).exit).toBe(0);
    const book = new ExcelJS.Workbook();
    await book.xlsx.readFile(join(shop, "review.xlsx"));
    const sheet = book.getWorksheet("Review")!;
    sheet.eachRow((row) => {
      const [field, fact] = [row.getCell(2).text, row.getCell(5).text];
      if (field === "colour" && fact === "need") row.getCell(11).value = "required";
      if (field === "title" && fact === "max_length") row.getCell(11).value = "75";
    });
    await book.xlsx.writeFile(join(shop, "review.xlsx"));
    expect(lexicant(shop, ["channels", "learn", "acorn", "review.xlsx"])).toMatchObject({
      exit: 0,
      out: expect.stringContaining("2 corrections taken over"),
    });
    expect(table(shop, "fields.csv")).toMatch(/^colour,\*,Colour,text,required/m);
    expect(table(shop, "fields.csv")).toMatch(/^title,[^\n]*,75,/m);
    expect(lexicant(shop, ["channels", "learn", "acorn", "goods.xlsx", "--yes"]).exit).toBe(0);
    expect(table(shop, "fields.csv")).toMatch(/^colour,\*,Colour,text,required/m);
    expect(table(shop, "guesses.csv")).toMatch(/^corrected,colour,/m);
  });

  it("when the definition's own files are edited, then what was edited stays, and all else follows the papers", async () => {
    const shop = await learned();
    const file = join(shop, "definitions", "acorn", "fields.csv");
    writeFileSync(
      file,
      `# mine\n${readFileSync(file, "utf8").replace("title,*,Title,", "title,*,Our title,")}gift,*,Gift,text,optional\n`.replace(
        /^# mine\n(field[^\n]*\n)/,
        "$1# mine\n",
      ),
    );
    const yaml = join(shop, "definitions", "acorn", "definition.yaml");
    writeFileSync(yaml, readFileSync(yaml, "utf8").replace("countries: []", "countries: [GB] # home"));
    await workbook(join(shop, "goods.xlsx"), { Goods: withLength(60) });
    expect(lexicant(shop, ["channels", "learn", "acorn", "goods.xlsx", "--yes"])).toMatchObject({
      exit: 0,
      err: "",
    });
    const now = readFileSync(file, "utf8");
    expect(now).toMatch(/^title,\*,Our title,[^\n]*,60,/m);
    expect(now).toMatch(/^gift,\*,Gift,text,optional/m);
    expect(now).toContain("# mine\n");
    expect(readFileSync(yaml, "utf8")).toMatch(/countries: \[ ?GB ?\] # home/);
  });

  it("when guesses are only looked at, then nothing is written", async () => {
    const shop = await learned();
    const before = filesIn(shop);
    expect(lexicant(shop, ["channels", "learn", "acorn", "--review"]).out).toContain("Sure:");
    expect(lexicant(shop, ["channels", "learn", "other", "goods.xlsx", "--dry-run"]).out).toContain(
      "Nothing was written",
    );
    expect(filesIn(shop)).toEqual(before);
  });
});

describe("papers that cannot be learned from", () => {
  const cases: Readonly<Record<string, readonly [make: (shop: string) => Promise<void>, message: string]>> = {
    "without headings": [
      (shop) =>
        workbook(join(shop, "bad.xlsx"), {
          Goods: [
            ["1", "2", "3"],
            ["4", "5", "6"],
          ],
        }),
      "three headings side by side",
    ],
    "with two sheets that could be it": [
      (shop) =>
        workbook(join(shop, "bad.xlsx"), {
          Tools: [["SKU", "Title", "Price"]],
          Books: [["ISBN", "Author", "Pages"]],
        }),
      '--sheet "Tools"',
    ],
    "that is cut off": [
      async (shop) => {
        await workbook(join(shop, "whole.xlsx"), { Goods: head });
        writeFileSync(join(shop, "bad.xlsx"), readFileSync(join(shop, "whole.xlsx")).subarray(0, 3000));
      },
      "not whole",
    ],
    "that is something else": [
      (shop) => Promise.resolve(writeFileSync(join(shop, "bad.xlsx"), Buffer.alloc(5000))),
      "binary",
    ],
  };

  it.each(Object.entries(cases))(
    "when a workbook comes %s, then that is told, and nothing is written",
    async (_, [make, message]) => {
      const shop = emptyShop();
      await make(shop);
      const ran = lexicant(shop, ["channels", "learn", "acorn", "bad.xlsx"]);
      expect(ran.exit).toBeGreaterThan(0);
      expect(ran.err.replace(/\s+/g, " ")).toContain(message);
      expect(existsSync(join(shop, "definitions"))).toBe(false);
    },
  );

  it("when a definition is there, then it is not overwritten without --yes, nor by another channel's template", async () => {
    const shop = await learned();
    const before = filesIn(shop);
    expect(lexicant(shop, ["channels", "learn", "acorn", "goods.xlsx"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("--yes"),
    });
    await workbook(join(shop, "rooms.xlsx"), {
      Rooms: [["Room code", "Beds", "Sea view", "Nightly rate", "Breakfast"]],
    });
    expect(
      lexicant(shop, ["channels", "learn", "acorn", "rooms.xlsx", "--as", "2"]).err.replace(/\s+/g, " "),
    ).toContain("another channel's template");
    rmSync(join(shop, "rooms.xlsx"));
    expect(filesIn(shop)).toEqual(before);
  });

  it("when a workbook is protected, has macros or names columns like formulas and paths, then it is learned and told, and nothing runs", async () => {
    const shop = emptyShop();
    await workbook(
      join(shop, "goods.xlsx"),
      {
        Goods: [
          ["SKU", "Title", "../../x", "@cmd", "constructor"],
          ["Required", "Required", "Optional", "Optional", "Optional"],
        ],
      },
      (book) => book.getWorksheet("Goods")!.protect("secret", {}),
    );
    const ran = lexicant(shop, ["channels", "learn", "acorn", "goods.xlsx"]);
    expect([ran.exit, ran.out.includes("is protected")]).toEqual([0, true]);
    expect(readdirSync(join(shop, "definitions", "acorn")).sort()).toEqual([
      "as-learned",
      "categories.csv",
      "definition.yaml",
      "fields.csv",
      "guesses.csv",
      "published",
    ]);
    expect(table(shop, "fields.csv")).toContain("'@cmd");
    for (const name of ["../x", "X", "a b", "-x"])
      expect(lexicant(shop, ["channels", "learn", name, "goods.xlsx"]).exit).toBe(2);
  });

  it("when rows of a tree are broken, then they are told and left out, and the rest holds", async () => {
    const shop = emptyShop();
    await workbook(join(shop, "goods.xlsx"), { Goods: head });
    write(shop, "tree.csv", "code,parent,name\n1,,Garden\n2,1,Tools\n3,9,Lost\n4,5,Round\n5,4,And round\n");
    expect(
      lexicant(shop, ["channels", "learn", "acorn", "goods.xlsx", "tree.csv"]).out.replace(/\s+/g, " "),
    ).toContain('3 rows of the tree left out: row 4, its parent "9" is not in the list');
    expect(table(shop, "categories.csv")).toBe("code,parent,name\n1,,Garden\n2,1,Tools\n");
  });
});

describe("a channel that is re-issued", () => {
  it("when sixty changes are planted, then all are found and none is made up", async () => {
    const shop = emptyShop();
    const { before, after, truth } = await reissue(shop, 11);
    lexicant(shop, ["channels", "learn", "goods", ...before]);
    lexicant(shop, ["channels", "learn", "goods", ...after, "--as", "2"]);
    const changes = jsonLines(
      lexicant(shop, ["channels", "compare", "goods", "1", "2", "--json"]).out,
    ).filter(({ type }) => type === "version-change");
    const used = new Set<unknown>();
    const missed = truth.filter((planted) => {
      const found = changes.find((change) => !used.has(change) && isPlanted(planted, change));
      if (found !== undefined) used.add(found);
      return found === undefined;
    });
    expect([truth.length, missed, changes.filter((change) => !used.has(change))]).toEqual([60, [], []]);
  });

  it("when a version is taken into use and taken back, then every file is as before; edits since are not lost unasked", async () => {
    const shop = await learned();
    write(shop, "stock.csv", "SKU,Name,Price,Stock,Category\nA-1,Spade,12.50 GBP,4,Garden\n");
    lexicant(shop, ["import", "stock.csv", "--accept"]);
    lexicant(shop, ["channels", "add", "acorn"]);
    write(
      shop,
      "channels/acorn/lexicon.csv",
      "field,our_category,our_term,channel_value\n# mine\ncolour,,moss,Green\n",
    );
    const renamed = head.map((row, at) =>
      at === 0 ? ["SKU", "Title", "Price", "Shade or colour", "Stock"] : row,
    );
    await workbook(join(shop, "next.xlsx"), { Goods: [...renamed] });
    lexicant(shop, ["channels", "learn", "acorn", "next.xlsx", "--as", "2"]);
    const before = filesIn(shop);
    expect(lexicant(shop, ["channels", "upgrade", "acorn", "2", "--dry-run"]).out).toContain("dry run");
    expect(filesIn(shop)).toEqual(before);
    expect(lexicant(shop, ["channels", "upgrade", "acorn", "2"]).exit).toBe(0);
    expect(readFileSync(join(shop, "channels/acorn/lexicon.csv"), "utf8")).toBe(
      "field,our_category,our_term,channel_value\n# mine\nshade_or_colour,,moss,Green\n",
    );
    expect(lexicant(shop, ["check", "acorn"])).toMatchObject({ exit: 0, err: "" });
    expect(lexicant(shop, ["channels", "upgrade", "acorn", "--back"]).exit).toBe(0);
    expect(filesIn(shop)).toEqual(before);
    lexicant(shop, ["channels", "upgrade", "acorn", "2"]);
    writeFileSync(join(shop, "channels/acorn/lexicon.csv"), "field,our_category,our_term,channel_value\n");
    expect(lexicant(shop, ["channels", "upgrade", "acorn", "--back"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("--yes"),
    });
    expect(lexicant(shop, ["channels", "upgrade", "acorn", "--back", "--yes"]).exit).toBe(0);
    expect(filesIn(shop)).toEqual(before);
    expect(lexicant(shop, ["channels", "upgrade", "acorn", "--back"]).exit).toBe(2);
    expect(lexicant(shop, ["channels", "compare", "acorn", "1", "7"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('there are "1", "2"'),
    });
  });

  it("when an upgrade is killed at any step, then all is of before or all of after", async () => {
    const shop = await learned();
    lexicant(shop, ["channels", "add", "acorn"]);
    await workbook(join(shop, "next.xlsx"), { Goods: withLength(60) });
    lexicant(shop, ["channels", "learn", "acorn", "next.xlsx", "--as", "2"]);
    const { torn, kills } = killedEverywhere(
      shop,
      ["channels", "upgrade", "acorn", "2", "--quiet"],
      [],
      oneIn(34, 4),
    );
    expect([torn, kills > (isLong ? 3 : 1)]).toEqual([[], true]);
  }, 120_000);

  it("when a tree alone is new, then the rest of a shipped definition holds with it, and placements follow", () => {
    const shop = demoShop();
    const shipped = join(temporaryFolder(), "tree.csv");
    cpSync(new URL("../../definitions/chatterquay/categories.csv", import.meta.url), shipped);
    const rows = readFileSync(shipped, "utf8").split("\n");
    const [gone = ""] = readFileSync(join(shop, "channels/chatterquay/placements.csv"), "utf8")
      .split("\n")
      .filter((line) => /,lexicant|,person|,/.test(line))
      .slice(1)
      .map((line) => line.split(",").at(-3) ?? "");
    const code = rows.find((row) => row.startsWith(`${gone},`))?.split(",")[0] ?? "";
    writeFileSync(
      shipped,
      rows.filter((row) => !row.startsWith(`${code},`) && !row.includes(`,${code},`)).join("\n"),
    );
    const ran = lexicant(shop, ["channels", "learn", "chatterquay", shipped, "--as", "5"]);
    expect([ran.exit, ran.out.includes("the tree alone is new")]).toEqual([0, true]);
    const compared = jsonLines(
      lexicant(shop, ["channels", "compare", "chatterquay", "4", "5", "--json"]).out,
    );
    expect(
      compared.filter(({ change }) => /^(?:field-(?:added|gone|renamed)|value-)/.test(String(change))),
    ).toEqual([]);
    expect(compared.some(({ change }) => change === "category-gone")).toBe(true);
    expect(compared.length).toBeGreaterThan(1);
  });
});
