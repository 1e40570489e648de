import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { lexicant, read, write } from "../kit/run.js";

const definition = (layout: string): string => `channel: acorn
label: Acorn
version: "1"
languages: [en]
currencies: [GBP]
countries: [GB]
identified_by: no
groups: { model: separate, told_apart_by: title }
purposes: [full]
layouts:
${layout}`;

const fields = `field,scope,label,kind,list,need,decimals,fill
no,*,Number,text,,required,,sku
title,*,Title,text,,required,,name
cost,*,Cost,money,,required,2,price
pics,*,Pictures,url,yes,optional,,images
`;

const built = (layout: string, file: string): string => {
  const shop = emptyShop();
  write(shop, "definitions/acorn/definition.yaml", definition(layout));
  write(shop, "definitions/acorn/categories.csv", "code,parent,name\nall,,All goods\n");
  write(shop, "definitions/acorn/fields.csv", fields);
  write(
    shop,
    "goods.csv",
    "SKU,Name,Price,Image 1,Image 2,Category\nA-1,Spade,12.50 GBP,https://x.example/1,https://x.example/2,Garden\nA-2,Fork,9.00 GBP,,,House\n",
  );
  lexicant(shop, ["import", "goods.csv", "--accept"]);
  lexicant(shop, ["channels", "add", "acorn"]);
  // A channel with one category asks nobody where things go.
  const { exit, err } = lexicant(shop, ["build", "acorn"]);
  expect([exit, err]).toEqual([0, ""]);
  return read(shop, `out/acorn/${file}`);
};

describe("layouts as learned definitions have them", () => {
  it("when columns of a list bear names of their own, and one is the channel's alone, then each cell is in its place", () => {
    const text = built(
      `  - layout: t
    format: csv
    file: acorn.csv
    settings: { head: [["No.", "Front", "", "Back", "Title"]] }
    columns:
      - { name: "No.", field: no }
      - { name: Front, field: pics, item: 1 }
      - { name: column C, says: nothing }
      - { name: Back, field: pics, item: 2 }
      - { name: Title, field: title }
`,
      "acorn.csv",
    );
    expect(text).toBe(
      "No.,Front,,Back,Title\r\nA-1,https://x.example/1,,https://x.example/2,Spade\r\nA-2,,,,Fork\r\n",
    );
  });

  it("when JSON wants its listings within an object and amounts as numbers, then it gets them", () => {
    const text = built(
      `  - layout: t
    format: json
    file: acorn.json
    settings: { root: goods, amounts: numbers }
    columns: [no, { name: price.value, field: cost, part: amount }, { name: price.currency, field: cost, part: currency }]
`,
      "acorn.json",
    );
    expect(JSON.parse(text)).toEqual({
      goods: [
        { no: "A-1", price: { value: 12.5, currency: "GBP" } },
        { no: "A-2", price: { value: 9, currency: "GBP" } },
      ],
    });
  });

  it.each([
    ["{ name: Front, field: pics, item: 0 }", "from 1 to 200"],
    ["{ name: Front, field: pics, item: 1, repeat: 2 }", "not beside repeat"],
    ["{ name: Front, field: pics, at: c1 }", "the letter of a workbook's column"],
    ["{ name: Front, says: nothin }", "nothing"],
  ])("when a column is written as %s, then its fault is told", (column, message) => {
    const shop = emptyShop();
    write(
      shop,
      "definitions/acorn/definition.yaml",
      definition(`  - { layout: t, format: csv, file: a.csv, columns: [no, ${column}] }\n`),
    );
    write(shop, "definitions/acorn/categories.csv", "code,parent,name\nall,,All goods\n");
    write(shop, "definitions/acorn/fields.csv", fields);
    expect(lexicant(shop, ["fields", "acorn", "all"]).err.replace(/\s+/g, " ")).toContain(message);
  });

  it.each([
    ['{ "*": { file: ../x.xlsx } }', "a workbook in the definition's folder"],
    ['{ "*": { file: published/x.xlsx, header_row: 4, first_row: 3 } }', "stands below header_row"],
    ['{ "*": { file: published/x.xlsx, sheat: Goods } }', "settings.books.*.sheat"],
    ["[a]", "gives each branch's code"],
  ])("when a workbook's place is written as %s, then its fault is told", (books, message) => {
    const shop = emptyShop();
    write(
      shop,
      "definitions/acorn/definition.yaml",
      definition(
        `  - { layout: t, format: xlsx, file: a.xlsx, columns: [no], settings: { books: ${books} } }\n`,
      ),
    );
    write(shop, "definitions/acorn/categories.csv", "code,parent,name\nall,,All goods\n");
    write(shop, "definitions/acorn/fields.csv", fields);
    expect(lexicant(shop, ["fields", "acorn", "all"]).err.replace(/\s+/g, " ")).toContain(message);
  });
});
