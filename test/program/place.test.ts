import { cpSync, mkdirSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { smallShop, emptyShop } from "../kit/demo-shop.js";
import { jsonLines, lexicant, projectRoot, read, write } from "../kit/run.js";

const goods = `Item no,Title,Price,Section,Brand
A-1,Border Spade,49.00,Tools > Digging,Oakapple
A-2,Digging Fork,52.00,Tools > Digging,Oakapple
B-1,Bypass Secateurs,32.00,Tools > Pruning,Oakapple
C-1,Stoneware Mug,14.00,Table > Mugs,Oakapple
`;

/** A small shop on Merrowgate, with nothing placed yet. */
const newShop = (): string => {
  const shop = emptyShop("--channel", "merrowgate");
  write(shop, "goods.csv", goods);
  lexicant(shop, ["import", "goods.csv", "--accept", "--quiet"]);
  return shop;
};

/** One shop for all that changes nothing. */
let refusingShop: string | undefined;
const refusing = (): string => (refusingShop ??= newShop());

const placements = (shop: string): string => read(shop, "channels/merrowgate/placements.csv");

describe("placing our categories", () => {
  it("when nothing is placed, then each category gets proposals with confidence and reason, most products first", () => {
    const shop = newShop();
    const proposals = jsonLines(lexicant(shop, ["place", "merrowgate", "--json"]).out);
    expect(proposals.map(({ ourCategory, products }) => [ourCategory, products])).toEqual([
      ["Tools > Digging", 2],
      ["Table > Mugs", 1],
      ["Tools > Pruning", 1],
    ]);
    expect(proposals[0]?.["suggestions"]).toMatchObject([
      { path: expect.stringContaining("Spades & Forks") },
      {},
      {},
    ]);
    const { out } = lexicant(shop, ["place", "merrowgate", "--list"]);
    expect(out).toContain("0 categories of ours placed, 3 open, which 4 products wait for");
    expect(out).toContain('--set "Tools > Digging"=');
  });

  it("when proposals are accepted above a confidence, then they are written with who decided and how sure", () => {
    const shop = newShop();
    const before = lexicant(shop, ["place", "merrowgate", "--accept-above", "50", "--dry-run"]);
    expect([before.exit, placements(shop).trim().split("\n").length]).toEqual([0, 1]);
    lexicant(shop, ["place", "merrowgate", "--accept-above", "50"]);
    expect(placements(shop)).toMatch(/^Tools > Digging,,BBDB,lexicant,0\.\d+$/m);
    expect(lexicant(shop, ["check", "merrowgate"]).out).not.toContain("has no place on the channel");
  });

  it("when one is set by hand, then comments, own columns and order stay, and a decision is changed in its place", () => {
    const shop = newShop();
    write(
      shop,
      "channels/merrowgate/placements.csv",
      'our_category,sku,channel_category,decided_by,confidence,my note\n# tools first,,,,,\nTools > Digging,,BBDC,Maud,1,"ask, again"\nTable,,BLGD,Maud,1,\n',
    );
    const ran = lexicant(shop, [
      "place",
      "merrowgate",
      "--set",
      "Tools>Digging=BBDB",
      "--set",
      "Tools > Pruning=Garden & Outdoor Living > Hand Tools for the Garden > Secateurs & Snips",
      "--by",
      "Nell",
    ]);
    expect([ran.exit, ran.err]).toEqual([0, ""]);
    expect(placements(shop)).toBe(
      'our_category,sku,channel_category,decided_by,confidence,my note\n# tools first,,,,,\nTools > Digging,,BBDB,Nell,1,"ask, again"\nTable,,BLGD,Maud,1,\nTools > Pruning,,BBDG,Nell,1,\n',
    );
  });

  it.each([
    [["--set", "Tools"], "write --set"],
    [["--set", "Tools=BBDX9"], '"BBDX9" is no category of the channel'],
    [["--set", "Tools=BB"], "takes no listings; choose a category below it"],
    [["--accept-above", "most"], "--accept-above is a share in percent, such as 90"],
  ])("when %j is asked for, then it is refused and told why", (args, message) => {
    const { exit, err } = lexicant(refusing(), ["place", "merrowgate", ...args]);
    expect([exit, err.replace(/\s+/g, " ")]).toEqual([2, expect.stringContaining(message)]);
  });

  it("when a code was retired, then check holds its products, place names them, and --successors follows", () => {
    const shop = newShop();
    const own = join(shop, "definitions/merrowgate");
    mkdirSync(join(shop, "definitions"));
    cpSync(join(projectRoot, "definitions/merrowgate"), own, { recursive: true });
    write(own, "retired.csv", "code,successor,since\nOLD,BBDB,2026.2\n");
    write(
      shop,
      "channels/merrowgate/placements.csv",
      "our_category,sku,channel_category,decided_by,confidence\nTools > Digging,,OLD,Maud,1\nTools > Pruning,,BBDG,Maud,1\nTable,,BLGD,Maud,1\n",
    );
    expect(lexicant(shop, ["check", "merrowgate"]).out.replace(/\s+/g, " ")).toContain(
      'error 2 the category "OLD" was retired with version 2026.2',
    );
    expect(lexicant(shop, ["place", "merrowgate", "--list"]).out.replace(/\s+/g, " ")).toContain(
      'Tools > Digging (2 products) stands in "OLD", retired with 2026.2',
    );
    lexicant(shop, ["place", "merrowgate", "--successors"]);
    expect(placements(shop)).toContain("Tools > Digging,,BBDB,successor,1");
  });
});

describe("placing with a person at the terminal", () => {
  /** Runs `place` in a pseudo-terminal and types the answers. */
  const typed = (shop: string, ...answers: readonly string[]) =>
    lexicant(shop, ["place", "merrowgate", "--by", "Nell"], {
      shell: `script -qefc "'$0' '$1' place merrowgate --by Nell" /dev/null`,
      input: answers.map((answer) => `${answer}\n`).join(""),
    });
  const decided = (shop: string): readonly string[] => placements(shop).trim().split("\n").slice(1);

  it.runIf(process.platform === "linux")(
    "when they accept, search and choose, and skip, then just that is written, in their name",
    () => {
      const shop = newShop();
      const { out } = typed(shop, "", "soup bowls", "1", "-");
      expect(out).toContain("Tools > Digging (2 products)");
      expect(out).toContain("Tableware > Bowls (BLGC)");
      expect(decided(shop)).toEqual([
        expect.stringMatching(/^Tools > Digging,,BBDB,Nell,0\.\d+$/),
        expect.stringMatching(/^Table > Mugs,,BLGC,Nell,1$/),
      ]);
    },
  );

  it.runIf(process.platform === "linux")(
    "when they take all of the category above, then it is not asked again for what is below",
    () => {
      const shop = newShop();
      const { out } = typed(shop, "+", "1", "q");
      expect(decided(shop)).toEqual([expect.stringMatching(/^Tools,,BBDB,Nell,/)]);
      expect(out).not.toContain("Tools > Pruning (1 product)");
    },
  );
});

describe("products that stand apart from their category, or have none", () => {
  const mixed = `Item no,Title,Price,Section,Brand
Q-1,Queen Cage,4.00,Beekeeping > Queens,Oakapple
Q-2,Queen Cage with tube,5.00,Beekeeping > Queens,Oakapple
Q-3,Queen Introduction Cage,5.00,Beekeeping > Queens,Oakapple
Q-4,"Nucleus Box, five frames",45.00,Beekeeping > Queens,Oakapple
Q-5,"Nucleus Box, six frames",49.00,Beekeeping > Queens,Oakapple
N-1,Leaf Blower,99.00,,Oakapple
`;
  const mixedShop = (): string => {
    const shop = emptyShop("--channel", "merrowgate");
    write(shop, "goods.csv", mixed);
    lexicant(shop, ["import", "goods.csv", "--accept", "--quiet"]);
    return shop;
  };

  it("when a name says surely another place, then the products of that kind are proposed on their own", () => {
    const proposals = jsonLines(lexicant(mixedShop(), ["place", "merrowgate", "--json"]).out);
    const single = (sku: string) =>
      proposals.find(({ skus }) => Array.isArray(skus) && skus.includes(sku)) ?? {};
    expect(single("Q-4")).toMatchObject({
      skus: ["Q-4", "Q-5"],
      suggestions: [{ path: "Beekeeping > Hives > Nucleus Boxes" }, {}, {}],
    });
    expect(single("N-1")).toMatchObject({
      ourCategory: "",
      suggestions: [{ path: expect.stringMatching(/Leaf Blowers$/) }, {}, {}],
    });
    expect([single("Q-1"), single("Q-3")]).toEqual([{}, {}]);
  });

  it("when they are decided, then each has a row of its own and is not proposed again; its category is not touched", () => {
    const shop = mixedShop();
    lexicant(shop, ["place", "merrowgate", "--set", "Q-4=BCBG", "--set", "N-1=BBFF", "--by", "Nell"]);
    expect(placements(shop).trim().split("\n").slice(1)).toEqual([
      "Beekeeping > Queens,Q-4,BCBG,Nell,1",
      ",N-1,BBFF,Nell,1",
    ]);
    const { out } = lexicant(shop, ["place", "merrowgate", "--list"]);
    expect(out).toContain("Beekeeping > Queens (5 products)");
    expect(out).toContain("Q-5 Nucleus Box, of Beekeeping > Queens (1 product)");
    expect(out).not.toContain("Leaf Blower");
  });
});

describe("looking things up", () => {
  const shop = smallShop();

  it("when categories are looked for, below one, or as leaves, then those are shown", () => {
    const codes = (...args: readonly string[]): readonly unknown[] =>
      jsonLines(lexicant(shop, ["categories", ...args, "--json"]).out).map(({ code }) => code);
    expect(codes("lanternlist", "bee", "gloves")[0]).toBe("garden.bees.clothing.gloves");
    expect(codes("lanternlist", "--under", "garden.bees.hives")).toEqual([
      "garden.bees.hives.complete",
      "garden.bees.hives.boxes",
      "garden.bees.hives.frames",
      "garden.bees.hives.stands",
    ]);
    expect(codes("lanternlist", "--leaf")).not.toContain("garden");
    expect(codes("merrowgate").length).toBeGreaterThanOrEqual(1500);
    expect(lexicant(shop, ["categories", "lanternlist", "xylophone"]).out).toContain(
      "No category of Lanternlist has these words",
    );
    expect(lexicant(shop, ["categories", "lanternlist", "--under", "garden.beez"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("garden.bees"),
    });
  });

  it("when fields of a category are asked for, then need, limits, values and the rule's place are told", () => {
    const fields = jsonLines(
      lexicant(shop, ["fields", "merrowgate", "Books > Fiction > Novels", "--json"]).out,
    );
    const named = (field: string) => fields.find((one) => one["field"] === field);
    expect(named("writer")).toMatchObject({ need: "required", kind: "text", maxLength: 120 });
    expect(named("shade")).toMatchObject({ need: "not allowed" });
    expect(named("binding")).toMatchObject({ values: ["paperback", "hardback", "spiral", "sheet"] });
    expect(named("battery_type")).toMatchObject({ when: ["required when contains_battery = yes"] });
    expect(fields.filter(({ type }) => type === "rule").length).toBeGreaterThan(3);
    const { out } = lexicant(shop, ["fields", "lanternlist", "books"]);
    expect(out).toContain("asked by the rows of shipped definitions/lanternlist/fields.csv");
    expect(out).toMatch(/such as .*; row \d+/);
  });

  it("when values are looked for, then near ones and those with a like synonym are shown", () => {
    const values = jsonLines(lexicant(shop, ["values", "merrowgate", "shade_family", "moss", "--json"]).out);
    expect(values.map(({ value }) => value)).toContain("green");
    expect(lexicant(shop, ["values", "merrowgate", "item_title"]).out).toContain("it has no list of values");
    expect(lexicant(shop, ["values", "merrowgate", "shade_famly"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('nearest: "shade_family"'),
    });
  });
});
